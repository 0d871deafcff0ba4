package rafter.benchmarks;

import java.io.IOException;
import java.sql.Connection;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How fast the worklist and the ticket page answer at a hundred thousand tickets, a fifth of them open. */
final class PagesBench {

    private static final int WARM = 200;

    private final int port;
    private final Visitor visitor = new Visitor();

    PagesBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_pages");
        Child.migrate(database);
        try (Connection sql = Bench.connect(database)) {
            Bench.fill(sql, 100_000, 5, 3);
            System.out.println(Bench.one(sql, "select count(*) from ticket") + " tickets, "
                    + Bench.one(sql, "select count(*) from ticket where open") + " open");
        }
        List<String> profiling =
                Optional.ofNullable(System.getProperty("child")).map(List::of).orElse(List.of());
        try (Child app = Child.start(database, profiling, "--db-scheduler.enabled=false", "--rafter.intake.workers=0")
                .awaitPort()) {
            visitor.signIn();
            warm();
            for (String view : List.of("my-turn", "unowned", "open", "closed")) {
                visitor.measure("/worklist?view=" + view);
            }
            visitor.measure("/worklist/head?view=open");
            visitor.measure("/worklist/more?view=open&after=" + after("/worklist?view=open"));
            visitor.measure("/worklist/more?view=closed&after=" + after("/worklist?view=closed"));
            visitor.measure("/tickets/100500");
            System.out.println("alive: " + app.alive());
        }
    }

    private String after(String path) throws IOException, InterruptedException {
        Matcher found = Pattern.compile("after=([\\w-]+)[&\"]").matcher(visitor.get(path));
        return found.find() ? found.group(1) : "";
    }

    /** A server that has been at work for a while; the first minutes after a start are not what this measures. */
    private void warm() throws IOException, InterruptedException {
        for (int i = 0; i < WARM; i++) {
            for (String path : List.of(
                    "/worklist?view=my-turn",
                    "/worklist?view=unowned",
                    "/worklist?view=open",
                    "/worklist?view=closed",
                    "/tickets/100500")) {
                visitor.get(path);
            }
        }
    }
}

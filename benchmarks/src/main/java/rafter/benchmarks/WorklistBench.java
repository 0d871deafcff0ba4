package rafter.benchmarks;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The worklist at a million tickets, a hundred thousand of them open, and five million messages: lists, search, and a batch of 5,000. */
final class WorklistBench {

    private static final int WARM = 12;
    private static final int RUNS = 40;
    /** After so many more a server has been at work for a while with what it is asked. */
    private static final int BETWEEN = 60;

    private static final String ROWS =
            "select t.*, c.name, co.name, co.plan, tm.name, p.name from ticket t join contact c on c.id = t.contact_id "
                    + "left join company co on co.id = c.company_id left join team tm on tm.id = t.team_id left join person p on p.id = t.owner_id where ";
    private static final Map<String, String> BARE = Map.of(
            "my-turn",
                    "t.open and t.turn = 'OURS' and t.owner_id = 40 and t.next_due is not null order by t.next_due, t.number limit 31",
            "unowned",
                    "t.open and t.owner_id is null and t.next_due is not null order by t.next_due, t.number limit 31",
            "team-turn",
                    "t.open and t.team_id in (1) and t.turn = 'OURS' and t.next_due is not null order by t.next_due, t.number limit 31",
            "soon", "t.open and t.next_due <= now() + interval '4 hours' order by t.next_due, t.number limit 31",
            "waiting", "t.open and t.turn in ('CUSTOMER', 'PARTNER') order by t.turn_since, t.number limit 31",
            "open", "t.open and t.next_due is not null order by t.next_due, t.number limit 31",
            "closed", "not t.open and not t.discarded order by t.changed_at desc, t.number desc limit 31");

    private static final String TEN_COUNTS = "select "
            + String.join(
                    ", ",
                    java.util.Collections.nCopies(
                            10, "count(*) filter (where turn = 'OURS' and owner_id = 40 and next_due <= now())"))
            + " from ticket where open";

    private final int port;
    private final Visitor visitor = new Visitor();

    WorklistBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_worklist");
        Child.migrate(database);
        try (Connection sql = Bench.connect(database)) {
            long start = System.nanoTime();
            Bench.fill(sql, Integer.getInteger("tickets", 1_000_000), 10, 5);
            System.out.printf(
                    "%d tickets, %d open, %d messages, made in %d s%n",
                    Bench.one(sql, "select count(*) from ticket"),
                    Bench.one(sql, "select count(*) from ticket where open"),
                    Bench.one(sql, "select count(*) from message"),
                    (System.nanoTime() - start) / 1_000_000_000);
            try (Child app = Child.start(database, List.of("-Xmx768m"), "--rafter.intake.workers=0")
                    .awaitPort()) {
                visitor.signIn();
                warm();
                lists(sql);
                others(sql);
                batch();
                indexes(sql);
                System.out.println(app.residentMegabytes() + " MB resident");
            }
        }
    }

    /** A server that has been at work for a while; the first minutes after a start are not what this measures. */
    private void warm() throws IOException, InterruptedException {
        for (int i = 0; i < 60; i++) {
            for (String shape : List.of("cards", "lines", "grid", "lanes", "clock")) {
                visitor.get("/worklist?view=my-turn&shape=" + shape);
            }
        }
    }

    private void lists(Connection sql) throws Exception {
        for (String view : List.of("my-turn", "unowned", "team-turn", "soon", "waiting", "open", "closed")) {
            double rows = p95(() -> read(sql, ROWS + BARE.getOrDefault(view, "false")));
            double bare = rows + p95(() -> read(sql, TEN_COUNTS));
            for (String shape : view.equals("closed")
                    ? List.of("cards", "lines", "grid")
                    : List.of("cards", "lines", "grid", "lanes", "clock")) {
                String path = "/worklist?view=" + view + "&shape=" + shape;
                int[] bytes = new int[1];
                double page = p95(() -> bytes[0] = visitor.get(path).getBytes(StandardCharsets.UTF_8).length);
                System.out.printf(
                        "%-44s p95 %6.1f ms, bare rows with rails %5.1f ms, with counts %5.1f ms, factor %.1f, %d kB of HTML%n",
                        path, page, rows, bare, page / bare, bytes[0] / 1000);
            }
        }
    }

    private void others(Connection sql) throws Exception {
        String next = "/worklist/more?view=open&after=" + after();
        System.out.printf("next page of everything open             p95 %6.1f ms%n", p95(() -> visitor.get(next)));
        System.out.printf("ten counts in one pass, bare             p95 %6.1f ms%n", p95(() -> read(sql, TEN_COUNTS)));
        for (String when : List.of("the first that are opened", "a hundred later")) {
            System.out.printf(
                    "a ticket with 200 entries, %-26s p95 %6.1f ms%n", when, p95(() -> visitor.get("/tickets/100010")));
            for (int i = 0; i < BETWEEN; i++) {
                visitor.get("/tickets/100010");
            }
        }
        System.out.printf(
                "head of the list, with counts            p95 %6.1f ms%n",
                p95(() -> visitor.get("/worklist/head?view=open")));
        System.out.printf("today                                    p95 %6.1f ms%n", p95(() -> visitor.get("/today")));
        for (String words : List.of(
                "sailing 4711",
                "word77",
                "name4711",
                "request",
                "wordabq",
                "customer 4711",
                "customer4711@post",
                "zzzz")) {
            System.out.printf(
                    "search %-33s p95 %6.1f ms%n",
                    words,
                    p95(() -> visitor.get("/search/quick?q=" + URLEncoder.encode(words, StandardCharsets.UTF_8))));
        }
    }

    /** How often each index of tickets was read in all of this. */
    private static void indexes(Connection sql) throws SQLException {
        try (var statement = sql.createStatement();
                var rows = statement.executeQuery(
                        "select indexrelname, idx_scan, pg_relation_size(indexrelid) / 1048576 "
                                + "from pg_stat_user_indexes where relname in ('ticket', 'ticket_clock') order by 2, 1")) {
            while (rows.next()) {
                System.out.printf(
                        "index %-34s read %7d times, %4d MB%n", rows.getString(1), rows.getLong(2), rows.getLong(3));
            }
        }
    }

    private String after() throws IOException, InterruptedException {
        Matcher found = Pattern.compile("after=([\\w-]+)[&\"]").matcher(visitor.get("/worklist?view=open"));
        return found.find() ? found.group(1) : "";
    }

    /** Five thousand open tickets get a tag, and lose it again. */
    private void batch() throws Exception {
        var numbers = new StringBuilder();
        for (int n = 1; n <= 5000; n++) {
            numbers.append(n > 1 ? "," : "").append(100_000 + n * 10);
        }
        String form = "act=tag&tag=gale&list=view%3Dopen&numbers="
                + URLEncoder.encode(numbers.toString(), StandardCharsets.UTF_8);
        long start = System.nanoTime();
        String address = visitor.post("/batches", form);
        await(address);
        System.out.printf("a batch of 5,000 took %.1f s%n", (System.nanoTime() - start) / 1e9);
    }

    private void await(String address) throws IOException, InterruptedException {
        for (int i = 0; i < 1200 && !visitor.get(address).contains("Done."); i++) {
            Thread.sleep(100);
        }
    }

    private interface Task {
        Object run() throws Exception;
    }

    private static double p95(Task task) throws Exception {
        for (int i = 0; i < WARM; i++) {
            task.run();
        }
        double[] millis = new double[RUNS];
        for (int i = 0; i < RUNS; i++) {
            long start = System.nanoTime();
            task.run();
            millis[i] = (System.nanoTime() - start) / 1e6;
        }
        return new Millis(millis).p95();
    }

    private static int read(Connection sql, String query) throws SQLException {
        try (var statement = sql.createStatement();
                var rows = statement.executeQuery(query)) {
            int count = 0;
            while (rows.next()) {
                count++;
            }
            return count;
        }
    }
}

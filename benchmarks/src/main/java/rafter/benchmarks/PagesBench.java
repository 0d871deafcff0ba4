package rafter.benchmarks;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How fast the worklist and the ticket page answer at a hundred thousand tickets, a fifth of them open. */
final class PagesBench {

    private static final int WARM = 200;
    private static final int RUNS = 200;

    private final int port;
    private final HttpClient browser = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();

    PagesBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_pages");
        try (Child first =
                Child.start(database, List.of(), "--rafter.intake.workers=0").awaitPort()) {
            System.out.println("the schema is there");
        }
        try (Connection sql = Bench.connect(database)) {
            Bench.fill(sql, 100_000, 5, 3);
            System.out.println(Bench.one(sql, "select count(*) from ticket") + " tickets, "
                    + Bench.one(sql, "select count(*) from ticket where open") + " open");
        }
        List<String> profiling =
                Optional.ofNullable(System.getProperty("child")).map(List::of).orElse(List.of());
        try (Child app = Child.start(database, profiling, "--db-scheduler.enabled=false", "--rafter.intake.workers=0")
                .awaitPort()) {
            signIn();
            warm();
            for (String view : List.of("my-turn", "unowned", "open", "closed")) {
                measure("/worklist?view=" + view);
            }
            measure("/worklist/head?view=open");
            measure("/worklist/more?view=open&after=" + after("/worklist?view=open"));
            measure("/worklist/more?view=closed&after=" + after("/worklist?view=closed"));
            measure("/tickets/100500");
            System.out.println("alive: " + app.alive());
        }
    }

    private void signIn() throws IOException, InterruptedException {
        Matcher token = Pattern.compile("name=\"csrf\" content=\"([^\"]*)\"").matcher(get("/sign-in"));
        token.find();
        var form = "address=bench%40ternpassage.example&password=high-water-mark&_csrf=" + token.group(1);
        browser.send(
                HttpRequest.newBuilder(uri("/sign-in"))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private String after(String path) throws IOException, InterruptedException {
        Matcher found = Pattern.compile("after=([\\w-]+)[&\"]").matcher(get(path));
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
                get(path);
            }
        }
    }

    private void measure(String path) throws IOException, InterruptedException {
        double[] millis = new double[RUNS];
        int bytes = 0;
        for (int i = 0; i < RUNS; i++) {
            long start = System.nanoTime();
            bytes = get(path).length();
            millis[i] = (System.nanoTime() - start) / 1e6;
        }
        Arrays.sort(millis);
        System.out.printf(
                "%-60s p50 %5.1f ms  p95 %5.1f ms  max %5.1f ms  %d kB%n",
                path, millis[RUNS / 2], millis[RUNS * 95 / 100], millis[RUNS - 1], bytes / 1000);
    }

    private String get(String path) throws IOException, InterruptedException {
        HttpResponse<String> answer = browser.send(
                HttpRequest.newBuilder(uri(path)).header("Accept", "text/html").build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 200) {
            throw new IllegalStateException(path + " answered " + answer.statusCode());
        }
        return answer.body();
    }

    private static URI uri(String path) {
        return URI.create("http://127.0.0.1:" + Child.PORT + path);
    }
}

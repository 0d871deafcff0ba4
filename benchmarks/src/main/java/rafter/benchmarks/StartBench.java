package rafter.benchmarks;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;

/** How long the built application takes from its start to its first page. */
final class StartBench {

    private static final int RUNS = 4;

    private final int port;

    StartBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_start");
        for (int i = 0; i < RUNS; i++) {
            long start = System.nanoTime();
            try (Child app = Child.start(database, List.of()).awaitPort();
                    HttpClient browser = HttpClient.newHttpClient()) {
                var page = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + Child.PORT + "/sign-in"))
                        .build();
                int status =
                        browser.send(page, HttpResponse.BodyHandlers.ofString()).statusCode();
                System.out.printf(
                        "%s: first page (%d) after %.1f s%n",
                        i == 0 ? "empty database" : "again", status, (System.nanoTime() - start) / 1e9);
            }
        }
    }
}

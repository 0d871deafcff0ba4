package rafter.benchmarks;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Somebody who is signed in and opens pages, over loopback. */
final class Visitor {

    private static final int RUNS = 200;

    private final HttpClient browser = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();

    void signIn() throws IOException, InterruptedException {
        post("/sign-in", "address=bench%40ternpassage.example&password=high-water-mark");
    }

    /** Sends a form; the path it led to. */
    String post(String path, String form) throws IOException, InterruptedException {
        Matcher token = Pattern.compile("name=\"csrf\" content=\"([^\"]*)\"")
                .matcher(get(path.equals("/sign-in") ? path : "/worklist"));
        token.find();
        HttpResponse<String> answer = browser.send(
                HttpRequest.newBuilder(uri(path))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form + "&_csrf=" + token.group(1)))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        return answer.uri().getPath();
    }

    /** The token that forms carry. */
    String token() throws IOException, InterruptedException {
        Matcher token = Pattern.compile("name=\"csrf\" content=\"([^\"]*)\"").matcher(get("/worklist"));
        token.find();
        return token.group(1);
    }

    /** Sends a form as a script does. */
    void send(String path, String form, String token) throws IOException, InterruptedException {
        HttpResponse<String> answer = browser.send(
                HttpRequest.newBuilder(uri(path))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .header("X-CSRF-TOKEN", token)
                        .header("X-Requested-With", "fetch")
                        .POST(HttpRequest.BodyPublishers.ofString(form))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() >= 300) {
            throw new IllegalStateException(path + " answered " + answer.statusCode());
        }
    }

    /** Sends a file; the path it led to. */
    String upload(String path, String name, String content) throws IOException, InterruptedException {
        String body = "--edge\r\nContent-Disposition: form-data; name=\"_csrf\"\r\n\r\n" + token()
                + "\r\n--edge\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" + name
                + "\"\r\nContent-Type: text/csv\r\n\r\n" + content + "\r\n--edge--\r\n";
        return browser.send(
                        HttpRequest.newBuilder(uri(path))
                                .header("Content-Type", "multipart/form-data; boundary=edge")
                                .POST(HttpRequest.BodyPublishers.ofString(body))
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .uri()
                .getPath();
    }

    /** Opens each of several pages so often that the code is warm, and then says how long each takes. */
    void measure(List<String> pages, int warm) throws IOException, InterruptedException {
        for (int i = 0; i < warm; i++) {
            for (String page : pages) {
                get(page);
            }
        }
        for (String page : pages) {
            measure(page);
        }
    }

    /** Opens a page so often, and says how long it took. */
    void measure(String path) throws IOException, InterruptedException {
        double[] millis = new double[RUNS];
        int bytes = 0;
        for (int i = 0; i < RUNS; i++) {
            long start = System.nanoTime();
            bytes = get(path).length();
            millis[i] = (System.nanoTime() - start) / 1e6;
        }
        Millis took = new Millis(millis);
        System.out.printf(
                "%-60s p50 %5.1f ms  p95 %5.1f ms  max %5.1f ms  %d kB%n",
                path, took.p50(), took.p95(), took.most(), bytes / 1000);
    }

    String get(String path) throws IOException, InterruptedException {
        HttpResponse<String> answer = browser.send(
                HttpRequest.newBuilder(uri(path)).header("Accept", "*/*").build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 200) {
            throw new IllegalStateException(path + " answered " + answer.statusCode());
        }
        return answer.body();
    }

    /** What a path gives out as long as it is open. */
    java.io.InputStream stream(String path) throws IOException, InterruptedException {
        return browser.send(HttpRequest.newBuilder(uri(path)).build(), HttpResponse.BodyHandlers.ofInputStream())
                .body();
    }

    private static URI uri(String path) {
        return URI.create("http://127.0.0.1:" + Child.PORT + path);
    }
}

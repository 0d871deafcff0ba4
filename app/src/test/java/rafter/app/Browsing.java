package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A test that asks for pages as a browser without scripts does. */
public abstract class Browsing {

    protected final HttpClient browser = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();

    protected HttpResponse<String> get(String path, String... headers) throws IOException, InterruptedException {
        var request = HttpRequest.newBuilder(uri(path)).header("Accept", "text/html");
        for (int i = 0; i < headers.length; i += 2) {
            request.header(headers[i], headers[i + 1]);
        }
        return browser.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    protected HttpResponse<String> post(String path, String token, String... fields)
            throws IOException, InterruptedException {
        return browser.send(form(path, token, fields), HttpResponse.BodyHandlers.ofString());
    }

    /** A filled form, on its way. */
    protected static HttpRequest form(String path, String token, String... fields) {
        var form = new StringBuilder("_csrf=" + token);
        for (int i = 0; i < fields.length; i += 2) {
            form.append('&')
                    .append(fields[i])
                    .append('=')
                    .append(URLEncoder.encode(fields[i + 1], StandardCharsets.UTF_8));
        }
        return HttpRequest.newBuilder(uri(path))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .header("Accept", "text/html")
                .POST(HttpRequest.BodyPublishers.ofString(form.toString()))
                .build();
    }

    /** The same browser before it goes where an answer leads it. */
    protected HttpClient staying() {
        return HttpClient.newBuilder()
                .cookieHandler(browser.cookieHandler().orElseThrow())
                .build();
    }

    protected static URI uri(String path) {
        return URI.create("http://127.0.0.1:" + RunningApp.port() + path);
    }

    protected static String token(HttpResponse<String> page) {
        Matcher found = Pattern.compile("name=\"csrf\" content=\"([^\"]*)\"").matcher(page.body());
        assertThat(found.find()).isTrue();
        return found.group(1);
    }

    protected HttpResponse<String> signIn(String address, String password) throws IOException, InterruptedException {
        return post("/sign-in", token(get("/sign-in")), "address", address, "password", password);
    }
}

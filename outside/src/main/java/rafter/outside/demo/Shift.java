package rafter.outside.demo;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Colleagues who work while the demo runs, so that the floor moves: they come and go, take what they are asked to, take the next ticket, answer and
 * come into rooms. They use the application as a browser does. Whoever tries the demo is one of the others.
 */
public final class Shift {

    private static final List<String> COLLEAGUES =
            List.of("jonas@ternpassage.example", "sefa@ternpassage.example", "marta@ternpassage.example");
    private static final Duration BEAT = Duration.ofSeconds(50);
    private static final Pattern TOKEN = Pattern.compile("name=\"csrf\" content=\"([^\"]*)\"");
    private static final Pattern ASKED = Pattern.compile("data-offer=\"(room-)?(\\d+)\"");
    private static final Pattern SEEN = Pattern.compile("name=\"seen\" value=\"(\\d+)\"");
    private static final Pattern TICKET = Pattern.compile("href=\"/tickets/(\\d+)\"");
    private static final Pattern CHAT =
            Pattern.compile("data-ticket=\"(\\d+)\"[^<]*>\\s*<div[^>]*>\\s*<header class=\"ours\"");
    private static final Pattern CALL = Pattern.compile("href=\"/calls/(\\d+)\">My call");
    private static final List<String> CHATTED = List.of(
            "Let me look that up for you.",
            "I have found it. One moment, please.",
            "That is settled now. Is there anything else?",
            "I have changed it for you.");
    private static final List<String> ANSWERS = List.of(
            "I have looked it up: it is settled now, and you will find the papers in your booking.",
            "Thank you for your patience. The crew has found it; you can fetch it at the terminal.",
            "I have changed it for you. Is everything right now?");

    private final URI rafter;
    private final Random random = new Random();

    /** Of whom nobody is there yet; {@code rafter} is its address. */
    public Shift(URI rafter) {
        this.rafter = rafter;
    }

    /** Begins, each colleague on a thread of their own. */
    public void start() {
        for (String address : COLLEAGUES) {
            Thread thread = new Thread(() -> work(new Browser(rafter, address)), "shift-" + address);
            thread.setDaemon(true);
            thread.start();
        }
    }

    private void work(Browser browser) {
        while (true) {
            try {
                Thread.sleep(Duration.ofSeconds(10 + random.nextInt(20)));
                browser.signIn();
                while (browser.signedIn()) {
                    act(browser);
                    Thread.sleep(Duration.ofSeconds(15 + random.nextInt(30)));
                }
            } catch (InterruptedException e) {
                return;
            } catch (IOException | RuntimeException notNow) {
                System.err.println("The shift paused: " + notNow);
            }
        }
    }

    /** One of what they do. */
    private void act(Browser browser) throws IOException, InterruptedException {
        browser.beat();
        chat(browser);
        call(browser);
        Matcher asked = ASKED.matcher(browser.get("/offer"));
        if (asked.find()) {
            boolean takes = random.nextInt(5) > 0;
            String at = asked.group(1) == null
                    ? "/offer/" + asked.group(2) + (takes ? "/take" : "/pass")
                    : "/consults/" + asked.group(2) + (takes ? "/take" : "/decline");
            browser.post(at, Map.of("reason", takes ? "" : "I am on the telephone"));
            return;
        }
        switch (random.nextInt(6)) {
            case 0 -> browser.post("/presence", Map.of("presence", "AWAY", "reason", "a break", "taking", "true"));
            case 1, 2 -> browser.post("/floor/next", Map.of());
            case 3 -> answer(browser);
            default -> browser.post("/presence", Map.of("presence", "HERE", "taking", "true"));
        }
    }

    /** Ends a call that has gone on for a while, and is free for the next one. */
    private void call(Browser browser) throws IOException, InterruptedException {
        Matcher mine = CALL.matcher(browser.get("/calls"));
        if (mine.find() && random.nextInt(3) == 0) {
            String at = "/calls/" + mine.group(1);
            browser.post(at + "/end", Map.of());
            Thread.sleep(Duration.ofSeconds(2));
            browser.post(at + "/finish", Map.of("then", random.nextBoolean() ? "CUSTOMER" : "NOBODY"));
        }
    }

    /** Answers whoever waits for them in a chat. */
    private void chat(Browser browser) throws IOException, InterruptedException {
        Matcher waits = CHAT.matcher(browser.get("/chats"));
        while (waits.find()) {
            browser.post(
                    "/chats/" + waits.group(1) + "/say",
                    Map.of("text", CHATTED.get(random.nextInt(CHATTED.size())), "key", "shift-" + UUID.randomUUID()));
        }
    }

    private void answer(Browser browser) throws IOException, InterruptedException {
        List<String> mine = TICKET.matcher(browser.get("/worklist?view=mine"))
                .results()
                .map(found -> found.group(1))
                .distinct()
                .toList();
        if (mine.isEmpty()) {
            return;
        }
        String path = "/tickets/" + mine.get(random.nextInt(mine.size()));
        Matcher seen = SEEN.matcher(browser.get(path));
        if (seen.find()) {
            browser.post(
                    path + "/reply",
                    Map.of("html", ANSWERS.get(random.nextInt(ANSWERS.size())), "seen", seen.group(1)));
        }
    }

    /** The browser of a colleague. */
    private static final class Browser {

        private final URI rafter;
        private final String address;
        private final HttpClient client = HttpClient.newBuilder()
                .cookieHandler(new CookieManager())
                .followRedirects(HttpClient.Redirect.NORMAL)
                .connectTimeout(BEAT)
                .build();
        private String token = "";

        Browser(URI rafter, String address) {
            this.rafter = rafter;
            this.address = address;
        }

        void signIn() throws IOException, InterruptedException {
            get("/sign-in");
            post("/sign-in", Map.of("address", address, "password", Cast.PASSWORD));
            get("/today");
        }

        boolean signedIn() throws IOException, InterruptedException {
            return send(request("/presence")).statusCode() == 200;
        }

        void beat() throws IOException, InterruptedException {
            post("/presence/beat", Map.of("idle", "0"));
        }

        String get(String path) throws IOException, InterruptedException {
            String page = send(request(path)).body();
            Matcher found = TOKEN.matcher(page);
            if (found.find()) {
                token = found.group(1);
            }
            return page;
        }

        void post(String path, Map<String, String> fields) throws IOException, InterruptedException {
            var form = new StringBuilder("_csrf=" + URLEncoder.encode(token, StandardCharsets.UTF_8));
            fields.forEach((name, value) ->
                    form.append('&').append(name).append('=').append(URLEncoder.encode(value, StandardCharsets.UTF_8)));
            send(request(path)
                    .header("Content-Type", "application/x-www-form-urlencoded")
                    .POST(HttpRequest.BodyPublishers.ofString(form.toString())));
        }

        private HttpRequest.Builder request(String path) {
            return HttpRequest.newBuilder(rafter.resolve(path))
                    .header("Accept", "text/html")
                    .timeout(BEAT);
        }

        private HttpResponse<String> send(HttpRequest.Builder request) throws IOException, InterruptedException {
            return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
        }
    }
}

package rafter.outside.demo;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** People who chat while the demo runs: each says what brings them, answers the helper, and goes on as long as somebody answers. */
public final class Chatters {

    private static final int AT_ONCE = 3;
    private static final Duration LOOK = Duration.ofSeconds(4);
    private static final Duration PATIENCE = Duration.ofMinutes(20);

    private final URI rafter;
    private final Random random = new Random();
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(20)).build();

    /** Of whom nobody is there yet; {@code rafter} is its address. */
    public Chatters(URI rafter) {
        this.rafter = rafter;
    }

    /** Begins, each on a thread of their own. */
    public void start() {
        for (int i = 0; i < AT_ONCE; i++) {
            Thread thread = new Thread(this::chat, "chatter-" + i);
            thread.setDaemon(true);
            thread.start();
        }
    }

    private void chat() {
        while (true) {
            try {
                Thread.sleep(Duration.ofSeconds(40 + random.nextInt(200)));
                one(DemoChats.TALKS.get(random.nextInt(DemoChats.TALKS.size())));
            } catch (InterruptedException e) {
                return;
            } catch (IOException | RuntimeException notNow) {
                System.err.println("A chatter paused: " + notNow);
            }
        }
    }

    private void one(DemoChats.Talked talked) throws IOException, InterruptedException {
        JsonNode begun = post(
                "/panel/ferries/chats",
                Map.of("text", talked.first(), "path", talked.page(), "title", talked.title(), "language", "en"));
        if (!begun.has("token")) {
            return;
        }
        String talk = "/talk/" + begun.get("token").stringValue();
        int seen = 0;
        int told = 1;
        long until = System.nanoTime() + PATIENCE.toNanos();
        while (System.nanoTime() < until) {
            Thread.sleep(LOOK);
            JsonNode state = get(talk + "/state?after=" + seen);
            if (state.get("ended").booleanValue()) {
                return;
            }
            seen = state.get("last").intValue();
            post(talk + "/read", Map.of("seq", Integer.toString(seen)));
            for (JsonNode line : state.get("lines")) {
                String words = line.get("text").stringValue();
                if (line.get("who").stringValue().equals("HELPER")) {
                    say(talk, answer(words, talked));
                } else if (line.get("who").stringValue().equals("PERSON")
                        && told < talked.then().size()) {
                    say(talk, talked.then().get(told));
                    told += 2;
                }
            }
        }
    }

    private static String answer(String asked, DemoChats.Talked talked) {
        if (asked.contains("name")) {
            return talked.name();
        }
        if (asked.contains("booking")) {
            return talked.booking();
        }
        if (asked.contains("about")) {
            return talked.topic();
        }
        return asked.contains("mail")
                ? talked.name().toLowerCase(Locale.ROOT).replace(' ', '.') + "@seamail.example"
                : "";
    }

    private void say(String talk, String words) throws IOException, InterruptedException {
        if (!words.isEmpty()) {
            post(talk + "/typing", Map.of());
            Thread.sleep(Duration.ofSeconds(2 + random.nextInt(5)));
            post(talk + "/lines", Map.of("text", words));
        }
    }

    private JsonNode get(String path) throws IOException, InterruptedException {
        return read(HttpRequest.newBuilder(rafter.resolve(path)));
    }

    private JsonNode post(String path, Map<String, String> fields) throws IOException, InterruptedException {
        var all = new HashMap<>(fields);
        all.put("key", UUID.randomUUID().toString());
        var form = new StringBuilder();
        all.forEach((name, value) ->
                form.append('&').append(name).append('=').append(URLEncoder.encode(value, StandardCharsets.UTF_8)));
        return read(HttpRequest.newBuilder(rafter.resolve(path))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form.substring(1))));
    }

    private JsonNode read(HttpRequest.Builder request) throws IOException, InterruptedException {
        HttpResponse<String> answer =
                client.send(request.header("Accept", "application/json").build(), HttpResponse.BodyHandlers.ofString());
        return JsonMapper.shared().readTree(answer.body());
    }
}

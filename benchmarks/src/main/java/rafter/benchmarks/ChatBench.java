package rafter.benchmarks;

import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.GZIPOutputStream;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.arrival.chat.ChatSite;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Talk;
import rafter.core.chat.Site;
import rafter.core.id.PersonId;

/** Five hundred panels that are open at once on one node, with two lines a minute in each, one from either side; and how large the panel is. */
final class ChatBench {

    private static final int SESSIONS = 500;
    private static final Duration EACH = Duration.ofSeconds(60);
    private static final int ROUNDS = 4;
    private static final URI NODE = URI.create("http://127.0.0.1:" + Child.PORT);

    /** A panel: its token, and its ticket. */
    private record Session(String token, String ticket) {}

    private final int port;
    private final HttpClient client =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    private final Map<String, Long> sent = new ConcurrentHashMap<>();
    private final Queue<Double> toUs = new ConcurrentLinkedQueue<>();
    private final Queue<Double> cold = new ConcurrentLinkedQueue<>();
    private final Queue<Double> toThem = new ConcurrentLinkedQueue<>();
    private final AtomicInteger twice = new AtomicInteger();
    private final AtomicInteger refused = new AtomicInteger();

    ChatBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        for (String script : List.of("panel.js", "script/panel/talk.js", "style/panel.css")) {
            System.out.printf("%s: %.1f kB gzipped%n", script, zipped(script) / 1000.0);
        }
        String database = Bench.fresh(port, "rafter_bench_chat");
        var sessions = new ArrayList<Session>();
        try (ConfigurableApplicationContext context = RehearsalBench.context(database)) {
            var sites = context.getBean(ChatSites.class);
            long id = sites.save(
                    new ChatSite(
                            0, "Bench", "bench", List.of(new Site("https://bench.example")), Optional.empty(), "", 0),
                    new PersonId(1));
            Talk talk = context.getBean(Talk.class);
            for (int i = 0; i < SESSIONS; i++) {
                Talk.Begun begun = talk.begin(
                        sites.of(id).orElseThrow(),
                        UUID.randomUUID().toString(),
                        new Talk.First.Words("Where is crate " + i + "?"),
                        new Chats.Place("/", "Bench", "en", ""),
                        0);
                sessions.add(new Session(begun.token(), begun.chat().ticket().toString()));
            }
        }
        try (Child app =
                Child.start(database, List.of(), "--rafter.intake.workers=0").awaitPort()) {
            talk(app, sessions);
        }
    }

    private void talk(Child app, List<Session> sessions) throws Exception {
        var us = new Visitor();
        us.signIn();
        String token = us.token();
        for (Session session : sessions) {
            Thread.ofVirtual().start(() -> listen(session));
        }
        Thread.sleep(Duration.ofSeconds(10));
        System.out.println("memory with " + SESSIONS + " panels open: " + app.residentMegabytes() + " MB");
        var over = new CountDownLatch(SESSIONS);
        for (Session session : sessions) {
            Thread.ofVirtual().start(() -> {
                try {
                    chat(session, us, token);
                } catch (IOException | InterruptedException e) {
                    refused.incrementAndGet();
                } finally {
                    over.countDown();
                }
            });
        }
        over.await();
        Thread.sleep(Duration.ofSeconds(2));
        print("in the first minute after the start, either way", cold);
        print("from a customer's line to their own panel and ours", toUs);
        print("from our line to the customer's panel", toThem);
        System.out.println(
                "lines that never came: " + sent.size() + ", that came twice: " + twice + ", refused: " + refused);
        System.out.println("memory: " + app.residentMegabytes() + " MB; alive: " + app.alive());
    }

    private void chat(Session session, Visitor us, String token) throws IOException, InterruptedException {
        var random = new Random(session.ticket().hashCode());
        Thread.sleep(random.nextInt((int) EACH.toMillis() / 2));
        for (int i = 0; i < ROUNDS; i++) {
            String words = "their " + session.ticket() + " " + i;
            sent.put(words, System.nanoTime());
            send(
                    "/talk/" + session.token() + "/lines",
                    "key=" + UUID.randomUUID() + "&text=" + words.replace(' ', '+'));
            Thread.sleep(EACH.toMillis() / 2);
            String answer = "ours " + session.ticket() + " " + i;
            sent.put(answer, System.nanoTime());
            us.send(
                    "/chats/" + session.ticket() + "/say",
                    "key=" + UUID.randomUUID() + "&text=" + answer.replace(' ', '+'),
                    token);
            Thread.sleep(EACH.toMillis() / 2);
        }
    }

    private void send(String path, String form) throws IOException, InterruptedException {
        HttpResponse<String> answer = client.send(
                HttpRequest.newBuilder(NODE.resolve(path))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 200) {
            refused.incrementAndGet();
        }
    }

    private void listen(Session session) {
        try (var lines = new BufferedReader(new InputStreamReader(
                client.send(
                                HttpRequest.newBuilder(NODE.resolve("/talk/" + session.token() + "/live?after=0"))
                                        .build(),
                                HttpResponse.BodyHandlers.ofInputStream())
                        .body(),
                StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                came(line);
            }
        } catch (IOException over) {
            // The node has ended.
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void came(String line) {
        long now = System.nanoTime();
        for (String part : line.split("\"text\":\"")) {
            String words = part.split("\"", 2)[0];
            boolean theirs = words.startsWith("their ");
            if (theirs || words.startsWith("ours ")) {
                Long start = sent.remove(words);
                if (start == null) {
                    twice.incrementAndGet();
                } else {
                    // The first minute after a start Java still compiles; it is told apart.
                    (words.endsWith(" 0") ? cold : theirs ? toUs : toThem).add((now - start) / 1e6);
                }
            }
        }
    }

    private static void print(String what, Queue<Double> millis) {
        Millis took = Millis.of(millis);
        System.out.printf(
                "%s: %d, p50 %.0f ms  p95 %.0f ms  at most %.0f ms%n",
                what, took.times(), took.p50(), took.p95(), took.most());
    }

    private static int zipped(String file) throws IOException {
        var bytes = new ByteArrayOutputStream();
        try (var zip = new GZIPOutputStream(bytes)) {
            zip.write(
                    Files.readAllBytes(Path.of("app/src/main/resources/static").resolve(file)));
        }
        return bytes.size();
    }
}

package rafter.app.arrival.providers;

import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.unique;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.TeamId;
import tools.jackson.databind.json.JsonMapper;

/** A provider as its contract has it: it tells us what happened, signed, and remembers what it was told to do. */
public final class FarSide implements AutoCloseable {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** Something that it was told to do. */
    public record Asked(String verb, String path, String body) {}

    private final HttpServer server;
    private final HttpClient client = HttpClient.newHttpClient();
    private final URI rafter;
    private final List<Asked> asked = Collections.synchronizedList(new ArrayList<>());
    private final Provider provider;
    private final String secret;
    private volatile int answers = 200;
    private volatile byte[] file = new byte[] {82, 73, 70, 70, 1, 2, 3};

    /** Of a kind, for the application at an address. */
    public FarSide(Provider.Kind kind, URI rafter) throws IOException {
        this.rafter = rafter;
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            try (exchange) {
                String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
                asked.add(new Asked(
                        exchange.getRequestMethod(), exchange.getRequestURI().getPath(), body));
                boolean get = exchange.getRequestMethod().equals("GET");
                byte[] out = get && answers == 200
                        ? file
                        : "{\"words\":\"The exchange says no.\"}".getBytes(StandardCharsets.UTF_8);
                exchange.getResponseHeaders().add("Content-Type", get ? "audio/wav" : "application/json");
                exchange.sendResponseHeaders(answers, out.length);
                exchange.getResponseBody().write(out);
            }
        });
        server.start();
        Providers providers = bean(Providers.class);
        long id = providers.save(
                new Provider(
                        0,
                        kind,
                        "Far side " + unique(),
                        "far" + unique(),
                        "http://127.0.0.1:" + server.getAddress().getPort(),
                        0,
                        "",
                        Optional.empty()),
                ravi().id());
        provider = providers.of(id).orElseThrow();
        secret = providers.secret(id);
    }

    public Provider provider() {
        return provider;
    }

    /** One of our numbers or accounts there. */
    public OurLine line(String address, Set<OurLine.Wish> says, Duration after, Optional<TeamId> team) {
        OurLines lines = bean(OurLines.class);
        long id = lines.save(
                new OurLine(0, provider.id(), address, "Line " + address, team, says, after, 0), ravi().id());
        return lines.of(id).orElseThrow();
    }

    /** Something that happened, as it is told. */
    public static Map<String, Object> event(String id, String subject, Instant at, String what, Object... more) {
        var event = new HashMap<String, Object>();
        event.put("id", id);
        event.put("subject", subject);
        event.put("at", at.toString());
        event.put("what", what);
        for (int i = 0; i < more.length; i += 2) {
            event.put((String) more[i], more[i + 1]);
        }
        return event;
    }

    /** Tells it, and waits until something was made of it. */
    public void tell(List<Map<String, Object>> events) throws IOException, InterruptedException {
        int status = send(JSON.writeValueAsString(Map.of("told", events)), secret, clock().instant())
                .statusCode();
        if (status != 202) {
            throw new AssertionError("it was answered with " + status);
        }
        bean(ToldBook.class).takeAll();
    }

    /** Sends something, signed with a secret at an instant. */
    public HttpResponse<String> send(String body, String with, Instant at) throws IOException, InterruptedException {
        String time = Long.toString(at.getEpochSecond());
        return client.send(
                HttpRequest.newBuilder(rafter.resolve("/told/" + provider.word()))
                        .header("Content-Type", "application/json")
                        .header("Rafter-Time", time)
                        .header("Rafter-Signature", "hmac-sha256=" + ToldBook.signature(with, time, body))
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    public String secret() {
        return secret;
    }

    /** What it was told to do, and forgets that. */
    public List<Asked> asked() {
        var all = List.copyOf(asked);
        asked.clear();
        return all;
    }

    /** With which status it answers from now on. */
    public void answers(int status) {
        answers = status;
    }

    /** The file that it gives out. */
    public void file(byte[] content) {
        file = content;
    }

    @Override
    public void close() {
        server.stop(0);
        bean(Providers.class).remove(provider.id(), ravi().id());
    }
}

package rafter.outside;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells Rafter what happened, signed, until it is taken, as the contract of providers has it; on request twice, late and in another order, so that
 * somebody can see that it makes no difference. A stand-in: no part of Rafter.
 */
final class Teller {

    /** How what happened is told. */
    enum Manner {
        /** At once, once, in order. */
        WELL,
        /** Twice, and in any order. */
        TWICE,
        /** Not until another manner is chosen. */
        NOT
    }

    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final Duration AGAIN = Duration.ofSeconds(1);
    private static final int AT_ONCE = 200;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final URI address;
    private final String secret;
    private final Clock clock;
    private final Random random = new Random();
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(PATIENCE).build();
    private final Deque<Map<String, Object>> waiting = new ArrayDeque<>();
    private Manner manner = Manner.WELL;
    private String trouble = "";

    /** To an address, signed with what both sides know. */
    Teller(URI address, String secret, Clock clock) {
        this.address = address;
        this.secret = secret;
        this.clock = clock;
        Thread thread = new Thread(this::run, "teller-" + address.getPath());
        thread.setDaemon(true);
        thread.start();
    }

    /** Something happened just now. */
    void tell(String subject, String what, Map<String, ?> more) {
        var event = new LinkedHashMap<String, Object>();
        event.put("id", UUID.randomUUID().toString());
        event.put("subject", subject);
        event.put("at", clock.instant().toString());
        event.put("what", what);
        event.putAll(more);
        synchronized (this) {
            waiting.add(event);
            if (manner == Manner.TWICE) {
                waiting.add(event);
            }
            notifyAll();
        }
    }

    /** How it is told from now on. */
    synchronized void manner(Manner next) {
        manner = next;
        notifyAll();
    }

    synchronized Manner manner() {
        return manner;
    }

    /** How much waits to be told, and why; for the page. */
    synchronized String standing() {
        return waiting.isEmpty()
                ? "all is told"
                : waiting.size() + " wait to be told" + (trouble.isEmpty() ? "" : ": " + trouble);
    }

    private void run() {
        while (true) {
            try {
                List<Map<String, Object>> some = next();
                String problem = sent(some);
                synchronized (this) {
                    trouble = problem;
                    if (!problem.isEmpty()) {
                        some.reversed().forEach(waiting::addFirst);
                    }
                }
                if (!problem.isEmpty()) {
                    Thread.sleep(AGAIN);
                }
            } catch (InterruptedException e) {
                return;
            }
        }
    }

    private synchronized List<Map<String, Object>> next() throws InterruptedException {
        while (waiting.isEmpty() || manner == Manner.NOT) {
            wait();
        }
        var some = new ArrayList<Map<String, Object>>();
        while (!waiting.isEmpty() && some.size() < AT_ONCE) {
            some.add(waiting.removeFirst());
        }
        if (manner == Manner.TWICE) {
            Collections.shuffle(some, random);
        }
        return some;
    }

    private String sent(List<Map<String, Object>> some) throws InterruptedException {
        String body = JSON.writeValueAsString(Map.of("told", some));
        String time = Long.toString(clock.instant().getEpochSecond());
        try {
            int status = client.send(
                            HttpRequest.newBuilder(address)
                                    .timeout(PATIENCE)
                                    .header("Content-Type", "application/json")
                                    .header("Rafter-Time", time)
                                    .header("Rafter-Signature", "hmac-sha256=" + sign(time + "." + body))
                                    .POST(HttpRequest.BodyPublishers.ofString(body))
                                    .build(),
                            HttpResponse.BodyHandlers.discarding())
                    .statusCode();
            return status / 100 == 2 ? "" : "it was answered with " + status;
        } catch (IOException e) {
            return "nobody answers";
        }
    }

    /** Whether what came is signed by the other side, lately. */
    boolean signed(String time, String signature, String body) {
        if (!time.matches("\\d{1,12}")) {
            return false;
        }
        Duration away = Duration.between(Instant.ofEpochSecond(Long.parseLong(time)), clock.instant());
        return away.abs().compareTo(Duration.ofMinutes(5)) <= 0
                && MessageDigest.isEqual(
                        ("hmac-sha256=" + sign(time + "." + body)).getBytes(StandardCharsets.UTF_8),
                        signature.getBytes(StandardCharsets.UTF_8));
    }

    private String sign(String what) {
        try {
            var mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal(what.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has HmacSHA256", e);
        }
    }
}

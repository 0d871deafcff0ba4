package rafter.outside;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** Another program that rules can call: it takes calls, or refuses them, and shows what came. Not a part of Rafter. */
final class OtherProgram {

    private static final int SHOWN = 50;
    private static final String SIGNED = "hmac-sha256=";

    /**
     * A call that came.
     *
     * @param id the same when it is made again
     * @param signature as its header has it
     * @param taken whether it was accepted
     */
    record Call(Instant at, String id, String signature, String body, boolean taken) {

        /** Whether it was signed with a key. */
        boolean signedWith(String key) {
            return !key.isBlank() && signature.equals(SIGNED + sign(key, body));
        }
    }

    private final Deque<Call> calls = new ArrayDeque<>();
    private boolean refuses;

    /** Takes a call; whether it is accepted. */
    synchronized boolean call(String id, String signature, String body, Instant now) {
        calls.addFirst(new Call(now, id, signature, body, !refuses));
        while (calls.size() > SHOWN) {
            calls.removeLast();
        }
        return !refuses;
    }

    /** The last calls, the newest first. */
    synchronized List<Call> calls() {
        return List.copyOf(calls);
    }

    /** From now on calls are refused, or taken. */
    synchronized void refuse(boolean all) {
        refuses = all;
    }

    synchronized boolean refuses() {
        return refuses;
    }

    /** What the page shows for a key that somebody typed. */
    Map<String, Object> shown(String key) {
        return Map.of(
                "calls",
                calls().stream()
                        .map(call -> Map.of(
                                "at",
                                call.at().toString(),
                                "id",
                                call.id(),
                                "body",
                                call.body(),
                                "taken",
                                call.taken(),
                                "signed",
                                call.signedWith(key)))
                        .toList(),
                "refuses",
                refuses(),
                "key",
                key);
    }

    private static String sign(String key, String body) {
        try {
            var mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(key.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal(body.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has HmacSHA256", e);
        }
    }
}

package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.InternetHeaders;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import rafter.app.platform.Files;

/**
 * What tells a message from every other: what its author made, without the marks that each server on the way adds. A second
 * delivery, be it to another mailbox of ours, has the same key; another text under the same Message-ID has not.
 *
 * @param key SHA-256 over the identifying header fields and the body
 * @param messageId its Message-ID; empty when it has none
 * @param refersTo the Message-IDs that it answers
 */
record MessageKey(byte[] key, String messageId, List<String> refersTo) {

    private static final List<String> IDENTIFYING = List.of("message-id", "from", "date", "subject", "to");

    static MessageKey of(byte[] raw) {
        int bodyStart = bodyStart(raw);
        Map<String, List<String>> headers = headers(raw, bodyStart);
        MessageDigest digest = Files.newSha256();
        for (String name : IDENTIFYING) {
            String value = String.join("\n", headers.getOrDefault(name, List.of()))
                    .replaceAll("\\s+", " ")
                    .strip();
            digest.update((name + ":" + value + "\n").getBytes(StandardCharsets.UTF_8));
        }
        // A mail may be a header alone; what has none either is no mail, and is told from others by all of it.
        int from = bodyStart == raw.length && IDENTIFYING.stream().noneMatch(headers::containsKey) ? 0 : bodyStart;
        digest.update(raw, from, contentEnd(raw, from) - from);
        Optional<String> id =
                MailReader.identifiers(headers, "message-id").stream().findFirst();
        var refersTo = new ArrayList<>(MailReader.identifiers(headers, "in-reply-to"));
        refersTo.addAll(MailReader.identifiers(headers, "references"));
        return new MessageKey(
                digest.digest(),
                id.orElse(""),
                refersTo.stream().distinct().limit(50).toList());
    }

    /**
     * The key of one more message that is alike and lies in the same mailbox beside the others, having no Message-ID to be told by.
     *
     * @param nth how many such lie there already; none: this key itself
     */
    byte[] beside(int nth) {
        if (nth == 0 || !messageId.isEmpty()) {
            return key;
        }
        MessageDigest digest = Files.newSha256();
        digest.update(key);
        digest.update(Integer.toString(nth).getBytes(StandardCharsets.US_ASCII));
        return digest.digest();
    }

    /** Servers add or take blank lines at the very end. */
    private static int contentEnd(byte[] raw, int start) {
        int end = raw.length;
        while (end > start && (raw[end - 1] == '\n' || raw[end - 1] == '\r')) {
            end--;
        }
        return end;
    }

    private static Map<String, List<String>> headers(byte[] raw, int bodyStart) {
        var all = new HashMap<String, List<String>>();
        try {
            var lines = new InternetHeaders(new ByteArrayInputStream(raw, 0, bodyStart), true).getAllHeaders();
            while (lines.hasMoreElements()) {
                var header = lines.nextElement();
                String value = header.getValue() == null ? "" : MailReader.clean(header.getValue());
                all.computeIfAbsent(header.getName().toLowerCase(Locale.ROOT), n -> new ArrayList<>())
                        .add(value);
            }
        } catch (MessagingException unreadable) {
            return Map.of();
        }
        return all;
    }

    private static int bodyStart(byte[] raw) {
        for (int i = 0; i + 1 < raw.length; i++) {
            if (raw[i] == '\n' && raw[i + 1] == '\n') {
                return i + 2;
            }
            if (raw[i] == '\n' && raw[i + 1] == '\r' && i + 2 < raw.length && raw[i + 2] == '\n') {
                return i + 3;
            }
        }
        return raw.length;
    }
}

package rafter.core.text;

import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * What tells who is behind a mail.
 *
 * @param headers its header fields, names in lower case, values in order
 * @param sender the address it is from; may be empty
 * @param senderName the name that goes with it; may be empty
 * @param mediaType its media type without parameters, in lower case, such as {@code multipart/report}
 * @param statusReport the machine-readable part of a delivery report (RFC 3464); empty when there is none
 * @param receipt whether a part of it reports that a mail was read or arrived (RFC 8098)
 * @param text its words, or their beginning
 */
public record MailSigns(
        Map<String, List<String>> headers,
        String sender,
        String senderName,
        String mediaType,
        String statusReport,
        boolean receipt,
        String text) {

    /** The signs of a mail without parts. */
    public static MailSigns plain(Map<String, List<String>> headers, String sender, String text) {
        return new MailSigns(headers, sender, "", "text/plain", "", false, text);
    }

    /** The first value of a header field, without blanks around it, in lower case; empty when there is none. */
    String first(String name) {
        return headers.getOrDefault(name, List.of()).stream()
                .findFirst()
                .map(value -> value.strip().toLowerCase(Locale.ROOT))
                .orElse("");
    }

    boolean has(String name) {
        return headers.containsKey(name);
    }

    /** Whether it came with an empty return path: its sender wants no answer of any machine (RFC 5321, 4.5.5). */
    public boolean nullReturnPath() {
        return headers.getOrDefault("return-path", List.of()).stream()
                .anyMatch(path -> path.replaceAll("[\\s<>]", "").isEmpty() && path.contains("<"));
    }

    /** Whether its sender asked that no machine answer it. */
    public boolean wantsNoAutomaticAnswer() {
        String suppress = first("x-auto-response-suppress");
        return nullReturnPath()
                || List.of(suppress.split("[,;\\s]+")).stream()
                        .anyMatch(word -> List.of("all", "oof", "autoreply").contains(word));
    }
}

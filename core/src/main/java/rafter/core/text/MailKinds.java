package rafter.core.text;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Tells machines from people by the headers of a mail.
 *
 * <p>Sources: RFC 3834 (Auto-Submitted, and which mails never to answer), RFC 3464 (delivery reports), RFC 2919 and 2369
 * (List-Id and its kin), and the habits of senders older than these (Precedence, X-Auto-Response-Suppress, X-Autoreply).
 */
public final class MailKinds {

    private static final Set<String> LIST_HEADERS =
            Set.of("list-id", "list-unsubscribe", "list-post", "list-help", "mailing-list");
    private static final Set<String> REPLY_HEADERS = Set.of("x-autoreply", "x-autorespond", "x-auto-reply-from");
    private static final Pattern REPLY_SUBJECT = Pattern.compile(
            "^(auto(matic(ally)?)?[ -]?(reply|response|generated reply)|out of (the )?office|autosvar|automatisk svar"
                    + "|automatische antwort|abwesenheitsnotiz|réponse automatique|respuesta automática)\\b.*",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern MACHINE_SENDER =
            Pattern.compile("^(mailer-daemon|postmaster|bounces?|no-?reply-?bounce)(\\+.*)?@.*", Pattern.CASE_INSENSITIVE);

    private MailKinds() {}

    /**
     * Classifies one mail.
     *
     * @param headers its header fields, names in lower case, values in order
     * @param sender the address it is from; may be empty
     * @param mediaType its media type without parameters, in lower case, such as {@code multipart/report}
     * @param deliveryReport whether a part of it is a delivery report
     */
    public static MailKind of(Map<String, List<String>> headers, String sender, String mediaType, boolean deliveryReport) {
        if (deliveryReport || isBounce(headers, sender, mediaType)) {
            return MailKind.BOUNCE;
        }
        if (isAutoReply(headers)) {
            return MailKind.AUTO_REPLY;
        }
        if (headers.keySet().stream().anyMatch(LIST_HEADERS::contains)
                || hasToken(headers, "precedence", "list", "bulk", "junk")) {
            return MailKind.LIST;
        }
        String submitted = first(headers, "auto-submitted");
        if (!submitted.isEmpty() && !submitted.equals("no")) {
            return MailKind.AUTO_GENERATED;
        }
        return MACHINE_SENDER.matcher(sender).matches() ? MailKind.AUTO_GENERATED : MailKind.PERSON;
    }

    private static boolean isBounce(Map<String, List<String>> headers, String sender, String mediaType) {
        boolean nullPath = headers.getOrDefault("return-path", List.of()).stream()
                .anyMatch(path -> path.replaceAll("\\s", "").equals("<>"));
        boolean daemon = sender.toLowerCase(Locale.ROOT).startsWith("mailer-daemon@");
        return mediaType.equals("multipart/report") && (nullPath || daemon) || daemon && isFailure(headers);
    }

    private static boolean isFailure(Map<String, List<String>> headers) {
        String subject = first(headers, "subject");
        return headers.containsKey("x-failed-recipients")
                || subject.contains("undeliver")
                || subject.contains("delivery")
                || subject.contains("returned");
    }

    private static boolean isAutoReply(Map<String, List<String>> headers) {
        if (first(headers, "auto-submitted").startsWith("auto-replied")
                || REPLY_HEADERS.stream().anyMatch(headers::containsKey)
                || hasToken(headers, "precedence", "auto_reply")) {
            return true;
        }
        return REPLY_SUBJECT.matcher(first(headers, "subject").strip()).matches();
    }

    private static boolean hasToken(Map<String, List<String>> headers, String name, String... tokens) {
        String value = first(headers, name);
        return List.of(tokens).contains(value);
    }

    private static String first(Map<String, List<String>> headers, String name) {
        return headers.getOrDefault(name, List.of()).stream()
                .findFirst()
                .map(value -> value.strip().toLowerCase(Locale.ROOT))
                .orElse("");
    }
}

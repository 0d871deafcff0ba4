package rafter.core.text;

import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Tells machines from people by the headers of a mail.
 *
 * <p>Sources: RFC 3834 (Auto-Submitted, and which mails never to answer), RFC 3464 (delivery reports), RFC 8098 (receipts), RFC 2919 and
 * 2369 (List-Id and its kin), and the habits of senders older than these (Precedence, X-Auto-Response-Suppress, X-Autoreply). The words of a
 * subject alone never decide: people write "out of office hours", too.
 */
public final class MailKinds {

    private static final Set<String> LIST_HEADERS =
            Set.of("list-id", "list-unsubscribe", "list-post", "list-help", "mailing-list");
    private static final Set<String> REPLY_HEADERS = Set.of("x-autoreply", "x-autorespond", "x-auto-reply-from");
    private static final Pattern REPLY_SUBJECT = Pattern.compile(
            "^(auto(matic(ally)?)?[ -]?(reply|response|generated reply)|out of (the )?office|autosvar|automatisk svar|automatiskt svar|fravær"
                    + "|automatische antwort|abwesenheitsnotiz|réponse automatique|respuesta automática|resposta automática|risposta automatica"
                    + "|automatisch antwoord|afwezigheid|automaattinen vastaus|odpowiedź automatyczna|autoodpowiedź)(?![\\p{L}\\p{N}]).*",
            Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    private static final Pattern MACHINE_SENDER = Pattern.compile(
            "(mailer-?daemon|postmaster|bounces?|no-?reply-?bounce)(\\+.*)?@.*", Pattern.CASE_INSENSITIVE);

    private MailKinds() {}

    /** Classifies one mail. */
    public static MailKind of(MailSigns signs) {
        if (Bounces.read(signs).isPresent()) {
            return MailKind.BOUNCE;
        }
        if (isAutoReply(signs)) {
            return MailKind.AUTO_REPLY;
        }
        if (LIST_HEADERS.stream().anyMatch(signs::has) || hasToken(signs, "precedence", "list", "bulk", "junk")) {
            return MailKind.LIST;
        }
        String submitted = signs.first("auto-submitted");
        boolean generated = !submitted.isEmpty() && !submitted.equals("no");
        boolean machine = generated
                || signs.receipt()
                || !signs.statusReport().isEmpty()
                || signs.nullReturnPath()
                || MACHINE_SENDER.matcher(signs.sender()).matches();
        return machine ? MailKind.AUTO_GENERATED : MailKind.PERSON;
    }

    private static boolean isAutoReply(MailSigns signs) {
        String submitted = signs.first("auto-submitted");
        if (submitted.startsWith("auto-replied")
                || REPLY_HEADERS.stream().anyMatch(signs::has)
                || hasToken(signs, "precedence", "auto_reply")) {
            return true;
        }
        boolean machine = (!submitted.isEmpty() && !submitted.equals("no"))
                || signs.wantsNoAutomaticAnswer()
                || hasToken(signs, "precedence", "bulk", "junk");
        return machine && REPLY_SUBJECT.matcher(signs.first("subject")).matches();
    }

    private static boolean hasToken(MailSigns signs, String name, String... tokens) {
        return List.of(tokens).contains(signs.first(name));
    }
}

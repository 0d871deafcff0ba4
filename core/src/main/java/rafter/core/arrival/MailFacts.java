package rafter.core.arrival;

import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.text.MailKind;

/** What can be asked of a mail before it is anything. */
public final class MailFacts {

    /** The fields that rules of arriving mail can ask about, in the order in which they are offered. */
    public static final List<KnownField> FIELDS = List.of(
            KnownField.SENDER,
            KnownField.SENDER_NAME,
            KnownField.SENDER_KNOWN,
            KnownField.SUBJECT,
            KnownField.FIRST_MESSAGE,
            KnownField.MAILBOX,
            KnownField.RECIPIENT,
            KnownField.WRITTEN_BY,
            KnownField.HEADER,
            KnownField.MAIL_SIZE,
            KnownField.MAIL_FILES,
            KnownField.JUNK_SCORE,
            KnownField.OPEN_TICKETS,
            KnownField.COMPANY,
            KnownField.PLAN);

    private MailFacts() {}

    /**
     * A mail.
     *
     * @param mailbox the address that it was fetched from
     * @param recipients every address it says it was sent or delivered to
     * @param header its header, a line each
     * @param size in bytes
     * @param files how many go along
     */
    public record Mail(
            String mailbox,
            String sender,
            String senderName,
            List<String> recipients,
            String subject,
            String text,
            String header,
            long size,
            int files,
            MailKind kind) {

        /** The part of an address after its at sign. */
        public String domain() {
            return sender.substring(sender.lastIndexOf('@') + 1).toLowerCase(Locale.ROOT);
        }
    }

    /** What is known of a mail by itself; nothing of its sender. */
    public static Facts of(Mail mail) {
        return Facts.none()
                .with(KnownField.SENDER, mail.sender())
                .with(KnownField.SENDER_NAME, mail.senderName())
                .with(KnownField.SUBJECT, mail.subject())
                .with(KnownField.FIRST_MESSAGE, mail.text())
                .with(KnownField.MAILBOX, mail.mailbox())
                .with(KnownField.RECIPIENT, mail.recipients())
                .with(KnownField.WRITTEN_BY, mail.kind().name())
                .with(KnownField.HEADER, mail.header())
                .with(KnownField.MAIL_SIZE, amount(mail.size() / 1_000))
                .with(KnownField.MAIL_FILES, amount(mail.files()));
    }

    /** What is known of a mail's sender. */
    public static Facts withSender(Facts mail, boolean known, int openTickets) {
        return mail.with(KnownField.SENDER_KNOWN, known ? "known" : "unknown")
                .with(KnownField.OPEN_TICKETS, amount(openTickets));
    }

    /** How much a mail looks like junk, of a hundred. */
    public static Facts withScore(Facts mail, int score) {
        return mail.with(KnownField.JUNK_SCORE, amount(score));
    }

    private static Fact amount(long many) {
        return new Fact.Amount(BigDecimal.valueOf(many));
    }
}

package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.arrival.sorting.Decisions;
import rafter.app.arrival.sorting.MailSource;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.core.arrival.MailFacts;
import rafter.database.tables.records.InboundRecord;

/** Mail as rules of arriving mail and learning look at it. */
@Component
class SortedMail implements MailSource, Decisions {

    private final Inbox inbox;
    private final Files files;

    SortedMail(Inbox inbox, Files files) {
        this.inbox = inbox;
        this.files = files;
    }

    /** A mail, with the words of its author alone. */
    static MailFacts.Mail of(ReadMail mail, long mailbox, String words) {
        ReadMail.Address from = mail.from().orElse(new ReadMail.Address("", ""));
        return new MailFacts.Mail(
                Long.toString(mailbox),
                from.address(),
                from.name(),
                mail.received(),
                mail.subject(),
                words,
                mail.header(),
                mail.size(),
                mail.files().size(),
                mail.kind());
    }

    @Override
    public List<Received> latest(int most) {
        return inbox.sorted(most).stream()
                .flatMap(row -> read(row.getMailboxId(), files.read(row.getRaw())).stream()
                        .map(mail -> new Received(row.getId(), row.getReceivedAt(), mail, became(row))))
                .toList();
    }

    @Override
    public Map<String, Integer> since(Instant from) {
        return inbox.decided(from);
    }

    private static String became(InboundRecord row) {
        return switch (row.getState()) {
            case "DONE" -> "ticket " + row.getTicket();
            case "ASIDE" -> "set aside";
            default -> "saved only";
        };
    }

    @Override
    public Optional<MailFacts.Mail> mail(long inbound) {
        try {
            return read(0, inbox.raw(inbound));
        } catch (Problem.NotFound gone) {
            return Optional.empty();
        }
    }

    private static Optional<MailFacts.Mail> read(long mailbox, byte[] raw) {
        try {
            ReadMail mail = MailReader.read(raw);
            return Optional.of(of(mail, mailbox, IncomingHtml.of(mail).own()));
        } catch (MessagingException | RuntimeException unreadable) {
            return Optional.empty();
        }
    }
}

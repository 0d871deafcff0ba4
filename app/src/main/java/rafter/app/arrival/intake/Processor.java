package rafter.app.arrival.intake;

import jakarta.mail.MessagingException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Files;
import rafter.app.platform.Writes;
import rafter.app.tickets.acts.Arrivals;
import rafter.core.json.NewerVersion;
import rafter.database.tables.records.InboundRecord;

/** Makes of each message that was received exactly one entry on exactly one ticket, or sets it aside. */
@Component
public class Processor {

    static final String AS_PERSON = "as a person's";

    private static final Logger LOG = LoggerFactory.getLogger(Processor.class);
    private static final int MOST_TRIES = 3;
    /** So many messages share a transaction: its cost counts, and when one fails the others are done once more. */
    private static final int AT_ONCE = 32;
    /** So long a message is left to a node that understands its ticket. */
    private static final Duration LEFT_FOR = Duration.ofMinutes(1);

    private final Inbox inbox;
    private final Writes writes;
    private final Files files;
    private final Contacts contacts;
    private final Arrivals arrivals;
    private final Likenesses likenesses;
    private final Filing filing;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Processor(
            Inbox inbox,
            Writes writes,
            Files files,
            Contacts contacts,
            Arrivals arrivals,
            Likenesses likenesses,
            Filing filing,
            TransactionTemplate transaction,
            Clock clock) {
        this.inbox = inbox;
        this.writes = writes;
        this.files = files;
        this.contacts = contacts;
        this.arrivals = arrivals;
        this.likenesses = likenesses;
        this.filing = filing;
        this.transaction = transaction;
        this.clock = clock;
    }

    /**
     * Processes a few of the messages that wait, in one transaction; when one of them fails, each in a transaction of its own.
     *
     * @return how many were dealt with; none when none waits
     */
    public int processSome() {
        try {
            return count(transaction.execute(status -> writes.gather(() -> {
                List<Opened> some =
                        inbox.claim(AT_ONCE).stream().map(Processor::opened).toList();
                foresee(some);
                some.forEach(this::process);
                return some.size();
            })));
        } catch (DataAccessResourceFailureException | TransactionException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError oneOfThem) {
            return processNext() ? 1 : 0;
        }
    }

    private static int count(@Nullable Integer value) {
        return value == null ? 0 : value;
    }

    /** Processes the next message that waits, in one transaction; false when there is none. */
    private boolean processNext() {
        var working = new long[1];
        try {
            return count(transaction.execute(status -> {
                        List<Inbox.Claimed> one = inbox.claim(1);
                        one.forEach(message -> {
                            working[0] = message.row().getId();
                            process(opened(message));
                        });
                        return one.size();
                    }))
                    > 0;
        } catch (DataAccessResourceFailureException
                | TransientDataAccessException
                | TransactionException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError e) {
            if (working[0] == 0) {
                throw e;
            }
            failed(working[0], e);
            return true;
        }
    }

    private void failed(long message, Throwable e) {
        if (e instanceof NewerVersion) {
            LOG.info("Message {} is left to a newer node: {}", message, e.getMessage());
            inbox.leave(message, clock.instant().plus(LEFT_FOR));
            return;
        }
        LOG.warn("Message {} could not be processed", message, e);
        inbox.failed(
                message,
                MOST_TRIES,
                "It could not be processed: " + e.getClass().getSimpleName() + ".",
                trace(e));
    }

    /** Processes all that wait. */
    public int processAll() {
        int count = 0;
        for (int some = processSome(); some > 0; some = processSome()) {
            count += some;
        }
        return count;
    }

    private static String trace(Throwable e) {
        var out = new StringWriter();
        e.printStackTrace(new PrintWriter(out));
        String all = out.toString();
        return all.length() > 8000 ? all.substring(0, 8000) : all;
    }

    /**
     * A message and what it says; a large one is read when it is its turn.
     *
     * @param broken why it cannot be read
     */
    private record Opened(InboundRecord row, Optional<ReadMail> mail, Optional<String> broken) {}

    private static Opened opened(Inbox.Claimed message) {
        if (message.raw().isEmpty()) {
            return new Opened(message.row(), Optional.empty(), Optional.empty());
        }
        try {
            return new Opened(
                    message.row(), Optional.of(MailReader.read(message.raw().get())), Optional.empty());
        } catch (MessagingException e) {
            return new Opened(message.row(), Optional.empty(), Optional.of(String.valueOf(e.getMessage())));
        }
    }

    /** What each of them is going to ask of the database is asked for all of them together. */
    private void foresee(List<Opened> some) {
        if (some.size() < 2) {
            return;
        }
        List<ReadMail> mails = some.stream().flatMap(one -> one.mail().stream()).toList();
        List<String> senders = mails.stream()
                .flatMap(mail -> mail.from().stream())
                .map(ReadMail.Address::address)
                .distinct()
                .toList();
        Instant earliest = some.stream()
                .map(one -> one.row().getReceivedAt())
                .min(Comparator.naturalOrder())
                .orElseThrow();
        contacts.foresee(senders);
        arrivals.foresee(
                mails.stream().flatMap(mail -> mail.messageId().stream()).toList(), senders, earliest);
        likenesses.foresee(
                some.stream()
                        .filter(one -> one.mail().isPresent())
                        .collect(Collectors.toMap(
                                one -> one.row().getId(), one -> one.mail().orElseThrow())),
                earliest);
    }

    private void process(Opened message) {
        InboundRecord row = message.row();
        Opened read = message.mail().isPresent() || message.broken().isPresent()
                ? message
                : opened(new Inbox.Claimed(row, Optional.of(files.read(row.getRaw()))));
        if (read.mail().isEmpty()) {
            inbox.finish(
                    row.getId(),
                    new Inbox.Outcome.Aside(
                            "It cannot be read as a mail.", read.broken().orElse("")),
                    "",
                    "");
            return;
        }
        ReadMail mail = read.mail().get();
        Inbox.Outcome outcome = filing.deliver(row, mail);
        inbox.finish(
                row.getId(), outcome, mail.from().map(ReadMail.Address::address).orElse(""), mail.subject());
    }
}

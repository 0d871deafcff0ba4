package rafter.app.arrival.mail;

import static rafter.database.Tables.OUTBOX;

import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jakarta.mail.Address;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.eclipse.angus.mail.smtp.SMTPSenderFailedException;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.platform.Files;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.channel.Delivery;
import rafter.database.tables.records.OutboxRecord;

/** Hands one mail of the outbox to its server. What the server does not take now is tried again, for three days. */
@Component
public class SendMail {

    static final TaskDescriptor<Void> TASK = TaskDescriptor.of("send-mail");

    private static final Logger LOG = LoggerFactory.getLogger(SendMail.class);
    private static final int AT_ONCE = 3;
    private static final Duration WHEN_BUSY = Duration.ofSeconds(2);
    private static final Duration GIVE_UP = Duration.ofDays(3);
    private static final List<Duration> WAITS = List.of(
            Duration.ofSeconds(10),
            Duration.ofSeconds(30),
            Duration.ofMinutes(1),
            Duration.ofMinutes(5),
            Duration.ofMinutes(15),
            Duration.ofMinutes(30),
            Duration.ofHours(1));

    private final Semaphore places = new Semaphore(AT_ONCE);
    private final DSLContext sql;
    private final Files files;
    private final Mailboxes mailboxes;
    private final MailConnections connections;
    private final LiveNews news;
    private final Workspaces workspaces;
    private final TransactionTemplate transaction;
    private final Clock clock;

    SendMail(
            DSLContext sql,
            Files files,
            Mailboxes mailboxes,
            MailConnections connections,
            LiveNews news,
            Workspaces workspaces,
            TransactionTemplate transaction,
            Clock clock) {
        this.sql = sql;
        this.files = files;
        this.mailboxes = mailboxes;
        this.connections = connections;
        this.news = news;
        this.workspaces = workspaces;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** The scheduled sending of one mail of the outbox. */
    static TaskInstance<Void> instance(long id) {
        return TASK.instance(Long.toString(id)).build();
    }

    /** Gives the scheduler its task. */
    @Configuration(proxyBeanMethods = false)
    static class Task {
        @Bean
        CustomTask<Void> sendMailTask(SendMail sendMail) {
            return Tasks.custom(TASK)
                    .onDeadExecutionRevive()
                    .execute((instance, context) -> sendMail.send(Long.parseLong(instance.getId()))
                            .<CompletionHandler<Void>>map(at -> (done, operations) -> operations.reschedule(done, at))
                            .orElseGet(CompletionHandler.OnCompleteRemove::new));
        }
    }

    /**
     * Sends one mail if it still waits.
     *
     * @return when to try again; nothing when it was sent, failed for good, or is no longer waiting
     */
    public Optional<Instant> send(long id) {
        OutboxRecord mail = sql.selectFrom(OUTBOX).where(OUTBOX.ID.eq(id)).fetchSingle();
        if (!mail.getState().equals(Delivery.State.QUEUED.name())) {
            return Optional.empty();
        }
        Mailbox mailbox = mailboxes.find(mail.getMailboxId()).orElseThrow();
        // A mail server that hangs holds up mail, and no other job.
        if (!places.tryAcquire()) {
            return Optional.of(clock.instant().plus(WHEN_BUSY));
        }
        try {
            return handOver(mail, mailbox);
        } finally {
            places.release();
        }
    }

    private Optional<Instant> handOver(OutboxRecord mail, Mailbox mailbox) {
        try {
            hand(mail, mailbox);
            note(mail, Delivery.State.SENT, "", Optional.empty());
            return Optional.empty();
        } catch (MessagingException e) {
            return failed(mail, mailbox, e);
        } catch (rafter.app.platform.Problem e) {
            return later(mail, e.words());
        }
    }

    private void hand(OutboxRecord mail, Mailbox mailbox) throws MessagingException {
        String marked = mailbox.plusAddressing()
                ? ReplyMark.address(
                        mailbox, mail.getTicket(), workspaces.current().secret())
                : mailbox.address();
        try {
            hand(mail, mailbox, marked);
        } catch (SMTPSenderFailedException | SMTPSendFailedException refused) {
            // Some servers take mail from the mailbox's own address only.
            if (marked.equals(mailbox.address()) || !refusesSender(refused)) {
                throw refused;
            }
            hand(mail, mailbox, mailbox.address());
        }
    }

    private static boolean refusesSender(MessagingException refused) {
        return refused instanceof SMTPSenderFailedException
                || refused.getNextException() instanceof SMTPSenderFailedException;
    }

    /**
     * Hands it over.
     *
     * @param from where reports go when it cannot be delivered; the mark of the ticket in it says to which one they belong
     */
    private void hand(OutboxRecord mail, Mailbox mailbox, String from) throws MessagingException {
        MailServer server = mailboxes.smtp(mailbox);
        Session session = connections.smtpSession(server);
        session.getProperties().put("mail.smtp.from", from);
        session.getProperties().put("mail.smtps.from", from);
        var message = new MimeMessage(session, new ByteArrayInputStream(files.read(mail.getRaw())));
        Address[] recipients = MailWriter.addresses(List.of(mail.getRecipients()));
        try (Transport transport = connections.openTransport(session, server)) {
            transport.sendMessage(message, recipients);
        }
    }

    private Optional<Instant> failed(OutboxRecord mail, Mailbox mailbox, MessagingException e) {
        if (e instanceof SendFailedException refused && isForGood(refused)) {
            note(mail, Delivery.State.FAILED, "The mail server refused it: " + detail(refused), Optional.empty());
            return Optional.empty();
        }
        return later(mail, MailConnections.inWords(e, mailbox.smtp()));
    }

    private Optional<Instant> later(OutboxRecord mail, String why) {
        Instant now = clock.instant();
        if (now.isAfter(mail.getQueuedAt().plus(GIVE_UP))) {
            note(mail, Delivery.State.FAILED, "Tried for three days. " + why, Optional.empty());
            return Optional.empty();
        }
        LOG.info("Mail {} waits: {}", mail.getRfcMessageId(), why);
        Duration wait = WAITS.get(Math.min(mail.getAttempts(), WAITS.size() - 1));
        Instant next = now.plus(wait);
        note(mail, Delivery.State.QUEUED, why, Optional.of(next));
        return Optional.of(next);
    }

    /** A refusal that starts with 5 will not change (RFC 5321, 4.2.1). */
    private static boolean isForGood(SendFailedException e) {
        for (Exception at = e; at != null; at = at instanceof MessagingException m ? m.getNextException() : null) {
            if ((at instanceof SMTPAddressFailedException a && a.getReturnCode() >= 500)
                    || (at instanceof SMTPSendFailedException s && s.getReturnCode() >= 500)) {
                return true;
            }
        }
        return false;
    }

    private static String detail(SendFailedException e) {
        String words = String.valueOf(e.getMessage());
        Exception next = e.getNextException();
        return next == null ? words : next.getMessage() + " (" + Arrays.toString(e.getInvalidAddresses()) + ")";
    }

    private void note(OutboxRecord mail, Delivery.State state, String reason, Optional<Instant> nextAt) {
        transaction.executeWithoutResult(status -> {
            var update = sql.update(OUTBOX)
                    .set(OUTBOX.STATE, state.name())
                    .set(OUTBOX.ATTEMPTS, OUTBOX.ATTEMPTS.plus(1))
                    .set(OUTBOX.REASON, reason)
                    .set(OUTBOX.NEXT_AT, nextAt.orElse(mail.getNextAt()));
            if (state == Delivery.State.SENT) {
                update = update.set(OUTBOX.SENT_AT, clock.instant());
            }
            update.where(OUTBOX.ID.eq(mail.getId())).execute();
            news.ticketChanged(mail.getTicket());
        });
    }
}

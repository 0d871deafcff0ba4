package rafter.app.arrival.mail;

import static rafter.database.Tables.OUTBOX;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Files;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Secrets;
import rafter.app.platform.Workspaces;
import rafter.app.platform.Writes;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** Mail on its way out: put here in the transaction that causes it, gone from here once the outside has taken it. */
@Component
public class Outbox {

    private static final Writes.Form PUT = Writes.insert(
            Writes.Stage.DEPENDENTS,
            OUTBOX,
            OUTBOX.ID,
            OUTBOX.MESSAGE_ID,
            OUTBOX.TICKET,
            OUTBOX.MAILBOX_ID,
            OUTBOX.RAW,
            OUTBOX.RFC_MESSAGE_ID,
            OUTBOX.RECIPIENTS,
            OUTBOX.QUEUED_AT,
            OUTBOX.NEXT_AT);

    private final DSLContext sql;
    private final Writes writes;
    private final Mailboxes mailboxes;
    private final Files files;
    private final Secrets secrets;
    private final Workspaces workspaces;
    private final LiveNews news;
    private final ObjectProvider<SchedulerClient> scheduler;
    private final Guard guard;

    Outbox(
            DSLContext sql,
            Writes writes,
            Mailboxes mailboxes,
            Files files,
            Secrets secrets,
            Workspaces workspaces,
            LiveNews news,
            ObjectProvider<SchedulerClient> scheduler,
            Guard guard) {
        this.mailboxes = mailboxes;
        this.guard = guard;
        this.sql = sql;
        this.writes = writes;
        this.files = files;
        this.secrets = secrets;
        this.workspaces = workspaces;
        this.news = news;
        this.scheduler = scheduler;
    }

    /** A Message-ID for a mail of a ticket, that nobody can guess. */
    public String newMessageId(TicketNumber ticket, String address) {
        return "<t" + ticket + "." + secrets.randomWord(10) + "@" + address.substring(address.indexOf('@') + 1) + ">";
    }

    /** Puts a mail into the outbox of the running transaction; it leaves as soon as that commits. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void put(Outgoing mail) {
        Mailbox mailbox = mailboxes.settings(mail.from().id()).orElseThrow();
        String replyTo = mailbox.plusAddressing()
                ? ReplyMark.address(mailbox, mail.ticket(), workspaces.current().secret())
                : mailbox.address();
        byte[] raw = files.keep(MailWriter.write(mail, replyTo));
        var recipients = new ArrayList<>(mail.to());
        recipients.addAll(mail.copies());
        recipients.addAll(mail.blind());
        long id = writes.number(OUTBOX);
        writes.write(
                PUT,
                id,
                mail.entry().orElse(null),
                mail.ticket(),
                mailbox.id(),
                raw,
                mail.identity(),
                recipients.toArray(new String[0]),
                mail.at(),
                mail.at());
        schedule(id, mail.at());
    }

    private void schedule(long id, Instant at) {
        scheduler.ifAvailable(client -> client.scheduleIfNotExists(SendMail.instance(id), at));
    }

    /** How the mails behind these entries stand. */
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> messages) {
        return sql.selectFrom(OUTBOX)
                .where(OUTBOX.MESSAGE_ID.in(messages))
                .fetchMap(
                        OUTBOX.MESSAGE_ID,
                        r -> new Delivery(
                                r.getId(),
                                Delivery.State.valueOf(r.getState()),
                                r.getAttempts(),
                                r.getReason(),
                                r.getNextAt(),
                                Optional.ofNullable(r.getSentAt())));
    }

    /** The one ticket whose mail went to any of these addresses since a time; nothing when there are none or several. */
    public Optional<TicketNumber> ticketSentTo(List<String> addresses, Instant since) {
        if (addresses.isEmpty()) {
            return Optional.empty();
        }
        List<TicketNumber> tickets = sql.selectDistinct(OUTBOX.TICKET)
                .from(OUTBOX)
                .where(OUTBOX.QUEUED_AT.gt(since))
                .and(DSL.condition(
                        "{0} && {1}",
                        OUTBOX.RECIPIENTS, DSL.val(addresses.toArray(new String[0]), OUTBOX.RECIPIENTS.getDataType())))
                .limit(2)
                .fetch(OUTBOX.TICKET);
        return tickets.size() == 1 ? Optional.of(tickets.getFirst()) : Optional.empty();
    }

    /** Tries a mail again at once that failed or waits. */
    @Transactional
    public void retry(long id, Instant now, PersonId by) {
        guard.work(by);
        var row = sql.selectFrom(OUTBOX)
                .where(OUTBOX.ID.eq(id))
                .and(OUTBOX.STATE.ne("SENT"))
                .forUpdate()
                .fetchOptional();
        row.ifPresent(outbox -> {
            sql.update(OUTBOX)
                    .set(OUTBOX.STATE, Delivery.State.QUEUED.name())
                    .set(OUTBOX.NEXT_AT, now)
                    .where(OUTBOX.ID.eq(id))
                    .execute();
            scheduler.ifAvailable(client -> {
                var instance = SendMail.instance(id);
                if (!client.reschedule(instance, now)) {
                    client.scheduleIfNotExists(instance, now);
                }
            });
            news.ticketChanged(outbox.getTicket());
        });
    }

    /** The ids of all mails that wait, oldest first. */
    public List<Long> queued() {
        return sql.select(OUTBOX.ID)
                .from(OUTBOX)
                .where(OUTBOX.STATE.eq("QUEUED"))
                .orderBy(OUTBOX.ID)
                .fetch(OUTBOX.ID);
    }
}

package rafter.app.tickets.outside;

import static rafter.database.Tables.OUTSIDE_THREAD;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Writes;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.database.tables.records.OutsideThreadRecord;

/** Letters to third parties that Rafter writes by a standing instruction, on tickets that are held. */
@Component
public class LettersOutside {

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final Post post;
    private final Reminders reminders;
    private final Channels channels;

    LettersOutside(
            DSLContext sql, Writes writes, TicketStore store, Post post, Reminders reminders, Channels channels) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.post = post;
        this.reminders = reminders;
        this.channels = channels;
    }

    /**
     * Writes to an address; a second letter to it goes on where the first one began.
     *
     * @return the ticket after it
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public TicketStore.Held write(TicketStore.Held held, String address, String subject, String text, Instant now) {
        writes.settle(List.of(held.number()));
        Optional<OutsideThreadRecord> there = threads(held).stream()
                .filter(row -> Arrays.asList(row.getAddresses()).equals(List.of(address)))
                .findFirst();
        long thread =
                there.map(OutsideThreadRecord::getId).orElseGet(() -> begin(held.number(), address, subject, now));
        MessageId sent = post.send(
                held,
                thread,
                List.of(address),
                subject,
                SafeHtml.fromText(text),
                channels.letters(held.ticket().way())
                        .map(sender -> sender.ours().name())
                        .orElse("Rafter"),
                Optional.empty(),
                List.of(),
                now);
        sql.update(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.ANSWERED, false)
                .set(OUTSIDE_THREAD.WRITTEN_AT, now)
                .where(OUTSIDE_THREAD.ID.eq(thread))
                .execute();
        return store.append(held, Conduct.wroteOutside(held.ticket(), now, Actor.system(), sent, thread, false), now);
    }

    private long begin(TicketNumber number, String address, String subject, Instant now) {
        return sql.insertInto(OUTSIDE_THREAD)
                .set(OUTSIDE_THREAD.TICKET, number)
                .set(OUTSIDE_THREAD.ADDRESSES, new String[] {address})
                .set(OUTSIDE_THREAD.SUBJECT, subject)
                .set(OUTSIDE_THREAD.WRITTEN_AT, now)
                .returning(OUTSIDE_THREAD.ID)
                .fetchSingle(OUTSIDE_THREAD.ID);
    }

    private List<OutsideThreadRecord> threads(TicketStore.Held held) {
        return sql.selectFrom(OUTSIDE_THREAD)
                .where(OUTSIDE_THREAD.TICKET.eq(held.number()))
                .orderBy(OUTSIDE_THREAD.ID)
                .fetch();
    }

    /**
     * Reminds everybody who owes us an answer on a ticket.
     *
     * @param may whether an address may be written to now
     * @return the ticket after it; unchanged when there was nobody to remind
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public TicketStore.Held remind(TicketStore.Held held, Predicate<String> may, Instant now) {
        writes.settle(List.of(held.number()));
        TicketStore.Held after = held;
        for (OutsideThreadRecord row : threads(held)) {
            if (!row.getAnswered() && Arrays.stream(row.getAddresses()).allMatch(may)) {
                after = reminders.remind(after, row, now);
            }
        }
        return after;
    }
}

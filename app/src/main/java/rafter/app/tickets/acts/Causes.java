package rafter.app.tickets.acts;

import static rafter.database.Tables.RULE_CAUSE;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.util.function.SingletonSupplier;
import rafter.app.platform.Writes;
import rafter.core.id.TicketNumber;

/** What happened to tickets and waits for being read by the rules. It is written with what happened and goes with what came of it. */
@Component
public class Causes {

    /** Who reads causes, and whether they read any at all. */
    public interface Reader {
        boolean reads();
    }

    /**
     * Something that happened at once.
     *
     * @param firstSeq the number of its first event, and {@code lastSeq} of its last
     * @param came whether the ticket was created by it
     * @param step whether it is that a step of a target fired, which is no event
     */
    public record Cause(long id, TicketNumber ticket, int firstSeq, int lastSeq, boolean came, boolean step) {}

    /** After so many tries it is given up. */
    public static final int MOST_TRIES = 3;

    private static final Duration AGAIN = Duration.ofSeconds(20);
    private static final Writes.Form CAUSE = Writes.insert(
            Writes.Stage.DEPENDENTS,
            RULE_CAUSE,
            RULE_CAUSE.TICKET,
            RULE_CAUSE.FIRST_SEQ,
            RULE_CAUSE.LAST_SEQ,
            RULE_CAUSE.CAME,
            RULE_CAUSE.STEP,
            RULE_CAUSE.DUE_AT);

    private final DSLContext sql;
    private final Writes writes;
    /** Looked up when first asked for, since readers work with tickets themselves; looking each time costs more than asking. */
    private final Supplier<List<Reader>> readers;

    Causes(DSLContext sql, Writes writes, ObjectProvider<Reader> readers) {
        this.sql = sql;
        this.writes = writes;
        this.readers = SingletonSupplier.of(() -> readers.stream().toList());
    }

    /** Notes that a ticket became what it is after it. */
    void note(TicketStore.Held before, TicketStore.Held after, Instant now) {
        if (wanted()) {
            int first = before.written() + 1;
            writes.write(CAUSE, after.number(), first, after.events().size(), before.begun(), false, now);
        }
    }

    /** Notes that a step of a target fired on a ticket. */
    public void stepFired(TicketNumber number, Instant now) {
        if (wanted()) {
            writes.write(CAUSE, number, 1, 0, false, true, now);
        }
    }

    /** Whether anything is read at all. */
    boolean wanted() {
        return readers.get().stream().anyMatch(Reader::reads);
    }

    /** When the next is to be read, if any waits. */
    public Optional<Instant> next() {
        return sql.select(RULE_CAUSE.DUE_AT)
                .from(RULE_CAUSE)
                .where(understood())
                .orderBy(RULE_CAUSE.DUE_AT)
                .limit(1)
                .fetchOptional(RULE_CAUSE.DUE_AT);
    }

    /** Those of tickets that a newer version wrote to are left to a newer node. */
    private static Condition understood() {
        return DSL.exists(DSL.selectOne()
                .from(TICKET)
                .where(TICKET.NUMBER.eq(RULE_CAUSE.TICKET))
                .and(TicketStore.understood()));
    }

    /** The tickets of those that are to be read, the first come first. */
    public List<TicketNumber> waiting(Instant now, int most) {
        return sql
                .select(RULE_CAUSE.TICKET)
                .from(RULE_CAUSE)
                .where(RULE_CAUSE.DUE_AT.le(now))
                .and(understood())
                .orderBy(RULE_CAUSE.DUE_AT, RULE_CAUSE.ID)
                .limit(most)
                .fetch(RULE_CAUSE.TICKET)
                .stream()
                .distinct()
                .toList();
    }

    /** What waits of tickets that are held, in its order. */
    public Map<TicketNumber, List<Cause>> of(Collection<TicketNumber> numbers) {
        return sql.selectFrom(RULE_CAUSE)
                .where(RULE_CAUSE.TICKET.in(numbers))
                .orderBy(RULE_CAUSE.ID)
                .fetchGroups(
                        RULE_CAUSE.TICKET,
                        r -> new Cause(
                                r.getId(), r.getTicket(), r.getFirstSeq(), r.getLastSeq(), r.getCame(), r.getStep()));
    }

    /** Takes away all that waits of tickets that are held, what their reading itself added included. */
    public void read(Collection<TicketNumber> numbers) {
        sql.deleteFrom(RULE_CAUSE).where(RULE_CAUSE.TICKET.in(numbers)).execute();
    }

    /**
     * Has what could not be read be tried again, a little later.
     *
     * @return whether it is given up, for it was tried often enough
     */
    public boolean failed(TicketNumber number, Instant now) {
        sql.update(RULE_CAUSE)
                .set(RULE_CAUSE.TRIES, RULE_CAUSE.TRIES.plus((short) 1))
                .set(RULE_CAUSE.DUE_AT, now.plus(AGAIN))
                .where(RULE_CAUSE.TICKET.eq(number))
                .execute();
        return sql.deleteFrom(RULE_CAUSE)
                        .where(RULE_CAUSE.TICKET.eq(number))
                        .and(RULE_CAUSE.TRIES.ge((short) MOST_TRIES))
                        .execute()
                > 0;
    }
}

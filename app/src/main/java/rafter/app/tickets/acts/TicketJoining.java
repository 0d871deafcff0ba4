package rafter.app.tickets.acts;

import static rafter.database.Tables.PARTICIPANT;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Joins two tickets and parts them again, and keeps parts of tickets from going round in a circle. */
@Component
class TicketJoining {

    /** The lock for changing what tickets are a part of. */
    private static final long ONE_AT_A_TIME = 7_140_001L;

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;
    private final Clock clock;

    TicketJoining(DSLContext sql, TicketStore store, EntryStore entries, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.entries = entries;
        this.clock = clock;
    }

    /** A ticket and another one, held in the same order whoever asks, so that two people wait for each other and do not block. */
    public record Pair(TicketStore.Held one, TicketStore.Held other) {}

    /**
     * Holds a ticket and another one.
     *
     * @throws Problem.Invalid when they are the same
     */
    Pair hold(TicketNumber number, TicketNumber other, Viewer by) {
        if (other.equals(number)) {
            throw new Problem.Invalid("It is the ticket that the others are joined into. Nothing was changed.");
        }
        boolean before = number.compareTo(other) <= 0;
        TicketStore.Held first = store.hold(before ? number : other, by);
        TicketStore.Held second = store.hold(before ? other : number, by);
        return before ? new Pair(first, second) : new Pair(second, first);
    }

    /**
     * Joins the one ticket of a pair into the other.
     *
     * @param done what was decided for the one
     * @throws Problem.Invalid when it cannot be; nothing happens then
     */
    Acts.Outcome join(Pair pair, Act.Join join, Decision.Done done, Viewer by) {
        TicketNumber number = pair.one().number();
        Ticket other = pair.other().ticket();
        if (other.joinedInto().isPresent() || other.discarded()) {
            throw new Problem.Invalid("Ticket " + join.into()
                    + " is joined into another one itself, or in the bin. Nothing was changed.");
        }
        Instant now = clock.instant();
        store.append(pair.one(), done.events(), now);
        store.append(
                pair.other(),
                List.of(new TicketEvent.Linked(now, new Actor.Person(by.id()), number, "it was joined into this one")),
                now);
        entries.takePart(
                join.into(),
                sql.select(PARTICIPANT.ADDRESS)
                        .from(PARTICIPANT)
                        .where(PARTICIPANT.TICKET.eq(number))
                        .fetch(PARTICIPANT.ADDRESS));
        return new Acts.Outcome(true, done.undo());
    }

    /** Makes the one ticket of a pair a ticket of its own again, that was joined into the other. */
    Acts.Outcome part(Pair pair, Decision.Done done, Viewer by) {
        TicketNumber number = pair.one().number();
        Instant now = clock.instant();
        store.append(pair.one(), done.events(), now);
        store.append(
                pair.other(),
                List.of(new TicketEvent.Unlinked(
                        now, new Actor.Person(by.id()), number, "it is a ticket of its own again")),
                now);
        entries.leave(pair.other().number(), number);
        return new Acts.Outcome(true, Optional.empty());
    }

    /** A ticket is under others up to one that is under none; whoever changes that waits for others who do. */
    void insistOnNoCircle(TicketNumber number, TicketNumber parent, Viewer by) {
        sql.fetch("select pg_advisory_xact_lock({0})", DSL.inline(ONE_AT_A_TIME));
        if (!sql.fetchExists(by.tickets(), TICKET.NUMBER.eq(parent), TICKET.DISCARDED.isFalse())) {
            throw new Problem.Invalid("There is no ticket " + parent + ". Nothing was changed.");
        }
        Optional<TicketNumber> above = Optional.of(parent);
        while (above.isPresent()) {
            if (above.get().equals(number)) {
                throw new Problem.Invalid("Ticket " + parent + " is a part of " + number
                        + " already, so it cannot be the other way round as well. Nothing was changed.");
            }
            above = sql.select(TICKET.PARENT)
                    .from(TICKET)
                    .where(TICKET.NUMBER.eq(above.get()))
                    .fetchOptional(TICKET.PARENT);
        }
    }
}

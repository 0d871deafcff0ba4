package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TicketNumber;
import rafter.core.rule.RuleFacts;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Tickets as they stand, for what decides about them by standing instructions. */
@Component
public class Looks {

    /** A ticket as it stands; the transaction holds it. */
    public record Looked(TicketNumber number, Ticket ticket, Facts facts) {}

    /** Who decides something about tickets once the rules have been read for them, in the same transaction. */
    public interface After extends Causes.Reader {
        /** What it asks about customers and what they wrote. */
        Set<KnownField> asks();

        /** Decides. */
        void read(List<Looked> tickets);
    }

    private final DSLContext sql;
    private final TicketStore store;
    private final CustomerFacts customers;
    private final Targets targets;
    private final Clock clock;

    Looks(DSLContext sql, TicketStore store, CustomerFacts customers, Targets targets, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.customers = customers;
        this.targets = targets;
        this.clock = clock;
    }

    /** Holds tickets, and what is known of them. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Looked> hold(Collection<TicketNumber> numbers, Set<KnownField> asks) {
        List<TicketNumber> held = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.in(numbers))
                .and(TicketStore.understood())
                .orderBy(TICKET.NUMBER)
                .forUpdate()
                .fetch(TICKET.NUMBER);
        var asked = EnumSet.noneOf(KnownField.class);
        asked.addAll(asks);
        asked.addAll(targets.asked());
        Map<TicketNumber, TicketStore.Held> tickets = store.heldAlready(held);
        Map<TicketNumber, Facts> known = customers.customers(held, asked);
        Instant now = clock.instant();
        return held.stream()
                .flatMap(number -> Optional.ofNullable(tickets.get(number)).stream())
                .map(one -> looked(one, known.getOrDefault(one.number(), Facts.none()), now))
                .toList();
    }

    /**
     * Takes hold of a ticket that waits for somebody still. One that somebody else is changing just now is left alone: waiting for it while others
     * are held would let two wait for each other, and by then somebody may have it.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public boolean holdWaiting(TicketNumber number) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.eq(number))
                .and(TICKET.OWNER_ID.isNull())
                .and(TICKET.OPEN)
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TicketStore.understood())
                .forUpdate()
                .skipLocked()
                .fetchOptional()
                .isPresent();
    }

    private Looked looked(TicketStore.Held held, Facts customer, Instant now) {
        return new Looked(
                held.number(),
                held.ticket(),
                RuleFacts.of(customer, held.events(), held.ticket(), targets.reckon(held.events(), customer, now)));
    }

    /** The next open tickets after a number, for walking through all of them. */
    public List<TicketNumber> open(TicketNumber after, int most) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.gt(after))
                .and(TICKET.OPEN)
                .and(TicketStore.understood())
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(TICKET.NUMBER);
    }

    /** How many tickets are open. */
    public int open() {
        return sql.fetchCount(TICKET, DSL.condition(TICKET.OPEN));
    }
}

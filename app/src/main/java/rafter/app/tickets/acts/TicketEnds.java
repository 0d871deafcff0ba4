package rafter.app.tickets.acts;

import static rafter.database.Tables.PARTICIPANT;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Right;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.core.ticket.Actor;
import rafter.core.ticket.TicketEvent;

/** How a ticket ends other than by being resolved: in the bin, or as a part of another one. */
@Component
public class TicketEnds {

    /** Why a ticket is in the bin that was none. */
    public static final String NO_REQUEST = "it was no request";

    private final DSLContext sql;
    private final TicketStore store;
    private final EntryStore entries;
    private final Contacts contacts;
    private final Clock clock;

    TicketEnds(DSLContext sql, TicketStore store, EntryStore entries, Contacts contacts, Clock clock) {
        this.contacts = contacts;
        this.sql = sql;
        this.store = store;
        this.entries = entries;
        this.clock = clock;
    }

    /**
     * Puts a ticket into the bin: it was no request, or is to be deleted. It leaves all lists and figures.
     *
     * @param why in words
     */
    @Transactional
    public void discard(long number, String why, Person by) {
        Access.require(by, Right.WORK);
        TicketStore.Held held = store.hold(number);
        if (!held.ticket().discarded()) {
            act(held, new TicketEvent.Discarded(clock.instant(), new Actor.Person(by.id()), why));
        }
    }

    /**
     * Takes a ticket out of the bin; its clocks go on as though it had never been there. Was it put there as no request, its sender's mail
     * is no longer set aside, for it was a request after all.
     *
     * @throws Problem.NoRight when it was deleted, and the person may not delete
     */
    @Transactional
    public void restore(long number, Person by) {
        Access.require(by, Right.WORK);
        TicketStore.Held held = store.hold(number);
        if (held.ticket().discarded()) {
            if (wasNoRequest(held.events())) {
                contacts.wantedAgain(held.ticket().contact());
            } else {
                Access.require(by, Right.DELETE);
            }
            act(held, new TicketEvent.Restored(clock.instant(), new Actor.Person(by.id())));
        }
    }

    private static boolean wasNoRequest(List<TicketEvent> events) {
        return events.reversed().stream()
                .filter(TicketEvent.Discarded.class::isInstance)
                .findFirst()
                .filter(event -> ((TicketEvent.Discarded) event).why().equals(NO_REQUEST))
                .isPresent();
    }

    /**
     * Makes a ticket a part of another one of the same customer's side, where its conversation goes on: answers to it arrive there.
     *
     * @throws Problem.Invalid when they cannot be one
     */
    @Transactional
    public void join(long number, long into, Person by) {
        Access.require(by, Right.WORK);
        if (number == into) {
            throw new Problem.Invalid("It is the ticket that the others are joined into.");
        }
        // Always in the same order, so that two people who join the same tickets wait for each other and do not block.
        TicketStore.Held first = store.hold(Math.min(number, into));
        TicketStore.Held second = store.hold(Math.max(number, into));
        TicketStore.Held held = first.number() == number ? first : second;
        TicketStore.Held other = first.number() == number ? second : first;
        if (held.ticket().joinedInto().isPresent() || held.ticket().discarded()) {
            throw new Problem.Invalid("It is joined into another ticket already, or in the bin.");
        }
        if (other.ticket().joinedInto().isPresent() || other.ticket().discarded()) {
            throw new Problem.Invalid("Ticket " + into + " is joined into another one itself, or in the bin.");
        }
        Instant now = clock.instant();
        var who = new Actor.Person(by.id());
        act(held, new TicketEvent.Joined(now, who, into));
        act(other, new TicketEvent.Linked(now, who, number, "it was joined into this one"));
        entries.takePart(into, sql.select(PARTICIPANT.ADDRESS).from(PARTICIPANT).where(PARTICIPANT.TICKET.eq(number)).fetch(PARTICIPANT.ADDRESS));
    }

    /**
     * Makes a ticket one of its own again that had been joined into another; its clocks go on as though it had never been there. What
     * arrived for it meanwhile stays where it arrived.
     *
     * @param into the ticket that it is believed to be a part of
     * @throws Problem.Stale when it is none of that one's any more
     */
    @Transactional
    public void part(long number, long into, Person by) {
        Access.require(by, Right.WORK);
        TicketStore.Held first = store.hold(Math.min(number, into));
        TicketStore.Held second = store.hold(Math.max(number, into));
        TicketStore.Held held = first.number() == number ? first : second;
        TicketStore.Held other = first.number() == number ? second : first;
        if (!held.ticket().joinedInto().equals(OptionalLong.of(into))) {
            throw new Problem.Stale("Ticket " + number + " is no part of ticket " + into + " any more. Nothing was changed.");
        }
        Instant now = clock.instant();
        var who = new Actor.Person(by.id());
        act(held, new TicketEvent.Parted(now, who, into));
        act(other, new TicketEvent.Unlinked(now, who, number, "it is a ticket of its own again"));
        entries.leave(into, number);
    }

    private void act(TicketStore.Held held, TicketEvent event) {
        store.append(held, List.of(event), event.at());
    }
}

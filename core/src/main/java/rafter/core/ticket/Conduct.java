package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What follows from what people do: the events that an act adds to a ticket. */
public final class Conduct {

    private Conduct() {}

    /**
     * The customer's side wrote. It becomes our turn, and a resolved ticket is taken up again, unless a machine wrote.
     *
     * @param message the entry
     */
    public static List<TicketEvent> customerWrote(Ticket ticket, Instant at, Actor who, long message, boolean automatic) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.CustomerWrote(at, who, message, automatic));
        if (!automatic && ticket.turn() != Turn.OURS) {
            events.add(new TicketEvent.StateChanged(at, Actor.system(), TicketState.IN_HAND));
        }
        return events;
    }

    /**
     * A person of ours answered the customer. An unowned ticket becomes theirs; the turn becomes the one they chose.
     *
     * @param message the entry
     * @param then whose move it is now, by the sender's choice
     */
    public static List<TicketEvent> answered(Ticket ticket, Instant at, long person, long message, Turn then) {
        var who = new Actor.Person(person);
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.WeWrote(at, who, message, false));
        if (ticket.owner().isEmpty()) {
            events.add(new TicketEvent.OwnerChanged(at, who, java.util.OptionalLong.of(person)));
        }
        TicketState next = TicketState.waitingFor(then);
        if (!ticket.state().equals(next)) {
            events.add(new TicketEvent.StateChanged(at, who, next));
        }
        return events;
    }

    /** The time came at which a ticket was to come back: whoever's turn it was, it is ours now. */
    public static List<TicketEvent> broughtBack(Ticket ticket, Instant at) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.BroughtBack(at, Actor.system()));
        if (ticket.turn() != Turn.OURS) {
            events.add(new TicketEvent.StateChanged(at, Actor.system(), TicketState.IN_HAND));
        }
        return events;
    }

    /** Whether an answer of the customer's still belongs to this ticket, rather than to a new one linked to it. */
    public static boolean takesAnswers(Ticket ticket, Instant now, Duration reopenFor) {
        return takesAnswers(ticket.state(), ticket.resolvedAt(), now, reopenFor);
    }

    /**
     * As {@link #takesAnswers(Ticket, Instant, Duration)}, from a ticket's row.
     *
     * @param resolvedAt when it entered its ending state, if it is in one
     */
    public static boolean takesAnswers(
            TicketState state, java.util.Optional<Instant> resolvedAt, Instant now, Duration reopenFor) {
        if (!state.ending()) {
            return true;
        }
        return state.equals(TicketState.RESOLVED)
                && resolvedAt.map(at -> now.isBefore(at.plus(reopenFor))).orElse(false);
    }
}

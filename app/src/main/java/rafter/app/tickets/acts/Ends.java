package rafter.app.tickets.acts;

import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** What can still be done to a ticket that is in the bin or a part of another one. */
public final class Ends {

    private Ends() {}

    /**
     * Lets only tickets be answered that live.
     *
     * @throws Problem.Invalid when it is in the bin or joined; the words say where it goes on
     */
    public static void mayAnswer(TicketNumber number, Ticket ticket) {
        mayChange(number, ticket, " Nothing was sent; your text is saved.");
    }

    /**
     * Lets only tickets be changed that live.
     *
     * @throws Problem.Invalid when it is in the bin or joined; the words say where it goes on
     */
    public static void mayChange(TicketNumber number, Ticket ticket) {
        mayChange(number, ticket, " Nothing was changed.");
    }

    private static void mayChange(TicketNumber number, Ticket ticket, String kept) {
        if (ticket.joinedInto().isPresent()) {
            throw new Problem.Invalid("Ticket " + number + " goes on in ticket "
                    + ticket.joinedInto().orElseThrow() + ", which it was joined into." + kept);
        }
        if (ticket.discarded()) {
            throw new Problem.Invalid("Ticket " + number + " is in the bin. Take it out of the bin first." + kept);
        }
    }
}

package rafter.core.ticket;

import java.util.List;

/**
 * A named step of a ticket's life. Each belongs to one turn.
 *
 * @param key how events and data name it; never changes
 * @param name what people read
 * @param turn whose move it is in this state
 * @param ending whether work on the ticket is over in it
 */
public record TicketState(String key, String name, Turn turn, boolean ending) {

    public static final TicketState NEW = new TicketState("new", "New", Turn.OURS, false);
    public static final TicketState IN_HAND = new TicketState("in-hand", "In hand", Turn.OURS, false);
    public static final TicketState WITH_CUSTOMER =
            new TicketState("with-customer", "With customer", Turn.CUSTOMER, false);
    public static final TicketState WITH_PARTNER = new TicketState("with-partner", "With partner", Turn.PARTNER, false);
    public static final TicketState RESOLVED = new TicketState("resolved", "Resolved", Turn.NOBODY, true);
    public static final TicketState CLOSED = new TicketState("closed", "Closed", Turn.NOBODY, true);

    private static final List<TicketState> SHIPPED =
            List.of(NEW, IN_HAND, WITH_CUSTOMER, WITH_PARTNER, RESOLVED, CLOSED);

    /** The states that Rafter ships, in the order in which a ticket usually meets them. */
    public static List<TicketState> shipped() {
        return SHIPPED;
    }

    /** The state in which a ticket waits for the given side after we have spoken. */
    public static TicketState waitingFor(Turn turn) {
        return switch (turn) {
            case OURS -> IN_HAND;
            case CUSTOMER -> WITH_CUSTOMER;
            case PARTNER -> WITH_PARTNER;
            case NOBODY -> RESOLVED;
        };
    }
}

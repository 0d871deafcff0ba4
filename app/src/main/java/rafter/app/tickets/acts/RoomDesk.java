package rafter.app.tickets.acts;

import java.util.List;
import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;

/** What the page of a ticket knows of the rooms beside it, as consults keep them. */
public interface RoomDesk {

    /**
     * A room beside a ticket.
     *
     * @param state how it stands, in words
     * @param outcome what came of it; blank while it is open
     */
    record Room(long id, String question, String state, boolean open, String outcome) {}

    /** What rooms are asked for by as traces. */
    String TRACE = "rooms";

    /** The rooms of a ticket, the latest first. */
    List<Room> rooms(TicketNumber ticket, Viewer me);
}

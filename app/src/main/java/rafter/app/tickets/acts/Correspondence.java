package rafter.app.tickets.acts;

import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** Writes to customers, for acts that write. */
public interface Correspondence {

    /**
     * Sends an answer to the customer and those who take part.
     *
     * @param seen the number of the last public event that the writer knew of
     * @throws rafter.app.platform.Problem.Stale when something public came meanwhile; nothing is sent then
     */
    void answer(TicketNumber number, String html, Turn then, int seen, Viewer by);
}

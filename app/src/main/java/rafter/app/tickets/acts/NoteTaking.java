package rafter.app.tickets.acts;

import rafter.app.house.access.Viewer;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Writes among ourselves, for acts that write. */
public interface NoteTaking {

    /**
     * Adds the entry of a note; its event is still to be appended. What its writer is writing themselves stays as it is.
     *
     * @param ticket as it stands, with everything that happens before it
     */
    TicketEvent.NoteAdded entry(TicketNumber number, Ticket ticket, String html, Viewer by);

    /**
     * Takes a note of one's own back.
     *
     * @throws rafter.app.platform.Problem.Stale when it is somebody else's, or taken back already
     */
    void takeNoteBack(TicketNumber number, MessageId message, Viewer by);
}

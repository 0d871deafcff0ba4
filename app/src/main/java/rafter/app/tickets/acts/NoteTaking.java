package rafter.app.tickets.acts;

import rafter.app.house.access.Viewer;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;

/** Writes among ourselves, for acts that write. */
public interface NoteTaking {

    /**
     * Adds a note.
     *
     * @return the entry
     */
    MessageId note(TicketNumber number, String html, Viewer by);

    /**
     * Takes a note of one's own back.
     *
     * @throws rafter.app.platform.Problem.Stale when it is somebody else's, or taken back already
     */
    void takeNoteBack(TicketNumber number, MessageId message, Viewer by);
}

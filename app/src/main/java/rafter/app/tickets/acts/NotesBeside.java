package rafter.app.tickets.acts;

import java.time.Clock;
import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Holds tickets, and writes notes on them, for what stands beside them. */
@Component
public class NotesBeside {

    private final TicketStore store;
    private final ObjectProvider<NoteTaking> notes;
    private final Clock clock;

    NotesBeside(TicketStore store, ObjectProvider<NoteTaking> notes, Clock clock) {
        this.store = store;
        this.notes = notes;
        this.clock = clock;
    }

    /** Keeps others from changing a ticket until the transaction ends; the ticket as it stands. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Ticket hold(TicketNumber number) {
        return store.hold(number).ticket();
    }

    /**
     * Keeps others from changing a ticket until the transaction ends.
     *
     * @throws rafter.app.platform.Problem.NotFound when there is none within their reach
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Ticket hold(TicketNumber number, Viewer by) {
        return store.hold(number, by).ticket();
    }

    /** Writes a note among ourselves; what its writer is writing themselves stays as it is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public MessageId write(TicketNumber number, String html, Viewer by) {
        TicketStore.Held held = store.hold(number, by);
        TicketEvent.NoteAdded note = notes.getObject().entry(number, held.ticket(), html, by);
        store.append(held, List.of(note), clock.instant());
        return note.message();
    }

    /** Takes a note back. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void takeBack(TicketNumber number, MessageId message, Viewer by) {
        notes.getObject().takeNoteBack(number, message, by);
    }
}

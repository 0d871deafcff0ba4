package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.SafeHtml;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.TicketEvent;

/** Notes that Rafter writes by a standing instruction. */
@Component
public class RafterNotes {

    private final TicketStore store;
    private final EntryStore entries;

    RafterNotes(TicketStore store, EntryStore entries) {
        this.store = store;
        this.entries = entries;
    }

    /** Writes a note on a ticket that is held. */
    public TicketStore.Held add(TicketStore.Held held, String text, Instant now) {
        return add(held, text, List.of(), now);
    }

    /** Writes a note on a ticket, with files. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void add(TicketNumber number, String text, List<NewMessage.FileRef> files, Instant now) {
        add(store.hold(number), text, files, now);
    }

    private TicketStore.Held add(TicketStore.Held held, String text, List<NewMessage.FileRef> files, Instant now) {
        var note = new NewMessage(
                NewMessage.Kind.NOTE,
                now,
                "Rafter",
                Optional.empty(),
                Optional.empty(),
                NewMessage.Envelope.NONE,
                SafeHtml.fromText(text),
                text,
                Optional.empty(),
                "",
                files);
        MessageId id = entries.add(held.number(), held.nextSeq(), note);
        return store.append(held, List.of(new TicketEvent.NoteAdded(now, Actor.system(), id)), now);
    }
}

package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.platform.SafeHtml;
import rafter.core.id.MessageId;
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
                List.of());
        MessageId id = entries.add(held.number(), held.nextSeq(), note);
        return store.append(held, List.of(new TicketEvent.NoteAdded(now, Actor.system(), id)), now);
    }
}

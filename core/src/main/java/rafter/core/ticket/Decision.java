package rafter.core.ticket;

import java.util.List;
import java.util.Optional;

/** What follows from an act on a ticket. */
public sealed interface Decision {

    /**
     * It can be done.
     *
     * @param events what happens to the ticket; none when it is so already
     * @param undo what takes it back, as long as nobody changes the ticket in that respect
     */
    record Done(List<TicketEvent> events, Optional<Undo> undo) implements Decision {
        public Done {
            events = List.copyOf(events);
        }

        /** It is so already. */
        static Done already() {
            return new Done(List.of(), Optional.empty());
        }
    }

    /** It cannot be done; nothing happens. */
    record Refused(Why why, String words) implements Decision {}

    /**
     * What takes an act back.
     *
     * @param seen how the ticket must stand for it in that respect; see {@link Conduct#standing}
     */
    record Undo(Act act, Optional<String> seen) {}

    /** Of what kind a refusal is. */
    enum Why {
        /** It can never be done so. */
        INVALID,
        /** Somebody changed the same thing meanwhile. */
        STALE,
        /** Not everybody may do it. */
        NO_RIGHT
    }
}

package rafter.core.ticket;

import java.util.Optional;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** How a ticket stands at a moment, in what rules and promises ask about. */
public sealed interface Standing permits Ticket, Folding {

    /** The state that it is in. */
    TicketState state();

    /** How urgent it is. */
    Priority priority();

    /** Whose it is; nothing while it is nobody's. */
    Optional<PersonId> owner();

    /** The team that it is with. */
    Optional<TeamId> team();

    /** What it is about, in a word or two; blank when nobody said. */
    String topic();

    /** Its tags. */
    Set<String> tags();

    /** The channel by which answers go back. */
    String channel();

    /** Whose move it is. */
    default Turn turn() {
        return state().turn();
    }

    /** Whether work on it goes on. */
    default boolean open() {
        return !state().ending();
    }
}

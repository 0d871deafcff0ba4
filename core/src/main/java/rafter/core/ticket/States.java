package rafter.core.ticket;

import java.util.List;
import java.util.Optional;

/**
 * The states that tickets of a workspace can be in, in the order in which a ticket usually meets them. Those that Rafter ships are always
 * among them, for some acts lead into them.
 */
public record States(List<TicketState> all) {

    /**
     * @throws IllegalArgumentException when one that Rafter ships is missing, or two have the same key
     */
    public States {
        all = List.copyOf(all);
        List<String> keys = all.stream().map(TicketState::key).toList();
        if (!keys.containsAll(
                        TicketState.shipped().stream().map(TicketState::key).toList())
                || keys.stream().distinct().count() < keys.size()) {
            throw new IllegalArgumentException("these are no states to work with: " + keys);
        }
    }

    /** The state of this key. */
    public Optional<TicketState> find(String key) {
        return all.stream().filter(state -> state.key().equals(key)).findFirst();
    }

    /** What people call a state; its key when there is none of it any more. */
    public String name(String key) {
        return find(key).map(TicketState::name).orElse(key);
    }

    /** The state of a ticket, also one that is not in the catalogue any more. */
    public TicketState of(String key, Turn turn, boolean open) {
        return find(key).orElseGet(() -> new TicketState(key, key, turn, !open));
    }

    /** The states in which work goes on, or those in which it is over. */
    public List<TicketState> ending(boolean ending) {
        return all.stream().filter(state -> state.ending() == ending).toList();
    }
}

package rafter.app.work.worklist;

import java.util.Optional;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/**
 * What a ticket becomes that is laid into a lane: the field and its value, as the acts on a ticket take them; blank when nothing can
 * be laid into it.
 */
record Drop(String path, String field, String value) {

    static final Drop NOTHING = new Drop("", "", "");

    /** As a page tells it; nothing when nothing can be laid into it. */
    public Optional<String> written() {
        return path.isEmpty() ? Optional.empty() : Optional.of(path + "|" + field + "|" + value);
    }

    /** What it becomes in the lane of a group. */
    static Drop into(Grouping grouping, String key) {
        return switch (grouping) {
            case STATE -> new Drop("state", "state", key);
            case TURN ->
                new Drop(
                        "state",
                        "state",
                        TicketState.waitingFor(Turn.valueOf(key)).key());
            case PRIORITY -> new Drop("priority", "priority", key);
            case OWNER -> new Drop("owner", "owner", key);
            case TEAM -> key.isEmpty() ? NOTHING : new Drop("owner", "team", key);
            case HOLDER ->
                new Drop(
                        "owner",
                        key.startsWith(GroupSql.TEAM_KEY) ? "team" : "owner",
                        key.isEmpty() ? "" : key.substring(1));
            case TOPIC -> new Drop("topic", "topic", key);
            case DUE -> NOTHING;
        };
    }
}

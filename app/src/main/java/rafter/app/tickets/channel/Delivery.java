package rafter.app.tickets.channel;

import java.time.Instant;
import java.util.Optional;

/**
 * How a message of ours stands on its way.
 *
 * @param reason why it has not left yet, when a try failed
 * @param nextAt when it is tried next, while it waits
 */
public record Delivery(long id, State state, int attempts, String reason, Instant nextAt, Optional<Instant> sentAt) {

    /** The states of a message on its way out. */
    public enum State {
        QUEUED,
        SENT,
        FAILED,
        /** It is where they find it, and they have not looked yet. */
        WAITING,
        /** They have seen it. */
        SEEN
    }
}

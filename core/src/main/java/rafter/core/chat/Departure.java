package rafter.core.chat;

import java.time.Duration;
import java.time.Instant;
import rafter.core.ticket.Turn;

/** What becomes of a chat whose customer is gone. */
public enum Departure {
    /** They may come back; nothing happens yet. */
    STAYS,
    /** It ends; whose move it is stays as it is, and what they have not seen waits for them. */
    ENDS,
    /** It ends, and goes on by mail: they wait for an answer, or have not seen what was answered. */
    GOES_ON_BY_MAIL;

    /**
     * Decides.
     *
     * @param seen when their panel was last open
     * @param patience how long it can be closed until they count as gone
     * @param turn whose move it is
     * @param unseen whether there are words of ours that they have not seen
     * @param reachable whether a mail can be sent to them
     */
    public static Departure of(
            Instant seen, Instant now, Duration patience, Turn turn, boolean unseen, boolean reachable) {
        if (now.isBefore(seen.plus(patience))) {
            return STAYS;
        }
        boolean owed = turn == Turn.OURS || unseen;
        return owed && reachable ? GOES_ON_BY_MAIL : ENDS;
    }
}

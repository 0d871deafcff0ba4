package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import rafter.core.id.PersonId;

/**
 * A telephone call about a ticket, as somebody wrote it down.
 *
 * @param id its number on this ticket
 * @param gone whether it was taken out again
 */
public record Call(int id, Said said, boolean gone) {

    /**
     * What was written down of it.
     *
     * @param incoming whether the other side called
     * @param person who of us was on the telephone
     * @param with who was on the other end
     */
    public record Said(boolean incoming, PersonId person, Instant at, Duration length, String with, String notes) {}
}

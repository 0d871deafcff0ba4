package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.List;

/**
 * A meeting about a ticket.
 *
 * @param id its number on this ticket
 * @param version how often it was changed since it was planned, which those who are invited are told
 * @param off whether it was called off
 */
public record Meeting(int id, Plan plan, int version, boolean off) {

    /**
     * What is planned.
     *
     * @param invited the mail addresses of those who are invited
     */
    public record Plan(String title, Instant at, Duration length, String place, List<String> invited) {
        public Plan {
            invited = List.copyOf(invited);
        }
    }
}

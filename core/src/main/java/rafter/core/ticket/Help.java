package rafter.core.ticket;

import java.time.Instant;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/**
 * A part of a ticket that somebody else was asked to do. The owner stays responsible.
 *
 * @param id its number on this ticket
 * @param result how it ended; nothing: it is still wanted
 */
public record Help(int id, Wanted wanted, Instant askedAt, Actor askedBy, Optional<Result> result) {

    /**
     * What is wanted of whom.
     *
     * @param person who is asked; nothing: anybody of the team
     * @param due by when, on a clock of its own; nothing: no time was set
     */
    public record Wanted(Optional<PersonId> person, Optional<TeamId> team, String request, Optional<Instant> due) {}

    /**
     * How it ended.
     *
     * @param withdrawn whether it was not wanted any more
     */
    public record Result(Instant at, Actor by, String words, boolean withdrawn) {}

    /** Whether it is still wanted. */
    public boolean open() {
        return result.isEmpty();
    }
}

package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import rafter.core.id.TeamId;

/**
 * A step by which a queue looks further than its own teams.
 *
 * @param when after which it looks there, too
 * @param teams where
 */
public record Overflow(When when, Set<TeamId> teams) {

    public Overflow {
        teams = Set.copyOf(teams);
    }

    /** When a step is taken. */
    public sealed interface When {
        /** A ticket has waited so long. */
        record Waited(Duration time) implements When {}

        /** Nobody of the teams before it can take one. */
        record NobodyFree() implements When {}

        /** Its next target falls due within so long, or is late. */
        record DueWithin(Duration time) implements When {}
    }

    /** Whether it is taken for a ticket, given whether somebody of the teams before it could take one. */
    boolean taken(Waiting ticket, boolean somebodyFree, Instant now) {
        return switch (when) {
            case When.Waited(Duration time) -> !ticket.since().plus(time).isAfter(now);
            case When.NobodyFree nobody -> !somebodyFree;
            case When.DueWithin(Duration time) ->
                ticket.due().filter(due -> !due.minus(time).isAfter(now)).isPresent();
        };
    }
}

package rafter.core.target;

import java.time.Duration;
import java.util.Collections;
import java.util.EnumSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;

/**
 * What a policy promises for one objective.
 *
 * @param within how soon, by priority, in working time; a priority that is absent is promised nothing
 * @param held the turns in which the clock is held; nobody's turn always holds it
 * @param share how many of a hundred tickets shall meet it
 * @param automaticMeets whether an automatic message of ours, such as an acknowledgement, counts as a first reply
 */
public record Goal(Map<Priority, Duration> within, Set<Turn> held, int share, boolean automaticMeets) {

    public Goal {
        within = Map.copyOf(within);
        // Asked for each event of each ticket.
        var turns = EnumSet.noneOf(Turn.class);
        turns.addAll(held);
        held = Collections.unmodifiableSet(turns);
        if (share < 1 || share > 100) {
            throw new IllegalArgumentException("a share of tickets is between 1 and 100 of a hundred, not " + share);
        }
    }

    /** A goal for all tickets, held in the usual turns. */
    public static Goal usual(Objective objective, Map<Priority, Duration> within) {
        return new Goal(within, objective.usuallyHeld(), 100, false);
    }

    /** The working time promised, if any is. */
    public Optional<Duration> of(Priority priority) {
        return Optional.ofNullable(within.get(priority));
    }

    /** Whether time counts while this side has the turn. */
    public boolean countsIn(Turn turn) {
        return turn != Turn.NOBODY && !held.contains(turn);
    }
}

package rafter.core.target;

import java.time.Duration;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import rafter.core.ticket.Priority;

/**
 * How soon each objective is to be met, by priority, in working time. An objective or priority that is absent promises
 * nothing.
 */
public record Promise(Map<Objective, Map<Priority, Duration>> durations) {

    public Promise {
        var copy = new EnumMap<Objective, Map<Priority, Duration>>(Objective.class);
        durations.forEach((objective, byPriority) -> copy.put(objective, Map.copyOf(byPriority)));
        durations = copy;
    }

    /** The working time promised, if any is. */
    public Optional<Duration> of(Objective objective, Priority priority) {
        return Optional.ofNullable(durations.getOrDefault(objective, Map.of()).get(priority));
    }
}

package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * One run of one objective on one ticket, reckoned up to an instant.
 *
 * @param started where it began to count
 * @param segments what its life was made of, in order, without gaps
 * @param used the working time that counted
 * @param allowed the working time promised, by the priority that holds (or held at its end)
 * @param state how it stands
 * @param late whether the promise was missed, now or at its end
 * @param dueMark where the due instant lies or lay; empty while held in time, or when it never comes
 */
public record TargetClock(
        Objective objective,
        Instant started,
        List<Segment> segments,
        Duration used,
        Duration allowed,
        ClockState state,
        boolean late,
        Optional<Instant> dueMark) {

    public TargetClock {
        segments = List.copyOf(segments);
    }

    /** The working time that is left; negative by what it is over. */
    public Duration left() {
        return allowed.minus(used);
    }

    /** Whether it neither ended nor was lifted. */
    public boolean live() {
        return state instanceof ClockState.Running || state instanceof ClockState.Held;
    }
}

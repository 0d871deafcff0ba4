package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.id.PersonId;

/**
 * One run of one objective on one ticket, reckoned up to an instant.
 *
 * @param policy the policy that holds, or held at its end
 * @param started where it began to count
 * @param segments what its life was made of, in order, without gaps
 * @param changes what changed in mid-course, in order
 * @param used the working time that counted
 * @param allowed the working time promised, by the priority that holds (or held at its end)
 * @param state how it stands
 * @param late whether the promise was missed, now or at its end
 * @param dueMark where the due instant lies or lay; empty while held in time, or when it never comes
 * @param owner who owned the ticket at the end, or owns it now
 * @param reachedLate whether that person got the ticket when most of the time was used already
 * @param steps the moments of its steps that are known now, also those that have passed
 * @param riskFrom where it comes to be at risk; empty when it has ended, is held, or is never due
 * @param atRisk whether it runs, is not late, and that instant has passed
 */
public record TargetClock(
        Objective objective,
        Optional<Editions.InForce> policy,
        Instant started,
        List<Segment> segments,
        List<ClockChange> changes,
        Duration used,
        Duration allowed,
        ClockState state,
        boolean late,
        Optional<Instant> dueMark,
        Optional<PersonId> owner,
        boolean reachedLate,
        List<StepTime> steps,
        Optional<Instant> riskFrom,
        boolean atRisk) {

    /** The moment of a step. */
    public record StepTime(Step step, Instant at) {}

    /** So much of the time allowed being used, whoever gets the ticket then got it late. */
    private static final int MOSTLY_PERCENT = 75;

    public TargetClock {
        segments = List.copyOf(segments);
        changes = List.copyOf(changes);
        steps = List.copyOf(steps);
    }

    /** The working time that is left; negative by what it is over. */
    public Duration left() {
        return allowed.minus(used);
    }

    /** Whether it neither ended nor was lifted. */
    public boolean live() {
        return state instanceof ClockState.Running || state instanceof ClockState.Held;
    }

    /** Whether so much is used that whoever gets the ticket then gets it late; in nanoseconds. */
    static boolean mostlyUsed(long used, long allowed) {
        return used >= allowed / 100 * MOSTLY_PERCENT;
    }

    /** Where it ended, if it did. */
    public Optional<Instant> ended() {
        return switch (state) {
            case ClockState.Met(Instant at) -> Optional.of(at);
            case ClockState.Lifted(Instant at) -> Optional.of(at);
            case ClockState.Joined(Instant at) -> Optional.of(at);
            case ClockState.Void(Instant at) -> Optional.of(at);
            case ClockState.Running r -> Optional.empty();
            case ClockState.Held h -> Optional.empty();
        };
    }

    /** Whether it says something about how promises are kept: met, missed, or late and still running. */
    public boolean counts() {
        return state instanceof ClockState.Met
                || (late && !(state instanceof ClockState.Joined) && !(state instanceof ClockState.Void));
    }
}

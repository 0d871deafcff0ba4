package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** How a clock stands. */
public sealed interface ClockState {

    /**
     * Time counts.
     *
     * @param due the instant from which it is late; empty when the team never opens again for long enough
     */
    record Running(Optional<Instant> due) implements ClockState {}

    /**
     * Time does not count, so the due instant is unknown.
     *
     * @param left the working time that is left once it runs again; negative when it is over already
     */
    record Held(Duration left) implements ClockState {}

    /** What was promised was done. */
    record Met(Instant at) implements ClockState {}

    /** The promise no longer holds for the ticket, for a reason that is neither keeping nor missing it. */
    record Lifted(Instant at) implements ClockState {}

    /** The ticket became a part of another, whose own clocks go on. */
    record Joined(Instant at) implements ClockState {}

    /** The ticket was no request, or was deleted; it leaves all figures. */
    record Void(Instant at) implements ClockState {}
}

package rafter.core.time;

import java.time.Duration;
import java.time.Instant;

/**
 * A half-open stretch of the instant line, {@code [startInclusive, endExclusive)}.
 *
 * @param startInclusive its first instant
 * @param endExclusive the first instant after it; never before the start
 */
public record Interval(Instant startInclusive, Instant endExclusive) {

    public Interval {
        if (endExclusive.isBefore(startInclusive)) {
            throw new IllegalArgumentException("interval ends " + endExclusive + " before it starts " + startInclusive);
        }
    }

    /** Elapsed time from start to end. */
    public Duration length() {
        return Duration.between(startInclusive, endExclusive);
    }
}

package rafter.core.target;

import java.time.Duration;

/**
 * When a running clock that is not late yet is at risk: so much of its time is used, or so little is left. One meaning everywhere.
 *
 * @param percent the share of the time allowed that is used then, of a hundred
 * @param left the open time that is left then
 */
public record Risk(int percent, Duration left) {

    /** What holds where a workspace says nothing: three quarters used, or less than half an hour left. */
    public static final Risk USUAL = new Risk(75, Duration.ofMinutes(30));

    public Risk {
        if (percent < 1 || percent > 100 || left.isNegative()) {
            throw new IllegalArgumentException("no measure of risk: " + percent + " of a hundred, " + left + " left");
        }
    }

    /** How much of the time allowed is used when a clock comes to be at risk; in nanoseconds. */
    long usedAt(long allowed) {
        long share = allowed / 100 * percent;
        return Math.max(0, Math.min(share, allowed - left.toNanos() + 1));
    }
}

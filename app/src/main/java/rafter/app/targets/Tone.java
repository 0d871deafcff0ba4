package rafter.app.targets;

import java.time.Duration;
import rafter.core.target.ClockState;
import rafter.core.target.TargetClock;

/** How pressing a clock is. */
public enum Tone {
    LATE,
    SOON,
    CALM;

    private static final Duration AT_LEAST = Duration.ofMinutes(30);
    private static final Duration AT_MOST = Duration.ofHours(2);
    private static final int SHARE = 5;

    /** A live clock is soon when less than a fifth of its time is left, at least half an hour and at most two. */
    public static Tone of(TargetClock clock) {
        if (clock.late()) {
            return LATE;
        }
        if (!(clock.state() instanceof ClockState.Running)) {
            return CALM;
        }
        Duration fifth = clock.allowed().dividedBy(SHARE);
        Duration soon = fifth.compareTo(AT_LEAST) < 0 ? AT_LEAST : fifth.compareTo(AT_MOST) > 0 ? AT_MOST : fifth;
        return clock.left().compareTo(soon) < 0 ? SOON : CALM;
    }

    /** As a style names it. */
    public String css() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}

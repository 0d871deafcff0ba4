package rafter.app.promises.targets;

import rafter.core.target.TargetClock;

/** How pressing a clock is. */
public enum Tone {
    LATE,
    SOON,
    CALM;

    /** A clock is soon when it is at risk, as the workspace says what that is. */
    public static Tone of(TargetClock clock) {
        return of(clock.late(), clock.atRisk());
    }

    static Tone of(boolean late, boolean atRisk) {
        return late ? LATE : atRisk ? SOON : CALM;
    }

    /** As a style names it. */
    public String css() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}

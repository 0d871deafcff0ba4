package rafter.app.promises.targets;

import java.time.Duration;
import java.time.Instant;
import rafter.core.time.WorkingTime;

/** A time axis on which closed time is folded to a small part of its length, so that working time has room. */
public final class Axis {

    private final WorkingTime hours;
    private final Instant from;
    private final double perUnit;
    private final double closedShare;
    private final int left;

    /**
     * @param left where it begins
     * @param width how wide it is
     * @param closedShare how much of its length closed time keeps, from 0 to 1
     */
    public Axis(WorkingTime hours, Instant from, Instant to, int left, int width, double closedShare) {
        this.hours = hours;
        this.from = from;
        this.left = left;
        this.closedShare = closedShare;
        double units = units(to);
        this.perUnit = units == 0 ? 0 : width / units;
    }

    /** Where an instant lies. */
    public int x(Instant at) {
        return left + (int) Math.round(units(at) * perUnit);
    }

    private double units(Instant at) {
        Duration open = hours.between(from, at);
        Duration closed = Duration.between(from, at).minus(open);
        return open.toMillis() + closed.toMillis() * closedShare;
    }
}

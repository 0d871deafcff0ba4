package rafter.outside.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;

/** A clock that stands where the loader sets it. */
final class DemoClock extends Clock {

    private volatile Instant now;

    DemoClock(Instant start) {
        this.now = start;
    }

    void set(Instant at) {
        Instant next = at.truncatedTo(ChronoUnit.MICROS);
        now = next.isAfter(now) ? next : now;
    }

    /** Goes to an instant, also one that has passed. */
    void goTo(Instant at) {
        now = at.truncatedTo(ChronoUnit.MICROS);
    }

    @Override
    public Instant instant() {
        return now;
    }

    @Override
    public ZoneId getZone() {
        return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return this;
    }
}

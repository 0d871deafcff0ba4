package rafter.outside.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that stands where the loader sets it. */
final class DemoClock extends Clock {

    private volatile Instant now;

    DemoClock(Instant start) {
        this.now = start;
    }

    void set(Instant at) {
        now = at.isAfter(now) ? at : now;
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

package rafter.app.targets;

import java.time.ZoneId;
import rafter.core.target.Promise;
import rafter.core.time.WorkingTime;

/** What is promised, and the hours in which it counts. */
public record Terms(Promise promise, WorkingTime hours) {

    /** The zone in which people here read times. */
    public ZoneId zone() {
        return hours.calendar().zone();
    }
}

package rafter.core.target;

import java.time.Instant;
import rafter.core.time.WorkingTime;

/** Reads the calendar that was read last, for the clocks of a ticket ask for the same instants in order. Confined to one reckoning. */
final class Readings {

    private WorkingTime hours;
    private WorkingTime.Reader reader;

    Readings(WorkingTime first) {
        hours = first;
        reader = first.reader();
    }

    long at(WorkingTime asked, Instant at) {
        if (asked != hours) {
            hours = asked;
            reader = asked.reader();
        }
        return reader.at(at);
    }
}

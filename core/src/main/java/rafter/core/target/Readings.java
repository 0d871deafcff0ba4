package rafter.core.target;

import java.time.Instant;
import java.util.Optional;
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
        return reader(asked).at(at);
    }

    /** The earliest instant after one read before at which the calendar reads so much. */
    Optional<Instant> when(WorkingTime asked, Instant after, long reading) {
        WorkingTime.Reader here = reader(asked);
        here.at(after);
        return here.when(reading);
    }

    private WorkingTime.Reader reader(WorkingTime asked) {
        if (asked != hours) {
            hours = asked;
            reader = asked.reader();
        }
        return reader;
    }
}

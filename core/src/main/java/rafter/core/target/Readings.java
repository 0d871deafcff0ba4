package rafter.core.target;

import java.time.Instant;
import java.util.Optional;
import rafter.core.time.WorkingTime;

/** Remembers the last reading of a calendar, for all clocks of a ticket ask for the same instant. Confined to one reckoning. */
final class Readings {

    private record Last(WorkingTime hours, Instant at, long reading) {}

    private Optional<Last> last = Optional.empty();

    long at(WorkingTime hours, Instant at) {
        if (last.isPresent() && last.get().hours() == hours && last.get().at().equals(at)) {
            return last.get().reading();
        }
        long reading = hours.reading(at);
        last = Optional.of(new Last(hours, at, reading));
        return reading;
    }
}

package rafter.core.time;

import java.time.ZoneId;
import java.util.List;
import java.util.Optional;

/**
 * Closed dates that several calendars can share, such as the public holidays of a country.
 *
 * @param id names the set
 * @param zone the zone in which its dates begin and end; empty: that of each calendar it is ticked to
 */
public record HolidaySet(String id, String name, Optional<ZoneId> zone, List<Holiday> days) {

    public HolidaySet {
        days = days.stream()
                .sorted(java.util.Comparator.comparing(Holiday::date))
                .toList();
    }

    /** A set whose days are those of each calendar's own zone. */
    public static HolidaySet of(String id, String name, List<Holiday> days) {
        return new HolidaySet(id, name, Optional.empty(), days);
    }
}

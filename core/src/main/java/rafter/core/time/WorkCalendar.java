package rafter.core.time;

import java.time.DayOfWeek;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * When a team is open, as its administrator says it.
 *
 * <p>Open is what the openings cover, without what closings and holidays cover; an opening "even on holidays" is taken away by
 * closings only.
 *
 * @param name what the team calls it
 * @param zone the zone of all local times and dates in it that name no zone of their own
 * @param aroundTheClock open at every instant; entries and holidays then say nothing
 * @param entries openings and closings; where they overlap, the time counts once
 * @param holidays the sets of closed dates that hold for it
 */
public record WorkCalendar(
        String name, ZoneId zone, boolean aroundTheClock, List<Entry> entries, List<HolidaySet> holidays) {

    public WorkCalendar {
        entries = List.copyOf(entries);
        holidays = List.copyOf(holidays);
    }

    /** A calendar that is always open. */
    public static WorkCalendar aroundTheClock(String name, ZoneId zone) {
        return new WorkCalendar(name, zone, true, List.of(), List.of());
    }

    /** A calendar with the same opening on each of the given days and no holidays. */
    public static WorkCalendar weekly(String name, ZoneId zone, LocalTime opens, LocalTime closes, DayOfWeek... days) {
        var entries =
                Arrays.stream(days).map(day -> Entry.weekly(day, opens, closes)).toList();
        return new WorkCalendar(name, zone, false, entries, List.of());
    }

    /** The same calendar with these holidays instead of its own. */
    public WorkCalendar withHolidays(List<Holiday> others) {
        return new WorkCalendar(name, zone, aroundTheClock, entries, List.of(HolidaySet.of("own", "Holidays", others)));
    }

    /** The same calendar with one more entry. */
    public WorkCalendar with(Entry entry) {
        var more = new ArrayList<>(entries);
        more.add(entry);
        return new WorkCalendar(name, zone, aroundTheClock, more, holidays);
    }
}

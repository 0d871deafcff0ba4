package rafter.core.time;

import java.time.DayOfWeek;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;

/**
 * When a team is open, as its administrator says it: weekly openings and holidays in one time zone.
 *
 * @param name what the team calls it
 * @param zone the zone of all local times and dates in it
 * @param aroundTheClock open at every instant; openings and holidays then say nothing
 * @param openings the weekly openings; where they overlap, the time counts once
 * @param holidays the closed dates
 */
public record WorkCalendar(
        String name, ZoneId zone, boolean aroundTheClock, List<WeeklyOpening> openings, List<Holiday> holidays) {

    public WorkCalendar {
        openings = List.copyOf(openings);
        holidays = List.copyOf(holidays);
    }

    /** A calendar that is always open. */
    public static WorkCalendar aroundTheClock(String name, ZoneId zone) {
        return new WorkCalendar(name, zone, true, List.of(), List.of());
    }

    /** A calendar with the same opening on each of the given days and no holidays. */
    public static WorkCalendar weekly(String name, ZoneId zone, LocalTime opens, LocalTime closes, DayOfWeek... days) {
        var openings = Arrays.stream(days)
                .map(day -> new WeeklyOpening(day, opens, closes))
                .toList();
        return new WorkCalendar(name, zone, false, openings, List.of());
    }

    /** The same calendar with these holidays instead of its own. */
    public WorkCalendar withHolidays(List<Holiday> others) {
        return new WorkCalendar(name, zone, aroundTheClock, openings, others);
    }
}

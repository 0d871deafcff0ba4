package rafter.core.time;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Year;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;

/**
 * A year of a calendar, day by day.
 *
 * @param open the working time of the year
 * @param days every date of it
 * @param clockChanges the dates on which the zone's clocks change
 */
public record YearSheet(Year year, Duration open, List<Day> days, List<LocalDate> clockChanges) {

    /** What kind of open time it is. */
    public enum Tone {
        /** It comes daily or weekly. */
        USUAL,
        /** It comes more rarely, or on a holiday. */
        EXCEPTIONAL
    }

    /**
     * Open time within a day.
     *
     * @param from minutes of elapsed time since the day began
     * @param to likewise
     */
    public record Part(int from, int to, Tone tone) {}

    /**
     * A date.
     *
     * @param closings what takes open time away on it, where there would be some
     */
    public record Day(LocalDate date, List<Part> open, List<Closing> closings) {}

    /** Draws up a year. Costs O(o + d c) for o openings, d days and c closings of the year. */
    public static YearSheet of(WorkingTime hours, Year year) {
        ZoneId zone = hours.calendar().zone();
        Instant start = year.atDay(1).atStartOfDay(zone).toInstant();
        Instant end = year.plusYears(1).atDay(1).atStartOfDay(zone).toInstant();
        List<Interval> rare = rare(hours, start, end);
        WorkingTime without = WorkingTime.of(
                unclosed(hours.calendar()),
                new WorkingTime.Span(
                        year.atDay(1).minusDays(40), year.plusYears(1).atDay(1).plusDays(3)));
        List<Closing> closings = hours.closings(start, end);
        var days = new ArrayList<Day>();
        var changes = new ArrayList<LocalDate>();
        for (LocalDate date = year.atDay(1); date.getYear() == year.getValue(); date = date.plusDays(1)) {
            var day = new Interval(
                    date.atStartOfDay(zone).toInstant(),
                    date.plusDays(1).atStartOfDay(zone).toInstant());
            days.add(day(date, day, hours, without, rare, closings));
            if (!day.length().equals(Duration.ofDays(1))) {
                changes.add(date);
            }
        }
        return new YearSheet(year, hours.between(start, end), List.copyOf(days), List.copyOf(changes));
    }

    private static Day day(
            LocalDate date,
            Interval day,
            WorkingTime hours,
            WorkingTime without,
            List<Interval> rare,
            List<Closing> closings) {
        var parts = new ArrayList<Part>();
        for (Interval open : hours.openings(day.startInclusive(), day.endExclusive())) {
            boolean exceptional = rare.stream().anyMatch(r -> touch(r, open));
            parts.add(new Part(
                    minutes(day, open.startInclusive()),
                    minutes(day, open.endExclusive()),
                    exceptional ? Tone.EXCEPTIONAL : Tone.USUAL));
        }
        List<Closing> felt = closings.stream()
                .filter(c -> touch(c.time(), day))
                .filter(c -> !without.between(
                                later(c.time().startInclusive(), day.startInclusive()),
                                earlier(c.time().endExclusive(), day.endExclusive()))
                        .isZero())
                .toList();
        return new Day(date, List.copyOf(parts), felt);
    }

    private static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    private static Instant earlier(Instant a, Instant b) {
        return a.isBefore(b) ? a : b;
    }

    private static int minutes(Interval day, Instant at) {
        return (int) Duration.between(day.startInclusive(), at).toMinutes();
    }

    private static boolean touch(Interval a, Interval b) {
        return a.startInclusive().isBefore(b.endExclusive())
                && b.startInclusive().isBefore(a.endExclusive());
    }

    /** The openings that are not part of the usual week. */
    private static List<Interval> rare(WorkingTime hours, Instant start, Instant end) {
        return hours.calendar().entries().stream()
                .filter(entry -> entry.kind() == Entry.Kind.OPENING)
                .filter(entry -> entry.evenOnHolidays()
                        || entry.repeat().filter(YearSheet::often).isEmpty())
                .flatMap(entry -> hours.alone(entry, start, end).stream())
                .toList();
    }

    private static boolean often(Repeat repeat) {
        return repeat.rule().contains("FREQ=DAILY") || repeat.rule().contains("FREQ=WEEKLY");
    }

    private static WorkCalendar unclosed(WorkCalendar calendar) {
        return new WorkCalendar(
                calendar.name(),
                calendar.zone(),
                calendar.aroundTheClock(),
                calendar.entries().stream()
                        .filter(entry -> entry.kind() == Entry.Kind.OPENING)
                        .toList(),
                List.of());
    }
}

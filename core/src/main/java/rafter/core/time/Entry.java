package rafter.core.time;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * One entry of a calendar: an opening or a closing, once or again and again, in local time.
 *
 * @param id names the entry within its calendar, and in files
 * @param name what people call it; may be empty for an opening
 * @param evenOnHolidays an opening that wins over holidays
 * @param allDay from midnight to midnight
 * @param start where the first occurrence begins
 * @param end where the first occurrence ends, exclusive; after the start
 * @param repeat how it comes again; empty: it happens once
 * @param without beginnings that are left out
 * @param also beginnings that come on top
 * @param zone the zone of its local times; empty: that of its calendar
 */
public record Entry(
        String id,
        String name,
        Kind kind,
        boolean evenOnHolidays,
        boolean allDay,
        LocalDateTime start,
        LocalDateTime end,
        Optional<Repeat> repeat,
        SortedSet<LocalDateTime> without,
        SortedSet<LocalDateTime> also,
        Optional<ZoneId> zone) {

    /** What an entry does to the time it covers. */
    public enum Kind {
        OPENING,
        CLOSING
    }

    /** An occurrence in local time. */
    record Occurrence(LocalDateTime start, LocalDateTime end) {}

    public Entry {
        if (!end.isAfter(start)) {
            throw new IllegalArgumentException("entry “" + name + "” ends before it begins");
        }
        without = new TreeSet<>(without);
        also = new TreeSet<>(also);
    }

    /** An entry that happens once, or by a repetition, without further exceptions, in its calendar's zone. */
    public static Entry of(
            String id, String name, Kind kind, LocalDateTime start, LocalDateTime end, Optional<Repeat> repeat) {
        boolean allDay = start.toLocalTime().equals(LocalTime.MIDNIGHT)
                && end.toLocalTime().equals(LocalTime.MIDNIGHT);
        return new Entry(
                id, name, kind, false, allDay, start, end, repeat, new TreeSet<>(), new TreeSet<>(), Optional.empty());
    }

    /** An opening every week on this day; an end that is not after its start runs over midnight. */
    public static Entry weekly(DayOfWeek day, LocalTime opens, LocalTime closes) {
        LocalDate first = WorkingTime.Span.USUAL.firstDay().with(java.time.temporal.TemporalAdjusters.nextOrSame(day));
        LocalDateTime end = first.plusDays(closes.isAfter(opens) ? 0 : 1).atTime(closes);
        String rule = "FREQ=WEEKLY;BYDAY=" + day.name().substring(0, 2);
        return of(
                "weekly-" + day + "-" + opens + "-" + closes,
                "",
                Kind.OPENING,
                first.atTime(opens),
                end,
                Optional.of(Repeat.of(rule)));
    }

    /** A closing of one whole day. */
    public static Entry closed(LocalDate day, String name) {
        return of(
                "closed-" + day,
                name,
                Kind.CLOSING,
                day.atStartOfDay(),
                day.plusDays(1).atStartOfDay(),
                Optional.empty());
    }

    /** The same entry as an opening that wins over holidays. */
    public Entry overHolidays() {
        return new Entry(id, name, kind, true, allDay, start, end, repeat, without, also, zone);
    }

    /** The same entry under another id. */
    public Entry withId(String other) {
        return new Entry(other, name, kind, evenOnHolidays, allDay, start, end, repeat, without, also, zone);
    }

    /** How long an occurrence is on the local clock. */
    public Duration length() {
        return Duration.between(start, end);
    }

    /**
     * The same entry beginning with its first real occurrence, as RFC 5545 wants it: an entry for Mondays "from the first of
     * May" begins on the first Monday of May. Unchanged when it never occurs.
     */
    public Entry synchronised() {
        return repeat.flatMap(
                        r -> r.beginnings(start, start.plusYears(60)).stream().findFirst())
                .filter(first -> !first.equals(start))
                .map(first -> new Entry(
                        id,
                        name,
                        kind,
                        evenOnHolidays,
                        allDay,
                        first,
                        first.plus(length()),
                        repeat,
                        without,
                        also,
                        zone))
                .orElse(this);
    }

    /** Why it cannot be used, in words; empty when it can. An entry that cannot be used never occurs. */
    public Optional<String> trouble() {
        Optional<String> rule = repeat.flatMap(r -> r.trouble(start));
        boolean backwards = repeat.flatMap(Repeat::until)
                .filter(last -> last.isBefore(start))
                .isPresent();
        return rule.or(() -> backwards ? Optional.of("it ends before it begins") : Optional.empty());
    }

    /** All occurrences that begin before a local time, in order of the rule and then those on top. */
    List<Occurrence> occurrences(LocalDateTime before) {
        var found = new ArrayList<Occurrence>();
        for (LocalDateTime at : beginnings(before)) {
            if (!without.contains(at)) {
                found.add(new Occurrence(at, at.plus(length())));
            }
        }
        return found;
    }

    private List<LocalDateTime> beginnings(LocalDateTime before) {
        var beginnings = new TreeSet<>(also.headSet(before));
        if (repeat.isPresent()) {
            beginnings.addAll(repeat.get().beginnings(start, before));
        } else if (start.isBefore(before)) {
            beginnings.add(start);
        }
        return List.copyOf(beginnings);
    }
}

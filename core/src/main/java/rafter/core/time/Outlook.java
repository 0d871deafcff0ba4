package rafter.core.time;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Working time ahead, told day by day: what counts, what does not, and why.
 *
 * @param lines in order
 * @param end where the amount is reached; empty when that much open time never comes, or lies too far ahead to be listed
 */
public record Outlook(List<Line> lines, Optional<Instant> end) {

    /** Beyond it a list of days says nothing any more. */
    private static final Duration FARTHEST = Duration.ofDays(800);

    /** One line of it. */
    public sealed interface Line {
        /**
         * An opening, or the part of it, that counts.
         *
         * @param soFar what has been counted by its end
         * @param cut the closings that take a part of the opening hours of its day, told once a day
         */
        record Counted(Interval time, Duration soFar, List<Closing> cut) implements Line {}

        /**
         * Days without an opening.
         *
         * @param first the first of them
         * @param last the last of them
         * @param because the names of the closings that hold on them; empty: there is no opening on such days
         */
        record Skipped(LocalDate first, LocalDate last, List<Closing> because) implements Line {}
    }

    /** The next so much working time from an instant. Costs O(d) for d days. */
    public static Outlook next(WorkingTime hours, Instant from, Duration amount) {
        Instant horizon = hours.add(from, amount)
                .filter(end -> end.isBefore(from.plus(FARTHEST)))
                .orElse(from.plus(FARTHEST));
        return new Outlook(lines(hours, from, horizon), hours.add(from, amount).filter(horizon::equals));
    }

    /** What counts in {@code [from, to)}, and what does not. */
    public static List<Line> lines(WorkingTime hours, Instant from, Instant to) {
        ZoneId zone = hours.calendar().zone();
        List<Closing> closings = hours.closings(from, to);
        WorkingTime bare = closings.isEmpty() ? hours : hours.withoutClosings();
        var lines = new ArrayList<Line>();
        Duration soFar = Duration.ZERO;
        LocalDate next = from.atZone(zone).toLocalDate();
        for (Interval open : hours.openings(from, to)) {
            LocalDate day = open.startInclusive().atZone(zone).toLocalDate();
            skip(lines, next, day, closings, zone);
            soFar = soFar.plus(open.length());
            lines.add(new Line.Counted(
                    open,
                    soFar,
                    day.isBefore(next) ? List.of() : cut(day, lastDay(open, zone), from, closings, bare, zone)));
            next = lastDay(open, zone).plusDays(1);
        }
        LocalDate end = to.atZone(zone).toLocalDate();
        skip(lines, next, end, closings, zone);
        return List.copyOf(lines);
    }

    /** The closings that touch hours of these days which would be open without them, also when it is another zone's day that they close. */
    private static List<Closing> cut(
            LocalDate first, LocalDate last, Instant from, List<Closing> closings, WorkingTime bare, ZoneId zone) {
        Instant start = first.atStartOfDay(zone).toInstant();
        Instant end = last.plusDays(1).atStartOfDay(zone).toInstant();
        return closings.stream()
                .filter(closing -> {
                    Instant begins = latest(closing.time().startInclusive(), latest(start, from));
                    Instant ends = closing.time().endExclusive().isBefore(end)
                            ? closing.time().endExclusive()
                            : end;
                    return begins.isBefore(ends) && !bare.between(begins, ends).isZero();
                })
                .toList();
    }

    private static Instant latest(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    private static LocalDate lastDay(Interval open, ZoneId zone) {
        return open.endExclusive().minusNanos(1).atZone(zone).toLocalDate();
    }

    /** Days from {@code first} to the one before {@code end}; those with the same reason become one line. */
    private static void skip(List<Line> lines, LocalDate first, LocalDate end, List<Closing> closings, ZoneId zone) {
        for (LocalDate day = first; day.isBefore(end); day = day.plusDays(1)) {
            List<Closing> because = on(day, closings, zone);
            if (!lines.isEmpty()
                    && lines.getLast() instanceof Line.Skipped before
                    && before.because().isEmpty() == because.isEmpty()
                    && names(before.because()).equals(names(because))) {
                lines.removeLast();
                lines.add(new Line.Skipped(before.first(), day, before.because()));
            } else {
                lines.add(new Line.Skipped(day, day, because));
            }
        }
    }

    private static List<String> names(List<Closing> closings) {
        return closings.stream().map(Closing::name).toList();
    }

    private static List<Closing> on(LocalDate day, List<Closing> closings, ZoneId zone) {
        Instant start = day.atStartOfDay(zone).toInstant();
        Instant end = day.plusDays(1).atStartOfDay(zone).toInstant();
        return closings.stream()
                .filter(c -> c.time().startInclusive().isBefore(end)
                        && c.time().endExclusive().isAfter(start))
                .toList();
    }
}

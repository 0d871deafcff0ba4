package rafter.app.work.worklist;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import rafter.core.time.Interval;

/** Where instants lie, with closed time between two openings folded to a fixed width. */
final class TimeScale {

    private static final int COLUMNS = 60;
    private static final int FOLD_WIDTH = 44;
    private static final List<Long> PARTS_OF_AN_HOUR = List.of(1L, 2L, 3L, 5L, 6L, 10L, 12L, 15L, 20L, 30L, 60L);
    private static final DateTimeFormatter HOUR = DateTimeFormatter.ofPattern("HH", Locale.ENGLISH);

    private final List<Interval> open;
    private final Instant start;
    private final Instant end;
    private final int left;
    private final double perMilli;

    TimeScale(List<Interval> open, Instant start, Instant end, int left, int width) {
        this.left = left;
        this.open = open;
        this.start = start;
        this.end = end;
        long millis = open.stream().mapToLong(i -> i.length().toMillis()).sum();
        int folds = folds();
        this.perMilli = millis == 0 ? 0 : (double) (width - FOLD_WIDTH * folds) / millis;
    }

    private int folds() {
        boolean before = !open.isEmpty() && open.getFirst().startInclusive().isAfter(start);
        return Math.max(0, open.size() - 1) + (before ? 1 : 0);
    }

    int x(Instant at) {
        double x = left;
        Instant edge = start;
        for (Interval interval : open) {
            if (interval.startInclusive().isAfter(edge)) {
                if (at.isBefore(interval.startInclusive())) {
                    return (int) Math.round(x + FOLD_WIDTH * share(edge, at, interval.startInclusive()));
                }
                x += FOLD_WIDTH;
            }
            if (at.isBefore(interval.endExclusive())) {
                return (int) Math.round(
                        x + Duration.between(interval.startInclusive(), at).toMillis() * perMilli);
            }
            x += interval.length().toMillis() * perMilli;
            edge = interval.endExclusive();
        }
        return (int) Math.round(x);
    }

    private static double share(Instant from, Instant at, Instant to) {
        return (double) Duration.between(from, at).toMillis()
                / Duration.between(from, to).toMillis();
    }

    /** Now, then the edges of columns of equal working time. */
    List<Instant> edges(Instant now) {
        var edges = new ArrayList<Instant>();
        edges.add(now);
        Duration column =
                column(open.stream().mapToLong(i -> i.length().toMinutes()).sum() / COLUMNS);
        for (Interval interval : open) {
            for (Instant at = interval.startInclusive(); at.isBefore(interval.endExclusive()); at = at.plus(column)) {
                if (at.isAfter(edges.getLast())) {
                    edges.add(at);
                }
            }
        }
        if (end.isAfter(edges.getLast())) {
            edges.add(end);
        }
        return List.copyOf(edges);
    }

    /** At least so many minutes, of which a whole number makes an hour, so that columns begin with the hours. */
    private static Duration column(long minutes) {
        return Duration.ofMinutes(PARTS_OF_AN_HOUR.stream()
                .filter(part -> part >= minutes)
                .findFirst()
                .orElse(60L * (1 + minutes / 60)));
    }

    List<Horizon.Fold> folds(ZoneId zone) {
        var folds = new ArrayList<Horizon.Fold>();
        Instant edge = start;
        for (Interval interval : open) {
            if (interval.startInclusive().isAfter(edge)) {
                Duration closed = Duration.between(edge, interval.startInclusive());
                boolean overNight =
                        closed.compareTo(Duration.ofHours(20)) < 0 && isNight(edge, interval.startInclusive(), zone);
                folds.add(new Horizon.Fold(x(edge), FOLD_WIDTH, overNight ? "night" : "closed"));
            }
            edge = interval.endExclusive();
        }
        return folds;
    }

    private static boolean isNight(Instant from, Instant to, ZoneId zone) {
        return !from.atZone(zone).toLocalDate().equals(to.atZone(zone).toLocalDate())
                || to.atZone(zone).toLocalTime().isBefore(LocalTime.NOON);
    }

    /** The full hours of open time. */
    List<Horizon.Tick> ticks(ZoneId zone) {
        var ticks = new ArrayList<Horizon.Tick>();
        for (Interval interval : open) {
            ZonedDateTime hour = interval.startInclusive().atZone(zone).truncatedTo(ChronoUnit.HOURS);
            while (!hour.toInstant().isAfter(interval.endExclusive())) {
                if (!hour.toInstant().isBefore(interval.startInclusive())) {
                    ticks.add(new Horizon.Tick(x(hour.toInstant()), HOUR.format(hour)));
                }
                hour = hour.plusHours(1);
            }
        }
        return ticks;
    }
}

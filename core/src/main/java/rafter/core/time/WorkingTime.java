package rafter.core.time;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Working-time arithmetic over a {@link WorkCalendar}, compiled once into sorted openings with running totals.
 *
 * <p>All intervals are half-open and what is counted is elapsed time on the instant line. An edge of an opening that falls
 * into a gap of the zone moves later by the gap; in an overlap it is the first of the two instants. A calendar is compiled
 * for the years of a {@linkplain Span span}; outside of it a calendar with openings counts as closed. Compiling costs O(n log
 * n) for n openings in the span; each question costs O(log n) by binary search on the running totals. Immutable.
 */
public final class WorkingTime {

    /**
     * The years for which a calendar is compiled.
     *
     * @param firstDay the first local date that is compiled
     * @param endExclusive the first local date that is not
     */
    public record Span(LocalDate firstDay, LocalDate endExclusive) {
        /** Wide enough for every ticket there is and every target that will be promised. */
        public static final Span USUAL = new Span(LocalDate.of(2015, 1, 1), LocalDate.of(2066, 1, 1));
    }

    /** So many openings are tried one by one before a search by halves. */
    private static final int NEAR = 8;

    private final WorkCalendar calendar;
    private final Span span;
    private final long[] starts;
    private final long[] ends;
    private final long[] openBefore;

    private WorkingTime(WorkCalendar calendar, Span span, long[] starts, long[] ends) {
        this.calendar = calendar;
        this.span = span;
        this.starts = starts;
        this.ends = ends;
        this.openBefore = new long[starts.length + 1];
        for (int i = 0; i < starts.length; i++) {
            openBefore[i + 1] = openBefore[i] + (ends[i] - starts[i]);
        }
    }

    /** Compiles a calendar for the {@linkplain Span#USUAL usual span}. */
    public static WorkingTime of(WorkCalendar calendar) {
        return of(calendar, Span.USUAL);
    }

    /** Compiles a calendar for a span of years. */
    public static WorkingTime of(WorkCalendar calendar, Span span) {
        if (calendar.aroundTheClock()) {
            return new WorkingTime(calendar, span, new long[0], new long[0]);
        }
        var closings = Stretches.union(entries(calendar, span, WorkingTime::closes));
        var holidays = Stretches.union(holidays(calendar));
        var usual = Stretches.union(entries(calendar, span, entry -> opens(entry) && !entry.evenOnHolidays()));
        var always = Stretches.union(entries(calendar, span, entry -> opens(entry) && entry.evenOnHolidays()));
        var open = new ArrayList<>(Stretches.without(usual, holidays));
        open.addAll(always);
        var left = Stretches.without(Stretches.union(open), closings);
        long[] starts = left.stream().mapToLong(s -> s.start()).toArray();
        long[] ends = left.stream().mapToLong(s -> s.end()).toArray();
        return new WorkingTime(calendar, span, starts, ends);
    }

    /** The calendar this was compiled from. */
    public WorkCalendar calendar() {
        return calendar;
    }

    /** A reader of this calendar for those who ask about many instants, mostly in order. */
    public Reader reader() {
        return new Reader();
    }

    /** Remembers where it last looked, so that the next instant is found at once when it is near. For one thread. */
    public final class Reader {

        private int last;

        private Reader() {}

        /**
         * How much open time there has been by an instant, in nanoseconds from an origin of this calendar's own: the difference of two
         * readings is {@link #between}. O(1) when the instant lies in the opening last asked about or one of the next few, else
         * O(log n).
         */
        public long at(Instant at) {
            long nanos = nanos(at);
            if (calendar.aroundTheClock() || starts.length == 0) {
                return openUntil(nanos);
            }
            if (starts[last] <= nanos) {
                int stop = Math.min(last + NEAR, starts.length - 1);
                while (last < stop && starts[last + 1] <= nanos) {
                    last++;
                }
                if (last + 1 == starts.length || nanos < starts[last + 1]) {
                    return openBefore[last] + Math.min(nanos, ends[last]) - starts[last];
                }
            }
            last = Math.max(0, lastStartNotAfter(nanos));
            return openUntil(nanos);
        }

        /**
         * The earliest instant at which it reads so much, if it ever does. O(1) when that lies in the opening last asked about or one of
         * the next few, else O(log n).
         *
         * @param reading more than it read at the instant last asked about
         */
        public Optional<Instant> when(long reading) {
            if (calendar.aroundTheClock()) {
                return Optional.of(instant(reading));
            }
            int after = firstTotalAtLeast(reading, last);
            return after > starts.length || starts.length == 0
                    ? Optional.empty()
                    : Optional.of(instant(starts[after - 1] + (reading - openBefore[after - 1])));
        }
    }

    /** The open time in {@code [from, to)}; negative when {@code to} is before {@code from}. */
    public Duration between(Instant from, Instant to) {
        return Duration.ofNanos(openUntil(nanos(to)) - openUntil(nanos(from)));
    }

    /**
     * The earliest instant, not before {@code start}, until which {@code amount} of open time has passed since {@code start}.
     *
     * @param amount zero or more
     * @return nothing when less than that amount of open time lies ahead
     * @throws IllegalArgumentException when the amount is negative
     */
    public Optional<Instant> add(Instant start, Duration amount) {
        if (amount.isNegative()) {
            throw new IllegalArgumentException("negative amount of working time: " + amount);
        }
        if (amount.isZero()) {
            return Optional.of(start);
        }
        if (calendar.aroundTheClock()) {
            return Optional.of(start.plus(amount));
        }
        int from = lastStartNotAfter(nanos(start));
        long wanted = openUntil(nanos(start), from) + amount.toNanos();
        int after = firstTotalAtLeast(wanted, Math.max(0, from));
        if (after > starts.length) {
            return Optional.empty();
        }
        return Optional.of(instant(starts[after - 1] + (wanted - openBefore[after - 1])));
    }

    /** Whether the team is open at this instant. */
    public boolean isOpen(Instant at) {
        if (calendar.aroundTheClock()) {
            return true;
        }
        int i = lastStartNotAfter(nanos(at));
        return i >= 0 && nanos(at) < ends[i];
    }

    /** The earliest instant not before {@code at} at which the team is open, if it ever opens again. */
    public Optional<Instant> nextOpen(Instant at) {
        if (isOpen(at)) {
            return Optional.of(at);
        }
        int next = lastStartNotAfter(nanos(at)) + 1;
        return next < starts.length ? Optional.of(instant(starts[next])) : Optional.empty();
    }

    /** The open stretches within {@code [from, to)}, in order, cut off at its edges. */
    public List<Interval> openings(Instant from, Instant to) {
        if (!to.isAfter(from)) {
            return List.of();
        }
        if (calendar.aroundTheClock()) {
            return List.of(new Interval(from, to));
        }
        long a = nanos(from);
        long b = nanos(to);
        var found = new ArrayList<Interval>();
        for (int i = Math.max(0, lastStartNotAfter(a)); i < starts.length && starts[i] < b; i++) {
            long start = Math.max(a, starts[i]);
            long end = Math.min(b, ends[i]);
            if (start < end) {
                found.add(new Interval(instant(start), instant(end)));
            }
        }
        return List.copyOf(found);
    }

    /** Open time from the beginning of the span until this instant. */
    private long openUntil(long at) {
        if (calendar.aroundTheClock()) {
            return at;
        }
        return openUntil(at, lastStartNotAfter(at));
    }

    /** Working time up to an instant, when the last opening that began by then is known. */
    private long openUntil(long at, int i) {
        return i < 0 ? 0 : openBefore[i] + Math.min(at, ends[i]) - starts[i];
    }

    private int lastStartNotAfter(long at) {
        int found = Arrays.binarySearch(starts, at);
        return found >= 0 ? found : -found - 2;
    }

    /** Totals rise strictly, for no opening is empty. Most promises end within a few openings, so those are tried first. */
    private int firstTotalAtLeast(long wanted, int from) {
        int stop = Math.min(from + NEAR, openBefore.length);
        for (int i = from; i < stop; i++) {
            if (openBefore[i] >= wanted) {
                return i;
            }
        }
        int found = Arrays.binarySearch(openBefore, stop, openBefore.length, wanted);
        return found >= 0 ? found : -found - 1;
    }

    private static boolean opens(Entry entry) {
        return entry.kind() == Entry.Kind.OPENING;
    }

    private static boolean closes(Entry entry) {
        return entry.kind() == Entry.Kind.CLOSING;
    }

    private static List<Stretches.Stretch> entries(WorkCalendar calendar, Span span, Predicate<Entry> wanted) {
        var found = new ArrayList<Stretches.Stretch>();
        calendar.entries().stream().filter(wanted).forEach(entry -> found.addAll(stretches(calendar, entry, span)));
        return found;
    }

    private static List<Stretches.Stretch> stretches(WorkCalendar calendar, Entry entry, Span span) {
        ZoneId zone = entry.zone().orElse(calendar.zone());
        LocalDateTime first = span.firstDay().atStartOfDay();
        var found = new ArrayList<Stretches.Stretch>();
        for (Entry.Occurrence one : entry.occurrences(span.endExclusive().atStartOfDay())) {
            if (one.end().isAfter(first)) {
                add(found, one, zone);
            }
        }
        return found;
    }

    private static void add(List<Stretches.Stretch> found, Entry.Occurrence one, ZoneId zone) {
        long start = nanos(one.start().atZone(zone).toInstant());
        long end = nanos(one.end().atZone(zone).toInstant());
        // A clock change can leave nothing of a short opening.
        if (start < end) {
            found.add(new Stretches.Stretch(start, end));
        }
    }

    private static List<Stretches.Stretch> holidays(WorkCalendar calendar) {
        return holidayClosings(calendar).map(closing -> stretch(closing.time())).toList();
    }

    private static Stream<Closing> holidayClosings(WorkCalendar calendar) {
        return calendar.holidays().stream()
                .flatMap(set ->
                        set.days().stream().map(day -> closing(day, set.zone().orElse(calendar.zone()))));
    }

    private static Closing closing(Holiday holiday, ZoneId zone) {
        var day = new Interval(
                holiday.date().atStartOfDay(zone).toInstant(),
                holiday.date().plusDays(1).atStartOfDay(zone).toInstant());
        return new Closing(day, holiday.name(), true, zone);
    }

    /**
     * The closings and holidays that touch {@code [from, to)}, by where they begin; for showing why time does not count. Costs as
     * much as compiling the calendar's closings.
     */
    public List<Closing> closings(Instant from, Instant to) {
        if (calendar.aroundTheClock()) {
            return List.of();
        }
        var own = calendar.entries().stream()
                .filter(WorkingTime::closes)
                .flatMap(entry -> stretches(calendar, entry, span).stream()
                        .map(s -> new Closing(
                                new Interval(instant(s.start()), instant(s.end())),
                                entry.name(),
                                false,
                                entry.zone().orElse(calendar.zone()))));
        return Stream.concat(own, holidayClosings(calendar))
                .filter(closing -> closing.time().startInclusive().isBefore(to)
                        && closing.time().endExclusive().isAfter(from))
                .sorted(Comparator.comparing(closing -> closing.time().startInclusive()))
                .toList();
    }

    /** These hours as though nothing ever closed them. */
    WorkingTime withoutClosings() {
        return of(new WorkCalendar(
                calendar.name(),
                calendar.zone(),
                calendar.aroundTheClock(),
                calendar.entries().stream().filter(WorkingTime::opens).toList(),
                List.of()));
    }

    /** The stretches of one entry alone that touch {@code [from, to)}, whatever else the calendar says. */
    List<Interval> alone(Entry entry, Instant from, Instant to) {
        return stretches(calendar, entry, span).stream()
                .map(s -> new Interval(instant(s.start()), instant(s.end())))
                .filter(i -> i.startInclusive().isBefore(to) && i.endExclusive().isAfter(from))
                .toList();
    }

    private static Stretches.Stretch stretch(Interval time) {
        return new Stretches.Stretch(nanos(time.startInclusive()), nanos(time.endExclusive()));
    }

    /** Nanoseconds since the epoch fit a long for the years 1678 to 2261. */
    private static long nanos(Instant at) {
        return Math.addExact(Math.multiplyExact(at.getEpochSecond(), 1_000_000_000L), at.getNano());
    }

    private static Instant instant(long nanos) {
        return Instant.ofEpochSecond(Math.floorDiv(nanos, 1_000_000_000L), Math.floorMod(nanos, 1_000_000_000L));
    }
}

package rafter.core.time;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Predicate;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

/** Laws that hold for every calendar. The parameter is the seed, so that a failure can be run again. */
class WorkingTimeLawsTest {

    private static final WorkingTime.Span SPAN =
            new WorkingTime.Span(LocalDate.of(2025, 12, 1), LocalDate.of(2028, 2, 1));
    private static final List<String> ZONES =
            List.of("Europe/Oslo", "America/St_Johns", "Asia/Kathmandu", "Australia/Lord_Howe", "UTC");

    static LongStream seeds() {
        return Seeds.upTo(150);
    }

    /** A calendar, and the same as a sign on the door would say it. */
    private record Door(WorkCalendar calendar, List<Sign> signs) {}

    /** One line of the sign: on such days from then to then. */
    private record Sign(Predicate<LocalDate> days, LocalTime opens, LocalTime closes, boolean evenOnHolidays) {}

    private static WorkCalendar calendar(Random random) {
        return door(random).calendar();
    }

    private static Door door(Random random) {
        var entries = new ArrayList<Entry>();
        var signs = new ArrayList<Sign>();
        int count = random.nextInt(9);
        for (int i = 0; i < count; i++) {
            opening(random, entries, signs);
        }
        var holidays = new ArrayList<Holiday>();
        for (int i = random.nextInt(12); i > 0; i--) {
            holidays.add(new Holiday(LocalDate.of(2027, 1, 1).plusDays(random.nextInt(365)), "Day " + i));
        }
        for (int i = random.nextInt(4); i > 0; i--) {
            entries.add(Entry.closed(LocalDate.of(2027, 1, 1).plusDays(random.nextInt(365)), "Closed " + i));
        }
        ZoneId zone = ZoneId.of(ZONES.get(random.nextInt(ZONES.size())));
        var sets = List.of(HolidaySet.of("any", "Any", holidays));
        return new Door(new WorkCalendar("Any", zone, random.nextInt(12) == 0, entries, sets), signs);
    }

    private static void opening(Random random, List<Entry> entries, List<Sign> signs) {
        DayOfWeek day = DayOfWeek.of(1 + random.nextInt(7));
        // Edges stay clear of the hours of clock changes, which the walk below would have to resolve on its own.
        LocalTime opens = edge(random);
        LocalTime closes = edge(random);
        boolean even = random.nextInt(3) == 0;
        boolean second = random.nextInt(3) == 0;
        Entry weekly = Entry.weekly(day, opens, closes);
        String rule = "FREQ=MONTHLY;BYDAY=2" + day.name().substring(0, 2);
        Entry entry = second
                ? Entry.of("nth", "", Entry.Kind.OPENING, weekly.start(), weekly.end(), Optional.of(Repeat.of(rule)))
                : weekly;
        entries.add(even ? entry.overHolidays() : entry);
        Predicate<LocalDate> days = date ->
                date.getDayOfWeek() == day && (!second || date.getDayOfMonth() > 7 && date.getDayOfMonth() < 15);
        signs.add(new Sign(days, opens, closes, even));
    }

    private static LocalTime edge(Random random) {
        return LocalTime.of(4 + random.nextInt(20), 5 * random.nextInt(12));
    }

    private static Instant instant(Random random) {
        return Instant.parse("2027-01-01T00:00:00Z")
                .plusNanos(random.nextLong(Duration.ofDays(364).toNanos()));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void splits_add_up(long seed) {
        var random = new Random(seed);
        var time = WorkingTime.of(calendar(random), SPAN);
        for (int i = 0; i < 50; i++) {
            Instant a = instant(random);
            Instant b = instant(random);
            Instant c = instant(random);
            assertThat(time.between(a, b).plus(time.between(b, c))).isEqualTo(time.between(a, c));
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void add_then_between_gives_back_and_add_is_the_earliest(long seed) {
        var random = new Random(seed);
        var time = WorkingTime.of(calendar(random), SPAN);
        for (int i = 0; i < 50; i++) {
            Instant start = instant(random);
            Duration amount =
                    Duration.ofNanos(1 + random.nextLong(Duration.ofHours(60).toNanos()));
            Optional<Instant> end = time.add(start, amount);
            end.ifPresent(at -> {
                assertThat(time.between(start, at)).isEqualTo(amount);
                assertThat(time.between(start, at.minusNanos(1))).isLessThan(amount);
            });
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void add_is_monotone_in_both(long seed) {
        var random = new Random(seed);
        var time = WorkingTime.of(calendar(random), SPAN);
        for (int i = 0; i < 50; i++) {
            Instant start = instant(random);
            Instant later = start.plusSeconds(random.nextInt(400_000));
            Duration amount = Duration.ofSeconds(random.nextInt(100_000));
            Duration more = amount.plusSeconds(random.nextInt(100_000));
            assertNotAfter(time.add(start, amount), time.add(later, amount));
            assertNotAfter(time.add(start, amount), time.add(start, more));
        }
    }

    private static void assertNotAfter(Optional<Instant> first, Optional<Instant> second) {
        second.ifPresent(at ->
                assertThat(first).hasValueSatisfying(one -> assertThat(one).isBeforeOrEqualTo(at)));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void agrees_with_a_walk_minute_by_minute(long seed) {
        var random = new Random(seed);
        Door door = door(random);
        var time = WorkingTime.of(door.calendar(), SPAN);
        Instant from = instant(random).truncatedTo(java.time.temporal.ChronoUnit.MINUTES);
        long open = 0;
        int minutes = 8 * 24 * 60;
        for (int i = 0; i < minutes; i++) {
            Instant minute = from.plusSeconds(60L * i);
            boolean walked = isOpen(door, minute);
            assertThat(time.isOpen(minute)).as("%s", minute).isEqualTo(walked);
            open += walked ? 1 : 0;
        }
        assertThat(time.between(from, from.plusSeconds(60L * minutes))).isEqualTo(Duration.ofMinutes(open));
    }

    /** What a person does who looks at the wall clock and at the sign on the door. */
    private static boolean isOpen(Door door, Instant at) {
        WorkCalendar calendar = door.calendar();
        if (calendar.aroundTheClock()) {
            return true;
        }
        ZonedDateTime local = at.atZone(calendar.zone());
        LocalDate today = local.toLocalDate();
        boolean closed = calendar.entries().stream()
                .anyMatch(e -> e.kind() == Entry.Kind.CLOSING
                        && e.start().toLocalDate().equals(today));
        boolean holiday = calendar.holidays().stream()
                .flatMap(set -> set.days().stream())
                .anyMatch(h -> h.date().equals(today));
        LocalTime clock = local.toLocalTime();
        return !closed
                && door.signs().stream()
                        .filter(sign -> !holiday || sign.evenOnHolidays())
                        .anyMatch(sign -> {
                            boolean begun = sign.days().test(today) && !clock.isBefore(sign.opens());
                            boolean tail = sign.days().test(today.minusDays(1)) && clock.isBefore(sign.closes());
                            return sign.closes().isAfter(sign.opens())
                                    ? begun && clock.isBefore(sign.closes())
                                    : begun || tail;
                        });
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void openings_are_apart_and_sum_to_between(long seed) {
        var random = new Random(seed);
        var time = WorkingTime.of(calendar(random), SPAN);
        Instant a = instant(random);
        Instant b = a.plusSeconds(random.nextInt(3_000_000));
        List<Interval> openings = time.openings(a, b);
        assertThat(openings.stream().map(Interval::length).reduce(Duration.ZERO, Duration::plus))
                .isEqualTo(time.between(a, b));
        for (int i = 1; i < openings.size(); i++) {
            assertThat(openings.get(i).startInclusive())
                    .isAfter(openings.get(i - 1).endExclusive());
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_reader_tells_the_same_in_whatever_order_it_is_asked(long seed) {
        var random = new Random(seed);
        WorkingTime time = WorkingTime.of(calendar(random), SPAN);
        WorkingTime.Reader reader = time.reader();
        Instant origin = Instant.parse("2025-06-01T00:00:00Z");
        long first = reader.at(origin);
        for (int i = 0; i < 200; i++) {
            Instant at = origin.plusSeconds(random.nextLong(i % 3 == 0 ? 86_400L * 900 : 86_400L * 20));
            assertThat(Duration.ofNanos(reader.at(at) - first)).isEqualTo(time.between(origin, at));
            Duration more = Duration.ofSeconds(1 + random.nextInt(2_000_000));
            assertThat(reader.when(reader.at(at) + more.toNanos())).isEqualTo(time.add(at, more));
        }
    }
}

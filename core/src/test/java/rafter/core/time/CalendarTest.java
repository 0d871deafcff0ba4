package rafter.core.time;

import static java.time.DayOfWeek.*;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Year;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Entries of a calendar by the trade's cases: repetitions, exceptions and zones. */
class CalendarTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final WorkCalendar WEEK = WorkCalendar.weekly(
            "Shore office",
            OSLO,
            LocalTime.of(8, 0),
            LocalTime.of(17, 0),
            MONDAY,
            TUESDAY,
            WEDNESDAY,
            THURSDAY,
            FRIDAY);

    private static Instant oslo(String local) {
        return LocalDateTime.parse(local).atZone(OSLO).toInstant();
    }

    private static Entry opening(String start, String end, String rule) {
        return Entry.of(
                "e",
                "",
                Entry.Kind.OPENING,
                LocalDateTime.parse(start),
                LocalDateTime.parse(end),
                Optional.of(Repeat.of(rule)));
    }

    private static WorkingTime of(Entry... entries) {
        return WorkingTime.of(new WorkCalendar("Any", OSLO, false, List.of(entries), List.of()));
    }

    @Test
    void the_second_sunday_of_a_month_is_open_and_the_first_is_not() {
        var hours = of(opening("2027-01-01T10:00", "2027-01-01T14:00", "FREQ=MONTHLY;BYDAY=2SU"));
        assertThat(hours.isOpen(oslo("2027-03-14T10:00"))).isTrue();
        assertThat(hours.isOpen(oslo("2027-03-07T10:00"))).isFalse();
        assertThat(hours.between(oslo("2027-01-01T00:00"), oslo("2028-01-01T00:00")))
                .isEqualTo(Duration.ofHours(48));
    }

    @Test
    void an_entry_for_mondays_begins_on_the_first_monday_and_not_on_its_start() {
        Entry entry = opening("2027-05-01T08:00", "2027-05-01T12:00", "FREQ=WEEKLY;BYDAY=MO")
                .synchronised();
        assertThat(entry.start()).isEqualTo(LocalDateTime.parse("2027-05-03T08:00"));
        assertThat(of(entry).isOpen(oslo("2027-05-01T09:00"))).isFalse();
    }

    @Test
    void it_ends_with_its_last_day_and_leaves_out_what_is_left_out() {
        var until = new Repeat("FREQ=DAILY", Optional.of(LocalDateTime.parse("2027-03-10T08:00")));
        var left = new TreeSet<>(List.of(LocalDateTime.parse("2027-03-02T08:00")));
        var also = new TreeSet<>(List.of(LocalDateTime.parse("2027-03-20T08:00")));
        var entry = new Entry(
                "e",
                "",
                Entry.Kind.OPENING,
                false,
                false,
                LocalDateTime.parse("2027-03-01T08:00"),
                LocalDateTime.parse("2027-03-01T09:00"),
                Optional.of(until),
                left,
                also,
                Optional.empty());
        assertThat(of(entry).between(oslo("2027-03-01T00:00"), oslo("2027-04-01T00:00")))
                .isEqualTo(Duration.ofHours(10));
    }

    @Test
    void a_closing_wins_over_openings_and_an_opening_even_on_holidays_over_holidays_only() {
        Entry market = opening("2027-01-03T10:00", "2027-01-03T12:00", "FREQ=WEEKLY;BYDAY=SU")
                .overHolidays();
        var calendar = new WorkCalendar(
                "Any",
                OSLO,
                false,
                List.of(market, Entry.closed(LocalDate.of(2027, 3, 14), "Repairs")),
                List.of(HolidaySet.of(
                        "h", "Holidays", List.of(new Holiday(LocalDate.of(2027, 3, 7), "Founding day")))));
        var hours = WorkingTime.of(calendar);
        assertThat(hours.isOpen(oslo("2027-03-07T10:00"))).isTrue();
        assertThat(hours.isOpen(oslo("2027-03-14T10:00"))).isFalse();
    }

    @Test
    void a_holiday_of_another_zone_closes_that_zones_day_and_says_whose_it_is() {
        ZoneId johns = ZoneId.of("America/St_Johns");
        var set = new HolidaySet(
                "h", "Holidays", Optional.of(OSLO), List.of(new Holiday(LocalDate.of(2027, 3, 9), "Harbour day")));
        var calendar = new WorkCalendar("Far desk", johns, false, WEEK.entries(), List.of(set));
        var hours = WorkingTime.of(calendar);
        // Tuesday in Oslo lasts from 19:30 on Monday to 19:30 on Tuesday there; only Tuesday's hours fall into it.
        LocalDate monday = LocalDate.of(2027, 3, 8);
        assertThat(hours.isOpen(monday.atTime(16, 0).atZone(johns).toInstant())).isTrue();
        assertThat(hours.isOpen(monday.plusDays(1).atTime(16, 0).atZone(johns).toInstant()))
                .isFalse();
        assertThat(hours.isOpen(monday.plusDays(2).atTime(8, 0).atZone(johns).toInstant()))
                .isTrue();
        assertThat(hours.closings(oslo("2027-03-09T12:00"), oslo("2027-03-09T13:00")))
                .singleElement()
                .satisfies(closing -> assertThat(closing.zone()).isEqualTo(OSLO));
    }

    @Test
    void the_next_hours_name_each_opening_each_closing_and_the_holiday() {
        var hours = WorkingTime.of(WEEK.withHolidays(List.of(new Holiday(LocalDate.of(2027, 3, 8), "Harbour day"))));
        Outlook next = Outlook.next(hours, oslo("2027-03-05T12:00"), Duration.ofHours(12));
        assertThat(next.end()).hasValue(oslo("2027-03-09T15:00"));
        assertThat(next.lines()).hasSize(4);
        assertThat(next.lines().get(0))
                .isEqualTo(new Outlook.Line.Counted(
                        new Interval(oslo("2027-03-05T12:00"), oslo("2027-03-05T17:00")),
                        Duration.ofHours(5),
                        List.of()));
        assertThat(next.lines().get(1))
                .isEqualTo(new Outlook.Line.Skipped(LocalDate.of(2027, 3, 6), LocalDate.of(2027, 3, 7), List.of()));
        assertThat(next.lines().get(2))
                .isInstanceOfSatisfying(
                        Outlook.Line.Skipped.class,
                        skipped -> assertThat(skipped.because())
                                .extracting(Closing::name)
                                .containsExactly("Harbour day"));
        assertThat(next.lines().get(3))
                .isInstanceOfSatisfying(
                        Outlook.Line.Counted.class,
                        counted -> assertThat(counted.soFar()).isEqualTo(Duration.ofHours(12)));
    }

    @Test
    void a_holiday_that_a_zone_shifts_into_a_working_day_is_named_on_the_days_that_it_shortens() {
        ZoneId johns = ZoneId.of("America/St_Johns");
        var set = new HolidaySet(
                "h", "Holidays", Optional.of(OSLO), List.of(new Holiday(LocalDate.of(2027, 3, 9), "Harbour day")));
        Entry late = opening("2027-03-01T08:00", "2027-03-01T22:00", "FREQ=DAILY");
        var hours = WorkingTime.of(new WorkCalendar("Far desk", johns, false, List.of(late), List.of(set)));
        Instant monday = LocalDate.of(2027, 3, 8).atTime(6, 0).atZone(johns).toInstant();
        List<Outlook.Line> lines =
                Outlook.next(hours, monday, Duration.ofHours(20)).lines();
        // Monday is open until 19:30, when Tuesday begins in Oslo; Tuesday opens at 19:30, when it ends there.
        assertThat(lines).hasSize(3).allMatch(Outlook.Line.Counted.class::isInstance);
        assertThat(lines.subList(0, 2))
                .allSatisfy(line -> assertThat(((Outlook.Line.Counted) line).cut())
                        .extracting(Closing::name)
                        .containsExactly("Harbour day"));
        assertThat(((Outlook.Line.Counted) lines.get(2)).cut()).isEmpty();
        Instant afterwards =
                LocalDate.of(2027, 3, 9).atTime(20, 0).atZone(johns).toInstant();
        assertThat(((Outlook.Line.Counted) Outlook.next(hours, afterwards, Duration.ofHours(2))
                                .lines()
                                .getFirst())
                        .cut())
                .as("what lies behind is not told")
                .isEmpty();
    }

    @Test
    void a_closing_is_told_once_a_day_and_only_where_it_takes_opening_hours() {
        var noon = Entry.of(
                "n",
                "Inventory",
                Entry.Kind.CLOSING,
                LocalDateTime.parse("2027-03-08T10:00"),
                LocalDateTime.parse("2027-03-08T12:00"),
                Optional.empty());
        var night = Entry.of(
                "x",
                "Cleaning",
                Entry.Kind.CLOSING,
                LocalDateTime.parse("2027-03-08T20:00"),
                LocalDateTime.parse("2027-03-08T22:00"),
                Optional.empty());
        var lines = Outlook.next(
                        WorkingTime.of(WEEK.with(noon).with(night)), oslo("2027-03-08T06:00"), Duration.ofHours(7))
                .lines();
        assertThat(lines)
                .extracting(line -> ((Outlook.Line.Counted) line)
                        .cut().stream().map(Closing::name).toList())
                .containsExactly(List.of("Inventory"), List.of());
    }

    @Test
    void hours_that_never_come_have_no_end() {
        assertThat(Outlook.next(of(), oslo("2027-03-05T12:00"), Duration.ofHours(1))
                        .end())
                .isEmpty();
    }

    @Test
    void the_year_sheet_adds_up_and_knows_exceptions_and_clock_changes() {
        var calendar = WEEK.with(opening("2027-01-01T10:00", "2027-01-01T14:00", "FREQ=MONTHLY;BYDAY=2SU"))
                .with(Entry.closed(LocalDate.of(2027, 8, 2), "Harbour festival"));
        var hours = WorkingTime.of(calendar);
        YearSheet sheet = YearSheet.of(hours, Year.of(2027));
        long minutes = sheet.days().stream()
                .flatMap(day -> day.open().stream())
                .mapToLong(part -> part.to() - part.from())
                .sum();
        assertThat(sheet.open()).isEqualTo(Duration.ofMinutes(minutes));
        assertThat(sheet.days()).hasSize(365);
        assertThat(sheet.clockChanges()).containsExactly(LocalDate.of(2027, 3, 28), LocalDate.of(2027, 10, 31));
        assertThat(sheet.days().stream()
                        .filter(d -> d.open().stream().anyMatch(p -> p.tone() == YearSheet.Tone.EXCEPTIONAL)))
                .hasSize(12);
        assertThat(sheet.days().stream().filter(d -> !d.closings().isEmpty()).map(YearSheet.Day::date))
                .containsExactly(LocalDate.of(2027, 8, 2));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH | Every week on Monday to Thursday from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR | Every 2 weeks on Monday and Friday from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=DAILY | Every day from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=MONTHLY;BYDAY=2SU | Every month on the second Sunday from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=MONTHLY;BYDAY=-1FR | Every month on the last Friday from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=MONTHLY;BYMONTHDAY=22 | Every month on the 22nd from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=MONTHLY;BYMONTHDAY=-1 | Every month on the last day from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=24 | Every year on the 24th of December from Fri 1 Jan 2027, 08:00 to 17:00",
                "FREQ=YEARLY;BYMONTH=5;BYDAY=1MO;COUNT=3 | Every year on the first Monday of May from Fri 1 Jan 2027, 3 times, 08:00 to 17:00",
                "FREQ=WEEKLY;BYDAY=MO;BYMONTH=5 | By the rule FREQ=WEEKLY;BYMONTH=5;BYDAY=MO from Fri 1 Jan 2027, 08:00 to 17:00"
            })
    void it_reads_as_a_sentence(String rule, String sentence) {
        assertThat(RepeatWords.sentence(opening("2027-01-01T08:00", "2027-01-01T17:00", rule)))
                .isEqualTo(sentence);
    }

    @Test
    void closings_and_openings_over_midnight_read_as_sentences_too() {
        assertThat(RepeatWords.sentence(Entry.closed(LocalDate.of(2027, 8, 2), "harbour festival")))
                .isEqualTo("Closed once, Mon 2 Aug 2027, all day: harbour festival");
        assertThat(RepeatWords.sentence(Entry.weekly(FRIDAY, LocalTime.of(22, 0), LocalTime.of(6, 0))
                        .overHolidays()))
                .isEqualTo("Every week on Friday, 22:00 to 06:00 the next day, even on holidays");
        assertThat(RepeatWords.sentence(Entry.weekly(FRIDAY, LocalTime.of(12, 0), LocalTime.MIDNIGHT)))
                .isEqualTo("Every week on Friday, 12:00 to 24:00");
    }

    @Test
    void a_rule_that_is_none_is_refused_with_words() {
        assertThat(Repeat.wrong("FREQ=SOMETIMES"))
                .hasValueSatisfying(words -> assertThat(words).contains("RFC 5545"));
        assertThat(Repeat.wrong("FREQ=WEEKLY;BYDAY=MO")).isEmpty();
    }
}

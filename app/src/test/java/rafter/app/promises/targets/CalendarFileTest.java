package rafter.app.promises.targets;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.time.Entry;
import rafter.core.time.Repeat;
import rafter.core.time.RepeatWords;

/** What goes out as an iCalendar file comes back the same, and what comes from elsewhere is understood or said. */
class CalendarFileTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2027-03-01T09:00:00Z"), ZoneOffset.UTC);
    private static final List<String> RULES = List.of(
            "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH",
            "FREQ=MONTHLY;BYDAY=2SU",
            "FREQ=MONTHLY;BYMONTHDAY=-1",
            "FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=24,31",
            "FREQ=DAILY;INTERVAL=3;COUNT=40",
            "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR;WKST=SU",
            "FREQ=YEARLY;BYDAY=1MO;BYMONTH=5",
            "FREQ=MONTHLY;BYSETPOS=-1;BYDAY=MO,TU,WE,TH,FR");

    static LongStream seeds() {
        return LongStream.range(0, 150);
    }

    private static Entry random(Random random, int n) {
        boolean allDay = random.nextInt(3) == 0;
        LocalDateTime start = LocalDateTime.of(
                2026,
                1 + random.nextInt(12),
                1 + random.nextInt(28),
                allDay ? 0 : random.nextInt(24),
                allDay ? 0 : 5 * random.nextInt(12));
        LocalDateTime end =
                allDay ? start.plusDays(1 + random.nextInt(4)) : start.plusMinutes(5 + random.nextInt(1800));
        Optional<Repeat> repeat = random.nextInt(3) == 0
                ? Optional.empty()
                : Optional.of(RULES.get(random.nextInt(RULES.size())))
                        .map(rule -> new Repeat(
                                rule,
                                rule.contains("COUNT") || random.nextBoolean()
                                        ? Optional.empty()
                                        : Optional.of(
                                                allDay
                                                        ? start.plusDays(300)
                                                        : start.plusDays(300).withHour(23))));
        var without = new TreeSet<LocalDateTime>();
        var also = new TreeSet<LocalDateTime>();
        for (int i = random.nextInt(3); i > 0; i--) {
            without.add(start.plusDays(random.nextInt(200)));
            also.add(start.plusDays(random.nextInt(200)));
        }
        Optional<ZoneId> zone = random.nextInt(4) == 0 ? Optional.of(ZoneId.of("America/St_Johns")) : Optional.empty();
        Entry.Kind kind = Entry.Kind.values()[random.nextInt(2)];
        String name =
                List.of("", "Harbour festival, day 2; “open”", "Straße\\Kai").get(random.nextInt(3));
        return new Entry(
                "entry-" + n, name, kind, random.nextBoolean(), allDay, start, end, repeat, without, also, zone);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void out_and_in_is_the_same_calendar(long seed) {
        var random = new Random(seed);
        var entries = new ArrayList<Entry>();
        for (int i = 0; i <= random.nextInt(6); i++) {
            entries.add(random(random, i));
        }
        String file = CalendarFile.write("Shore office", OSLO, entries, CLOCK);
        CalendarFile.Read read = CalendarFile.read(file, OSLO, Entry.Kind.CLOSING);
        assertThat(read.entries()).isEqualTo(entries);
        assertThat(read.remarks()).isEmpty();
    }

    private static final String FOREIGN = """
            BEGIN:VCALENDAR
            VERSION:2.0
            PRODID:-//Somebody//Else//EN
            BEGIN:VEVENT
            UID:one@elsewhere.example
            DTSTAMP:20270101T000000Z
            DTSTART;VALUE=DATE:20270517
            SUMMARY:Constitution Day
            RRULE:FREQ=YEARLY
            END:VEVENT
            BEGIN:VEVENT
            UID:two@elsewhere.example
            DTSTAMP:20270101T000000Z
            DTSTART;TZID=Europe/Oslo:20270301T120000
            DURATION:PT90M
            SUMMARY:Long lunch
            RRULE:FREQ=WEEKLY;BYDAY=MO;UNTIL=20270401
            BEGIN:VALARM
            ACTION:DISPLAY
            DESCRIPTION:Lunch
            TRIGGER:-PT15M
            END:VALARM
            END:VEVENT
            BEGIN:VEVENT
            UID:two@elsewhere.example
            RECURRENCE-ID;TZID=Europe/Oslo:20270308T120000
            DTSTAMP:20270101T000000Z
            DTSTART;TZID=Europe/Oslo:20270309T120000
            DTEND;TZID=Europe/Oslo:20270309T130000
            SUMMARY:Long lunch, moved
            END:VEVENT
            BEGIN:VEVENT
            UID:three@elsewhere.example
            DTSTAMP:20270101T000000Z
            DTSTART:20270301T120000Z
            SUMMARY:Without an end
            END:VEVENT
            BEGIN:VEVENT
            UID:four@elsewhere.example
            DTSTAMP:20270101T000000Z
            DTSTART;VALUE=DATE:20270601
            STATUS:CANCELLED
            SUMMARY:Cancelled
            END:VEVENT
            END:VCALENDAR
            """.replace("\n", "\r\n");

    @Test
    void a_file_from_elsewhere_is_taken_over_and_what_cannot_be_is_said() {
        CalendarFile.Read read = CalendarFile.read(FOREIGN, OSLO, Entry.Kind.CLOSING);
        assertThat(read.entries())
                .extracting(RepeatWords::sentence)
                .containsExactly(
                        "Closed every year on the 17th of May from Mon 17 May 2027, all day: Constitution Day",
                        "Closed every week on Monday from Mon 1 Mar 2027 until Thu 1 Apr 2027, 12:00 to 13:30, but not Mon 8 Mar 2027: Long lunch",
                        "Closed once, Tue 9 Mar 2027, 12:00 to 13:00: Long lunch, moved");
        assertThat(read.remarks())
                .anySatisfy(r -> assertThat(r).contains("Without an end").contains("no end"))
                .anySatisfy(r -> assertThat(r).contains("reminder"));
    }

    @Test
    void what_is_no_calendar_file_is_refused_in_words() {
        assertThatThrownBy(() -> CalendarFile.read("Dear sirs", OSLO, Entry.Kind.CLOSING))
                .hasMessageContaining("not an iCalendar file");
    }

    private static CalendarFile.Read events(String... events) {
        String all = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n";
        for (String event : events) {
            all += "BEGIN:VEVENT\r\nSUMMARY:Desk\r\n" + event.replace("\n", "\r\n") + "\r\nEND:VEVENT\r\n";
        }
        return CalendarFile.read(all + "END:VCALENDAR\r\n", OSLO, Entry.Kind.OPENING);
    }

    private static final String DAILY =
            "UID:d\nDTSTART;TZID=Europe/Oslo:20270301T080000\nDTEND;TZID=Europe/Oslo:20270301T120000\nRRULE:FREQ=DAILY;COUNT=5";

    private static List<String> days(CalendarFile.Read read) {
        var calendar = new rafter.core.time.WorkCalendar("x", OSLO, false, read.entries(), List.of());
        return rafter.core.time.WorkingTime.of(calendar)
                .openings(
                        java.time.Instant.parse("2027-02-01T00:00:00Z"),
                        java.time.Instant.parse("2027-06-01T00:00:00Z"))
                .stream()
                .map(open -> open.startInclusive().atZone(OSLO).toLocalDateTime() + "/"
                        + open.endExclusive().atZone(OSLO).toLocalTime())
                .toList();
    }

    @Test
    void a_timed_end_on_local_midnight_takes_in_no_day_more() {
        var read = events(
                "UID:d\nDTSTART;TZID=Europe/Oslo:20270301T080000\nDTEND;TZID=Europe/Oslo:20270301T120000\nRRULE:FREQ=DAILY;UNTIL=20270302T230000Z");
        assertThat(days(read)).containsExactly("2027-03-01T08:00/12:00", "2027-03-02T08:00/12:00");
    }

    @Test
    void a_moved_occurrence_is_found_in_utc_and_before_its_master_and_a_cancelled_one_is_left_out() {
        String moved =
                "UID:d\nRECURRENCE-ID:20270302T070000Z\nDTSTART;TZID=Europe/Oslo:20270302T140000\nDTEND;TZID=Europe/Oslo:20270302T150000";
        String cancelled =
                "UID:d\nRECURRENCE-ID;TZID=Europe/Oslo:20270303T080000\nSTATUS:CANCELLED\nDTSTART;TZID=Europe/Oslo:20270303T080000";
        assertThat(days(events(moved, cancelled, DAILY)))
                .containsExactly(
                        "2027-03-01T08:00/12:00",
                        "2027-03-02T14:00/15:00",
                        "2027-03-04T08:00/12:00",
                        "2027-03-05T08:00/12:00");
    }

    @Test
    void days_left_out_may_be_dates_or_in_another_zone_and_an_end_may_be_in_another_zone() {
        assertThat(days(events(DAILY + "\nEXDATE;VALUE=DATE:20270302\nEXDATE;TZID=Europe/London:20270303T070000")))
                .hasSize(3)
                .noneMatch(day -> day.startsWith("2027-03-02") || day.startsWith("2027-03-03"));
        assertThat(days(events(
                        "UID:e\nDTSTART;TZID=Europe/Oslo:20270301T080000\nDTEND;TZID=Europe/London:20270301T110000")))
                .containsExactly("2027-03-01T08:00/12:00");
    }

    @Test
    void periods_on_top_keep_their_length_and_two_events_of_one_uid_are_two() {
        assertThat(days(events(DAILY + "\nRDATE;VALUE=PERIOD:20270310T070000Z/PT2H,20270311T070000Z/20270311T080000Z")))
                .contains("2027-03-10T08:00/10:00", "2027-03-11T08:00/09:00");
        assertThat(events(DAILY, DAILY.replace("T080000", "T140000").replace("T120000", "T150000"))
                        .entries())
                .hasSize(2);
    }

    @Test
    void what_cannot_be_taken_is_left_out_with_a_remark_that_names_it() {
        assertThat(events(
                                DAILY,
                                "UID:d\nRECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Oslo:20270303T080000\nDTSTART;TZID=Europe/Oslo:20270303T090000\nDTEND;TZID=Europe/Oslo:20270303T100000")
                        .remarks())
                .singleElement()
                .asString()
                .contains("THISANDFUTURE:20270303T080000");
        for (String rule : List.of(
                "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
                "FREQ=YEARLY;INTERVAL=2147483647",
                "FREQ=YEARLY;BYWEEKNO=53",
                "RSCALE=HEBREW;FREQ=YEARLY",
                "FREQ=SECONDLY",
                "FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30")) {
            CalendarFile.Read read = events(
                    "UID:r\nDTSTART;TZID=Europe/Oslo:20270301T080000\nDTEND;TZID=Europe/Oslo:20270301T120000\nRRULE:"
                            + rule);
            assertThat(read.entries()).as(rule).isEmpty();
            assertThat(read.remarks()).as(rule).singleElement().asString().contains("was left out");
        }
        assertThat(events(DAILY + "\nDESCRIPTION:long\nLOCATION:Skelby").remarks())
                .singleElement()
                .asString()
                .contains("DESCRIPTION, LOCATION");
    }

    @Test
    void a_file_names_its_zone_as_its_events_do_and_carries_the_holidays() {
        var set = rafter.core.time.HolidaySet.of(
                "h",
                "Holidays",
                List.of(new rafter.core.time.Holiday(java.time.LocalDate.of(2027, 5, 17), "Day, of; all")));
        var hours = new rafter.core.time.WorkCalendar(
                "Shore, office", OSLO, false, events(DAILY).entries(), List.of(set));
        String file = CalendarFile.write(hours, CLOCK);
        assertThat(file)
                .containsPattern("BEGIN:VTIMEZONE\\R([A-Z-]+:.*\\R)*TZID:Europe/Oslo\\R")
                .contains("TZID=Europe/Oslo")
                .contains("20270517")
                .contains("Day\\, of\\; all")
                .contains("X-WR-CALNAME:Shore\\, office");
        CalendarFile.Read back = CalendarFile.read(file, OSLO, Entry.Kind.OPENING);
        assertThat(back.entries()).hasSize(1);
        assertThat(back.remarks()).singleElement().asString().contains("holiday sets");
    }
}

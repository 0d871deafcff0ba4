package rafter.core.time;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** A rule that cannot be used is said to be none, and stops nothing. */
class RepeatTest {

    private static final LocalDateTime START = LocalDateTime.parse("2027-03-01T08:00");

    @ParameterizedTest
    @ValueSource(
            strings = {
                "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
                "FREQ=MONTHLY;BYMONTH=2;BYMONTHDAY=31",
                "FREQ=YEARLY;INTERVAL=2147483647",
                "FREQ=DAILY;INTERVAL=2147483647",
                "FREQ=WEEKLY;INTERVAL=99999999999",
                "FREQ=SECONDLY",
                "FREQ=MINUTELY;BYMONTH=2;BYMONTHDAY=30",
                "FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30",
                "FREQ=YEARLY;BYYEARDAY=366;BYMONTH=1",
                "FREQ=DAILY;BYMONTH=4;BYMONTHDAY=31",
                "FREQ=YEARLY;BYWEEKNO=53;BYMONTH=6",
                "FREQ=YEARLY;BYWEEKNO=1,53",
                "FREQ=YEARLY;BYWEEKNO=-53",
                "nonsense",
                "",
                "FREQ=",
                "FREQ=DAILY;BYHOUR=25",
                "FREQ=MONTHLY;BYDAY=6MO",
                "RSCALE=HEBREW;FREQ=YEARLY;BYMONTH=5L"
            })
    void a_rule_that_cannot_be_used_says_why_and_never_occurs(String rule) {
        assertTimeoutPreemptively(Duration.ofSeconds(20), () -> {
            Repeat repeat = Repeat.of(rule);
            assertThat(repeat.trouble(START)).isPresent();
            Entry entry = Entry.of("x", "Odd", Entry.Kind.OPENING, START, START.plusHours(8), Optional.of(repeat));
            assertThat(entry.trouble()).isPresent();
            var calendar = new WorkCalendar(
                    "Odd",
                    ZoneId.of("Europe/Oslo"),
                    false,
                    List.of(entry, Entry.weekly(java.time.DayOfWeek.MONDAY, LocalTime.of(8, 0), LocalTime.of(9, 0))),
                    List.of());
            assertThat(WorkingTime.of(calendar)
                            .between(
                                    START.atZone(ZoneId.of("Europe/Oslo")).toInstant(),
                                    START.plusDays(7)
                                            .atZone(ZoneId.of("Europe/Oslo"))
                                            .toInstant()))
                    .isEqualTo(Duration.ofHours(1));
            assertThat(RepeatWords.sentence(entry)).isNotBlank();
        });
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "FREQ=DAILY",
                "FREQ=WEEKLY;BYDAY=MO,TU",
                "FREQ=MONTHLY;BYDAY=-1FR",
                "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29",
                "FREQ=YEARLY;INTERVAL=4",
                "FREQ=HOURLY;INTERVAL=6"
            })
    void a_rule_that_can_be_used_has_no_trouble(String rule) {
        assertThat(Repeat.of(rule).trouble(START)).isEmpty();
    }

    @Test
    void a_rule_of_more_occurrences_than_are_compiled_is_refused() {
        assertThat(Repeat.of("FREQ=HOURLY").trouble(LocalDateTime.parse("2015-01-01T00:00")))
                .hasValueSatisfying(words -> assertThat(words).contains("more than"));
    }

    @Test
    void an_end_before_the_beginning_is_trouble() {
        var repeat = new Repeat("FREQ=DAILY", Optional.of(START.minusDays(1)));
        assertThat(Entry.of("x", "", Entry.Kind.OPENING, START, START.plusHours(1), Optional.of(repeat))
                        .trouble())
                .isPresent();
    }

    /** What occurs on which days of a year, checked by hand against the calendar. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "FREQ=YEARLY;BYMONTHDAY=1,15 | 2027-03-01 2027-03-15 2027-04-01",
                "FREQ=YEARLY;BYMONTH=5;BYMONTHDAY=1,17 | 2027-05-01 2027-05-17 2028-05-01",
                "FREQ=MONTHLY;BYMONTHDAY=31 | 2027-03-31 2027-05-31 2027-07-31",
                "FREQ=MONTHLY;BYDAY=2SU | 2027-03-14 2027-04-11 2027-05-09",
                "FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO | 2027-05-17 2028-05-15 2029-05-14"
            })
    void rules_occur_on_the_days_that_the_standard_says(String rule, String days) {
        List<LocalDate> first = Repeat.of(rule).beginnings(START, START.plusYears(40)).stream()
                .map(LocalDateTime::toLocalDate)
                .limit(3)
                .toList();
        assertThat(first)
                .containsExactlyElementsOf(
                        List.of(days.split(" ")).stream().map(LocalDate::parse).toList());
    }
}

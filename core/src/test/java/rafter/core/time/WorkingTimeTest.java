package rafter.core.time;

import static java.time.DayOfWeek.*;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class WorkingTimeTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final LocalTime EIGHT = LocalTime.of(8, 0);
    private static final LocalTime FIVE = LocalTime.of(17, 0);
    private static final WorkCalendar OFFICE =
            WorkCalendar.weekly("Office", OSLO, EIGHT, FIVE, MONDAY, TUESDAY, WEDNESDAY, THURSDAY, FRIDAY);

    private static Instant oslo(String local) {
        return LocalDateTime.parse(local).atZone(OSLO).toInstant();
    }

    private static WorkingTime office(Holiday... holidays) {
        return WorkingTime.of(OFFICE.withHolidays(List.of(holidays)));
    }

    @Test
    void two_hours_from_friday_half_past_four_end_on_monday() {
        assertThat(office().add(oslo("2027-03-05T16:30"), Duration.ofHours(2))).hasValue(oslo("2027-03-08T09:30"));
    }

    @Test
    void a_holiday_on_monday_moves_them_to_tuesday() {
        var closed = office(new Holiday(LocalDate.of(2027, 3, 8), "Harbour day"));
        assertThat(closed.add(oslo("2027-03-05T16:30"), Duration.ofHours(2))).hasValue(oslo("2027-03-09T09:30"));
    }

    @Test
    void eight_hours_from_the_start_of_an_eight_hour_day_end_with_that_day() {
        var eightHours =
                WorkingTime.of(WorkCalendar.weekly("Short", OSLO, EIGHT, LocalTime.of(16, 0), MONDAY, TUESDAY));
        assertThat(eightHours.add(oslo("2027-03-08T08:00"), Duration.ofHours(8)))
                .hasValue(oslo("2027-03-08T16:00"));
    }

    @Test
    void no_time_at_all_ends_where_it_starts_even_when_closed() {
        Instant sunday = oslo("2027-03-07T12:00");
        assertThat(office().add(sunday, Duration.ZERO)).hasValue(sunday);
    }

    @Test
    void a_negative_amount_is_a_defect_of_the_caller() {
        assertThatThrownBy(() -> office().add(Instant.EPOCH, Duration.ofSeconds(-1)))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void time_backwards_is_negative() {
        assertThat(office().between(oslo("2027-03-08T10:00"), oslo("2027-03-08T09:00")))
                .isEqualTo(Duration.ofHours(-1));
    }

    @Test
    void a_closed_week_gives_no_answer() {
        var never = WorkingTime.of(new WorkCalendar("Never", OSLO, false, List.of(), List.of()));
        assertThat(never.add(oslo("2027-03-08T10:00"), Duration.ofMinutes(1))).isEmpty();
        assertThat(never.nextOpen(oslo("2027-03-08T10:00"))).isEmpty();
        assertThat(never.between(oslo("2027-03-01T00:00"), oslo("2027-04-01T00:00")))
                .isZero();
    }

    @Test
    void around_the_clock_is_plain_time() {
        var always = WorkingTime.of(WorkCalendar.aroundTheClock("Always", OSLO));
        assertThat(always.add(oslo("2027-03-27T12:00"), Duration.ofHours(24))).hasValue(oslo("2027-03-28T13:00"));
        assertThat(always.between(oslo("2027-03-27T12:00"), oslo("2027-03-28T13:00")))
                .isEqualTo(Duration.ofHours(24));
    }

    @Test
    void a_night_desk_goes_on_the_next_evening() {
        var night = WorkingTime.of(
                WorkCalendar.weekly("Night", OSLO, LocalTime.of(22, 0), LocalTime.of(6, 0), DayOfWeek.values()));
        assertThat(night.add(oslo("2027-03-10T05:30"), Duration.ofHours(1))).hasValue(oslo("2027-03-10T22:30"));
    }

    @Test
    void a_holiday_cuts_off_the_tail_of_the_evening_before() {
        var night = WorkingTime.of(
                WorkCalendar.weekly("Night", OSLO, LocalTime.of(22, 0), LocalTime.of(6, 0), DayOfWeek.values())
                        .withHolidays(List.of(new Holiday(LocalDate.of(2027, 3, 10), "Closed"))));
        assertThat(night.openings(oslo("2027-03-09T12:00"), oslo("2027-03-11T12:00")))
                .containsExactly(
                        new Interval(oslo("2027-03-09T22:00"), oslo("2027-03-10T00:00")),
                        new Interval(oslo("2027-03-11T00:00"), oslo("2027-03-11T06:00")));
    }

    @Test
    void midnight_as_an_end_is_the_end_of_the_day_and_days_join_without_a_seam() {
        var days = WorkingTime.of(
                WorkCalendar.weekly("Days", OSLO, LocalTime.MIDNIGHT, LocalTime.MIDNIGHT, MONDAY, TUESDAY));
        assertThat(days.openings(oslo("2027-03-07T00:00"), oslo("2027-03-14T00:00")))
                .containsExactly(new Interval(oslo("2027-03-08T00:00"), oslo("2027-03-10T00:00")));
    }

    @Test
    void the_night_on_which_clocks_go_forward_is_an_hour_shorter_and_back_an_hour_longer() {
        var night = WorkingTime.of(
                WorkCalendar.weekly("Night", OSLO, LocalTime.of(22, 0), LocalTime.of(6, 0), DayOfWeek.values()));
        assertThat(night.between(oslo("2027-03-27T22:00"), oslo("2027-03-28T06:00")))
                .isEqualTo(Duration.ofHours(7));
        assertThat(night.between(oslo("2027-10-30T22:00"), oslo("2027-10-31T06:00")))
                .isEqualTo(Duration.ofHours(9));
    }

    @Test
    void an_opening_that_lies_in_the_gap_of_a_clock_change_moves_later_by_the_gap() {
        var early = WorkingTime.of(WorkCalendar.weekly("Early", OSLO, LocalTime.of(2, 30), LocalTime.of(5, 0), SUNDAY));
        assertThat(early.openings(oslo("2027-03-28T00:00"), oslo("2027-03-28T12:00")))
                .containsExactly(new Interval(oslo("2027-03-28T03:30"), oslo("2027-03-28T05:00")));
    }

    @Test
    void overlapping_openings_count_once() {
        var calendar = new WorkCalendar(
                "Two",
                OSLO,
                false,
                List.of(
                        Entry.weekly(MONDAY, EIGHT, LocalTime.of(12, 0)),
                        Entry.weekly(MONDAY, LocalTime.of(11, 0), FIVE)),
                List.of());
        assertThat(WorkingTime.of(calendar).between(oslo("2027-03-08T00:00"), oslo("2027-03-09T00:00")))
                .isEqualTo(Duration.ofHours(9));
    }

    @Test
    void the_first_instant_of_an_opening_is_open_and_its_last_is_not() {
        assertThat(office().isOpen(oslo("2027-03-08T08:00"))).isTrue();
        assertThat(office().isOpen(oslo("2027-03-08T17:00"))).isFalse();
        assertThat(office().nextOpen(oslo("2027-03-08T17:00"))).isEqualTo(Optional.of(oslo("2027-03-09T08:00")));
    }
}

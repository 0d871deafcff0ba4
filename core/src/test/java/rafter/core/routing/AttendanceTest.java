package rafter.core.routing;

import static java.time.DayOfWeek.FRIDAY;
import static java.time.DayOfWeek.MONDAY;
import static java.time.DayOfWeek.THURSDAY;
import static java.time.DayOfWeek.TUESDAY;
import static java.time.DayOfWeek.WEDNESDAY;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** Where somebody is, by what they said, what is planned, their hours, and whether a page of theirs is open. */
class AttendanceTest {

    /** A Tuesday; in Oslo it is 10:00 in summer. */
    private static final Instant TEN = Instant.parse("2027-06-01T08:00:00Z");

    private static final WorkingTime OFFICE = WorkingTime.of(WorkCalendar.weekly(
            "Office",
            ZoneId.of("Europe/Oslo"),
            LocalTime.of(8, 0),
            LocalTime.of(16, 0),
            MONDAY,
            TUESDAY,
            WEDNESDAY,
            THURSDAY,
            FRIDAY));

    private static Attendance said(Presence said, Optional<Instant> since, Optional<WorkingTime> hours) {
        return new Attendance(said, "lunch", since, false, Optional.of(TEN.plus(Duration.ofDays(9))), List.of(), hours);
    }

    private static Instant hours(long later) {
        return TEN.plus(Duration.ofHours(later));
    }

    @Test
    void without_hours_somebody_is_where_they_say() {
        Attendance away = said(Presence.AWAY, Optional.of(TEN), Optional.empty());
        assertThat(away.at(hours(100))).isEqualTo(new Attendance.Where(Presence.AWAY, "lunch"));
        assertThat(said(Presence.OFF, Optional.empty(), Optional.empty())
                        .at(TEN)
                        .presence())
                .isEqualTo(Presence.OFF);
    }

    @Test
    void what_they_said_counts_until_their_hours_next_begin_or_end() {
        Attendance away = said(Presence.AWAY, Optional.of(TEN), Optional.of(OFFICE));
        assertThat(away.at(hours(5)).presence()).isEqualTo(Presence.AWAY);
        assertThat(away.at(hours(6)).presence()).as("at four they go home").isEqualTo(Presence.OFF);
        assertThat(away.at(hours(22)).presence()).as("at eight they are back").isEqualTo(Presence.HERE);
        Attendance late = said(Presence.HERE, Optional.of(hours(7)), Optional.of(OFFICE));
        assertThat(late.at(hours(8)).presence())
                .as("they stayed longer and said so")
                .isEqualTo(Presence.HERE);
    }

    @Test
    void a_planned_absence_comes_before_all_and_says_when_they_are_back() {
        var trip = new Attendance.Absence(1, hours(1), hours(24), "");
        var planned = new Attendance(
                Presence.HERE, "", Optional.of(TEN), false, Optional.of(hours(99)), List.of(trip), Optional.of(OFFICE));
        assertThat(planned.at(TEN).presence()).isEqualTo(Presence.HERE);
        assertThat(planned.at(hours(1))).isEqualTo(new Attendance.Where(Presence.AWAY, "planned"));
        assertThat(planned.back(hours(1))).contains(hours(24));
        assertThat(planned.at(hours(24)).presence()).isEqualTo(Presence.HERE);
        assertThat(planned.back(TEN)).isEmpty();
        assertThat(said(Presence.OFF, Optional.of(TEN), Optional.empty()).back(TEN))
                .isEmpty();
    }

    @Test
    void of_the_day_is_left_what_comes_before_their_hours_end_or_an_absence_begins() {
        Duration unplanned = Duration.ofHours(3);
        Attendance office = said(Presence.HERE, Optional.of(TEN), Optional.of(OFFICE));
        assertThat(office.left(TEN, unplanned)).isEqualTo(Duration.ofHours(6));
        assertThat(office.left(hours(6), unplanned)).isEqualTo(Duration.ZERO);
        assertThat(office.left(hours(5), unplanned)).isEqualTo(Duration.ofHours(1));
        Attendance own = said(Presence.HERE, Optional.of(TEN), Optional.empty());
        assertThat(own.left(TEN, unplanned)).isEqualTo(unplanned);
        var trip = new Attendance.Absence(1, hours(2), hours(24), "");
        Attendance leaving = new Attendance(
                Presence.HERE, "", Optional.of(TEN), false, Optional.of(hours(9)), List.of(trip), Optional.of(OFFICE));
        assertThat(leaving.left(TEN, unplanned)).isEqualTo(Duration.ofHours(2));
    }

    @Test
    void nobody_is_at_work_of_whom_no_page_is_open() {
        var gone = new Attendance(
                Presence.HERE, "", Optional.of(TEN), false, Optional.of(hours(1)), List.of(), Optional.empty());
        assertThat(gone.at(TEN).presence()).isEqualTo(Presence.HERE);
        assertThat(gone.at(hours(1))).isEqualTo(new Attendance.Where(Presence.AWAY, "no page is open"));
    }

    @Test
    void rules_of_handing_out_tell_what_is_wrong_with_them() {
        assertThat(HandOutRules.usual().faults()).isEmpty();
        assertThat(HandOutRules.usual().units("telephone")).isEqualTo(1);
        assertThat(new HandOutRules(
                                Map.of(Factor.ROOM, 0),
                                Map.of("chat", -1.0),
                                Optional.of(Duration.ofSeconds(5)),
                                List.of("x".repeat(61)),
                                true,
                                false)
                        .faults())
                .hasSize(4);
        assertThat(new HandOutRules(
                                Map.of(Factor.ROOM, 101),
                                Map.of("chat", Double.NaN),
                                Optional.empty(),
                                List.of(),
                                true,
                                false)
                        .faults())
                .hasSize(2);
    }

    @Test
    void somebody_takes_more_or_less_of_their_limit_by_the_best_level_they_have() {
        HandOutRules usual = HandOutRules.usual();
        var rules = new HandOutRules(
                usual.weights(),
                usual.units(),
                usual.idleAfter(),
                List.of(),
                false,
                true,
                Map.of(SkillLevel.LEARNING, 50, SkillLevel.EXPERT, 125));
        assertThat(rules.limit(8, List.of(SkillLevel.LEARNING))).isEqualTo(4);
        assertThat(rules.limit(8, List.of(SkillLevel.LEARNING, SkillLevel.EXPERT)))
                .isEqualTo(10);
        assertThat(rules.limit(8, List.of(SkillLevel.ABLE))).isEqualTo(8);
        assertThat(rules.limit(8, List.of())).isEqualTo(8);
        assertThat(rules.faults()).isEmpty();
        assertThat(usual.limit(8, List.of(SkillLevel.LEARNING))).isEqualTo(8);
        assertThat(new HandOutRules(
                                usual.weights(),
                                usual.units(),
                                usual.idleAfter(),
                                List.of(),
                                false,
                                true,
                                Map.of(SkillLevel.ABLE, 9))
                        .faults())
                .hasSize(1);
    }
}

package rafter.core.target;

import static java.time.DayOfWeek.*;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Facts;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Way;
import rafter.core.time.Holiday;
import rafter.core.time.WorkCalendar;

/** The examples of what a clock counts. The week of the examples begins on Monday 1 March 2027. */
class ReckoningTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Actor IMANI = new Actor.Person(new PersonId(1));
    private static final Actor DOV = new Actor.Contact(new ContactId(7));
    private static final WorkCalendar WEEK = WorkCalendar.weekly(
            "Office", OSLO, LocalTime.of(8, 0), LocalTime.of(17, 0), MONDAY, TUESDAY, WEDNESDAY, THURSDAY, FRIDAY);

    private final List<TicketEvent> events = new ArrayList<>();
    private WorkCalendar hours = WEEK;

    private static Instant at(String local) {
        return LocalDateTime.parse(local).atZone(OSLO).toInstant();
    }

    private static Promise promise(Objective objective, int hours) {
        return new Promise(Map.of(objective, Map.of(Priority.P3, Duration.ofHours(hours))));
    }

    private ReckoningTest opened(String when) {
        events.add(new TicketEvent.Opened(
                at(when),
                DOV,
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot",
                new ContactId(7),
                Priority.P3,
                Optional.empty()));
        return this;
    }

    private ReckoningTest weWrote(String when) {
        events.add(new TicketEvent.WeWrote(at(when), IMANI, new MessageId(1), false));
        return moved(when, TicketState.WITH_CUSTOMER);
    }

    private ReckoningTest acknowledged(String when) {
        events.add(new TicketEvent.WeWrote(at(when), Actor.system(), new MessageId(1), true));
        return this;
    }

    private ReckoningTest customerWrote(String when) {
        events.add(new TicketEvent.CustomerWrote(at(when), DOV, new MessageId(2), false));
        return moved(when, TicketState.IN_HAND);
    }

    private ReckoningTest moved(String when, TicketState state) {
        events.add(new TicketEvent.StateChanged(at(when), IMANI, state));
        return this;
    }

    private ReckoningTest priority(String when, Priority priority) {
        events.add(new TicketEvent.PriorityChanged(at(when), IMANI, priority));
        return this;
    }

    private TargetClock clock(Promise promise, Objective objective, String now) {
        return Reckoning.latest(Reckoning.reckon(events, Facts.none(), Editions.always(promise, hours), at(now)))
                .get(objective);
    }

    @Test
    void example_1_created_friday_afternoon_is_due_on_monday() {
        var clock = opened("2027-03-05T16:30")
                .clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-05T16:45");
        assertThat(clock.dueMark()).hasValue(at("2027-03-08T09:30"));
        assertThat(clock.used()).isEqualTo(Duration.ofMinutes(15));
        assertThat(clock.late()).isFalse();
    }

    @Test
    void example_2_a_holiday_moves_it_on() {
        hours = WEEK.withHolidays(List.of(new Holiday(LocalDate.of(2027, 3, 8), "Harbour day")));
        var clock = opened("2027-03-05T16:30")
                .clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-05T16:45");
        assertThat(clock.dueMark()).hasValue(at("2027-03-09T09:30"));
    }

    @Test
    void example_3_created_on_saturday_it_begins_to_count_on_monday() {
        var clock = opened("2027-03-06T11:00")
                .clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-07T11:00");
        assertThat(clock.used()).isZero();
        assertThat(clock.dueMark()).hasValue(at("2027-03-08T10:00"));
    }

    @Test
    void example_4_a_second_message_does_not_restart_the_next_reply() {
        opened("2027-03-01T09:00")
                .weWrote("2027-03-01T10:00")
                .customerWrote("2027-03-02T10:00")
                .customerWrote("2027-03-02T11:00");
        assertThat(clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-02T11:30")
                        .dueMark())
                .hasValue(at("2027-03-02T14:00"));
    }

    @Test
    void example_5_time_with_a_partner_is_held() {
        opened("2027-03-01T09:00").weWrote("2027-03-01T10:00").customerWrote("2027-03-02T10:00");
        moved("2027-03-02T11:00", TicketState.WITH_PARTNER);
        var paused = clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-02T12:00");
        assertThat(paused.state()).isEqualTo(new ClockState.Held(Duration.ofHours(3)));
        assertThat(paused.dueMark()).isEmpty();
        moved("2027-03-02T13:00", TicketState.IN_HAND);
        assertThat(clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-02T13:30")
                        .dueMark())
                .hasValue(at("2027-03-02T16:00"));
    }

    private static final Promise RESOLVE_BY_PRIORITY = new Promise(
            Map.of(Objective.RESOLUTION, Map.of(Priority.P3, Duration.ofHours(16), Priority.P1, Duration.ofHours(4))));

    @Test
    void example_6_a_raised_priority_keeps_what_was_used() {
        opened("2027-03-01T08:00").priority("2027-03-01T11:00", Priority.P1);
        assertThat(clock(RESOLVE_BY_PRIORITY, Objective.RESOLUTION, "2027-03-01T11:10")
                        .dueMark())
                .hasValue(at("2027-03-01T12:00"));
    }

    @Test
    void example_6_raised_when_more_was_used_than_is_now_allowed_it_is_late_at_once() {
        opened("2027-03-01T08:00").priority("2027-03-01T13:00", Priority.P1);
        var clock = clock(RESOLVE_BY_PRIORITY, Objective.RESOLUTION, "2027-03-01T13:00");
        assertThat(clock.late()).isTrue();
        assertThat(clock.dueMark()).hasValue(at("2027-03-01T13:00"));
    }

    @Test
    void example_7_around_the_clock_over_the_night_on_which_clocks_go_forward() {
        hours = WorkCalendar.aroundTheClock("Always", OSLO);
        var clock = opened("2027-03-27T12:00")
                .clock(promise(Objective.FIRST_REPLY, 24), Objective.FIRST_REPLY, "2027-03-27T13:00");
        assertThat(clock.dueMark()).hasValue(at("2027-03-28T13:00"));
    }

    @Test
    void example_8_a_night_desk() {
        hours = WorkCalendar.weekly(
                "Night", OSLO, LocalTime.of(22, 0), LocalTime.of(6, 0), java.time.DayOfWeek.values());
        var clock = opened("2027-03-10T05:30")
                .clock(promise(Objective.FIRST_REPLY, 1), Objective.FIRST_REPLY, "2027-03-10T05:40");
        assertThat(clock.dueMark()).hasValue(at("2027-03-10T22:30"));
    }

    @Test
    void example_9_an_acknowledgement_meets_nothing_and_a_minute_late_is_late() {
        opened("2027-03-05T16:30").acknowledged("2027-03-05T16:30").weWrote("2027-03-08T09:31");
        var clock = clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-09T09:00");
        assertThat(clock.state()).isEqualTo(new ClockState.Met(at("2027-03-08T09:31")));
        assertThat(clock.late()).isTrue();
        assertThat(clock.left()).isEqualTo(Duration.ofMinutes(-1));
        assertThat(clock.dueMark()).hasValue(at("2027-03-08T09:30"));
    }

    @Test
    void the_due_instant_itself_is_late() {
        opened("2027-03-05T16:30").weWrote("2027-03-08T09:30");
        assertThat(clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-09T09:00")
                        .late())
                .isTrue();
    }

    @Test
    void example_10_reopened_the_resolution_runs_on_and_the_first_reply_stays_met() {
        var both = new Promise(Map.of(
                Objective.FIRST_REPLY, Map.of(Priority.P3, Duration.ofHours(2)),
                Objective.RESOLUTION, Map.of(Priority.P3, Duration.ofHours(16))));
        opened("2027-03-01T08:00").weWrote("2027-03-01T09:00").moved("2027-03-01T09:00", TicketState.RESOLVED);
        assertThat(clock(both, Objective.RESOLUTION, "2027-03-01T10:00").state())
                .isEqualTo(new ClockState.Met(at("2027-03-01T09:00")));
        customerWrote("2027-03-02T08:00");
        var resolution = clock(both, Objective.RESOLUTION, "2027-03-02T10:00");
        assertThat(resolution.used()).isEqualTo(Duration.ofHours(3));
        assertThat(resolution.dueMark()).hasValue(at("2027-03-03T14:00"));
        assertThat(Reckoning.reckon(events, Facts.none(), Editions.always(both, hours), at("2027-03-02T10:00")))
                .filteredOn(c -> c.objective() == Objective.RESOLUTION)
                .hasSize(1);
        assertThat(clock(both, Objective.FIRST_REPLY, "2027-03-02T10:00").late())
                .isFalse();
    }

    @Test
    void before_we_ever_answered_a_further_message_starts_no_next_reply() {
        opened("2027-03-01T08:00").customerWrote("2027-03-01T09:00");
        assertThat(clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-01T10:00"))
                .isNull();
    }

    @Test
    void an_automatic_message_of_the_customers_starts_nothing() {
        opened("2027-03-01T08:00").weWrote("2027-03-01T09:00");
        events.add(new TicketEvent.CustomerWrote(at("2027-03-01T09:01"), DOV, new MessageId(3), true));
        assertThat(clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-01T10:00"))
                .isNull();
    }

    @Test
    void a_team_that_never_opens_promises_no_instant() {
        hours = new WorkCalendar("Never", OSLO, false, List.of(), List.of());
        var clock = opened("2027-03-01T08:00")
                .clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-02T10:00");
        assertThat(clock.dueMark()).isEmpty();
        assertThat(clock.late()).isFalse();
        assertThat(Reckoning.nextDue(List.of(clock))).isEmpty();
    }

    @Test
    void a_priority_without_a_promise_lifts_the_clock() {
        var clock = opened("2027-03-01T08:00")
                .priority("2027-03-01T09:00", Priority.P4)
                .clock(promise(Objective.FIRST_REPLY, 2), Objective.FIRST_REPLY, "2027-03-02T10:00");
        assertThat(clock.state()).isEqualTo(new ClockState.Lifted(at("2027-03-01T09:00")));
        assertThat(clock.late()).isFalse();
    }

    @Test
    void a_promise_that_comes_back_counts_from_its_own_start() {
        var clock = opened("2027-03-01T08:00")
                .priority("2027-03-01T09:00", Priority.P4)
                .priority("2027-03-01T10:00", Priority.P3)
                .clock(promise(Objective.FIRST_REPLY, 4), Objective.FIRST_REPLY, "2027-03-01T10:30");
        assertThat(clock.dueMark()).hasValue(at("2027-03-01T12:00"));
    }

    @Test
    void closing_a_ticket_ends_what_still_waits_for_a_reply() {
        opened("2027-03-01T08:00").weWrote("2027-03-01T09:00").customerWrote("2027-03-02T08:00");
        moved("2027-03-02T09:00", TicketState.RESOLVED).moved("2027-03-09T09:00", TicketState.CLOSED);
        var clock = clock(promise(Objective.NEXT_REPLY, 4), Objective.NEXT_REPLY, "2027-03-10T09:00");
        assertThat(clock.state()).isEqualTo(new ClockState.Lifted(at("2027-03-09T09:00")));
        assertThat(clock.late()).isFalse();
    }
}

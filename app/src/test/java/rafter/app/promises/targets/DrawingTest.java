package rafter.app.promises.targets;

import static java.time.DayOfWeek.*;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
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
import rafter.core.id.PersonId;
import rafter.core.target.ClockOutline;
import rafter.core.target.Editions;
import rafter.core.target.Objective;
import rafter.core.target.Promise;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** Rails, words and axes of clocks. */
class DrawingTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final WorkingTime HOURS = WorkingTime.of(WorkCalendar.weekly(
            "Office", OSLO, LocalTime.of(8, 0), LocalTime.of(17, 0), MONDAY, TUESDAY, WEDNESDAY, THURSDAY, FRIDAY));
    private static final Promise FOUR_HOURS =
            new Promise(Map.of(Objective.FIRST_REPLY, Map.of(Priority.P3, Duration.ofHours(4))));

    private final List<TicketEvent> events = new ArrayList<>(List.of(new TicketEvent.Opened(
            at("2027-03-01T09:00"),
            new Actor.Contact(new ContactId(7)),
            TicketEvent.Origin.CUSTOMER,
            Way.by("email"),
            "x",
            new ContactId(7),
            Priority.P3,
            Optional.empty())));

    private static Instant at(String local) {
        return LocalDateTime.parse(local).atZone(OSLO).toInstant();
    }

    private TargetClock clock(String now) {
        return Reckoning.latest(
                        Reckoning.reckon(events, Facts.none(), Editions.always(FOUR_HOURS, HOURS.calendar()), at(now)))
                .get(Objective.FIRST_REPLY);
    }

    private DrawingTest moved(String when, TicketState state) {
        events.add(new TicketEvent.StateChanged(at(when), new Actor.Person(new PersonId(1)), state));
        return this;
    }

    private static void tiles(Rail rail) {
        int x = 0;
        for (Rail.Bar bar : rail.bars()) {
            assertThat(bar.x()).isEqualTo(x);
            x += bar.width();
        }
        assertThat(x).isEqualTo(Rail.WIDTH);
    }

    @Test
    void a_rail_at_half_time_is_half_used_and_due_at_its_end() {
        Rail rail = Rail.of(clock("2027-03-01T11:00"));
        assertThat(rail.bars()).containsExactly(new Rail.Bar(0, 59, "used"), new Rail.Bar(59, 59, "rest"));
        assertThat(rail.dueX()).isEqualTo(Rail.WIDTH);
    }

    @Test
    void a_late_rail_is_all_used_and_its_due_mark_stands_where_time_ran_out() {
        Rail rail = Rail.of(clock("2027-03-01T17:00"));
        assertThat(rail.bars()).containsExactly(new Rail.Bar(0, Rail.WIDTH, "used"));
        assertThat(rail.dueX()).isEqualTo(Rail.WIDTH / 2);
    }

    @Test
    void held_time_is_drawn_between_and_the_whole_stays_as_wide() {
        moved("2027-03-01T10:00", TicketState.WITH_PARTNER).moved("2027-03-01T12:00", TicketState.IN_HAND);
        Rail rail = Rail.of(clock("2027-03-01T13:00"));
        assertThat(rail.bars()).extracting(Rail.Bar::kind).containsExactly("used", "held", "used", "rest");
        tiles(rail);
    }

    private ClockOutline outline(String now) {
        return ClockOutline.pressing(List.of(clock(now)), at(now)).orElseThrow();
    }

    @Test
    void a_night_is_no_held_time() {
        moved("2027-03-01T17:30", TicketState.WITH_PARTNER).moved("2027-03-02T07:00", TicketState.IN_HAND);
        assertThat(Rail.of(clock("2027-03-02T09:00")).bars())
                .extracting(Rail.Bar::kind)
                .doesNotContain("held");
    }

    @Test
    void clocks_are_told_as_people_say_them() {
        Instant now = at("2027-03-01T12:20");
        ClockView view = ClockView.of(outline("2027-03-01T12:20"), Turn.OURS, now, OSLO);
        assertThat(view.headline()).isEqualTo("40 m left");
        assertThat(view.line()).isEqualTo("first reply by 13:00");
        assertThat(view.tone()).isEqualTo("soon");
        assertThat(view.exact()).contains("Monday 1 March 2027, 13:00:00 Europe/Oslo");
    }

    @Test
    void a_held_clock_says_who_is_waited_for() {
        moved("2027-03-01T10:00", TicketState.WITH_PARTNER);
        ClockView view = ClockView.of(outline("2027-03-01T12:00"), Turn.PARTNER, at("2027-03-01T12:00"), OSLO);
        assertThat(view.headline()).isEqualTo("3 h left");
        assertThat(view.line()).isEqualTo("paused, partner to answer");
        assertThat(view.tone()).isEqualTo("calm");
    }

    @Test
    void a_late_clock_says_by_how_much() {
        ClockView view = ClockView.of(outline("2027-03-01T13:16"), Turn.OURS, at("2027-03-01T13:16"), OSLO);
        assertThat(view.headline()).isEqualTo("16 m over");
        assertThat(view.line()).isEqualTo("first reply was due 13:00");
        assertThat(view.tone()).isEqualTo("late");
    }

    @Test
    void on_an_axis_closed_time_is_folded_and_order_is_kept() {
        var axis = new Axis(HOURS, at("2027-03-01T08:00"), at("2027-03-02T17:00"), 100, 1000, 0.1);
        assertThat(axis.x(at("2027-03-01T08:00"))).isEqualTo(100);
        assertThat(axis.x(at("2027-03-02T17:00"))).isEqualTo(1100);
        int night = axis.x(at("2027-03-02T08:00")) - axis.x(at("2027-03-01T17:00"));
        int day = axis.x(at("2027-03-01T17:00")) - axis.x(at("2027-03-01T08:00"));
        assertThat(night).isPositive().isLessThan(day / 4);
    }
}

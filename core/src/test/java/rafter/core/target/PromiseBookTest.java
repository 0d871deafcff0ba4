package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.time.Entry;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;

/** The document of hours and promises: its parts by their names, and what keeps it from being put into force. */
class PromiseBookTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final ZoneId LISBON = ZoneId.of("Europe/Lisbon");
    private static final HolidaySet HOLIDAYS =
            HolidaySet.of("h", "Holidays", List.of(new Holiday(LocalDate.of(2027, 5, 1), "May Day")));
    private static final CalendarPlan DESK = plan("desk", List.of("h"));
    private static final CalendarPlan NIGHT = plan("night", List.of());
    private static final PromiseBook BOOK = new PromiseBook(
            OSLO,
            "desk",
            List.of(DESK, NIGHT),
            List.of(HOLIDAYS, HolidaySet.of("x", "Other", List.of())),
            List.of(policy("one", Optional.of("night"))));

    private static CalendarPlan plan(String id, List<String> sets) {
        return new CalendarPlan(
                id,
                "The " + id,
                Optional.empty(),
                false,
                List.of(Entry.weekly(java.time.DayOfWeek.MONDAY, LocalTime.of(8, 0), LocalTime.of(17, 0))),
                sets);
    }

    private static Policy policy(String id, Optional<String> calendar) {
        var within = new EnumMap<Priority, Duration>(Map.of(Priority.P1, Duration.ofHours(1)));
        var goal = new Goal(within, java.util.Set.of(Turn.CUSTOMER), 100, false);
        return new Policy(
                id,
                "Policy " + id,
                "",
                true,
                Criteria.test(KnownField.PLAN, Operator.IS, "Anchor"),
                calendar,
                Map.of(Objective.RESOLUTION, goal),
                List.of());
    }

    @Test
    void its_parts_are_found_by_their_ids() {
        assertThat(BOOK.plan("night")).hasValue(NIGHT);
        assertThat(BOOK.plan("none")).isEmpty();
        assertThat(BOOK.policy("one").map(Policy::name)).hasValue("Policy one");
        assertThat(BOOK.policy("two")).isEmpty();
        assertThat(BOOK.calendar(DESK).holidays()).containsExactly(HOLIDAYS);
        assertThat(BOOK.calendar(NIGHT).holidays()).isEmpty();
        assertThat(BOOK.calendar(DESK).zone()).isEqualTo(OSLO);
        assertThat(BOOK.calendarOf(BOOK.policies().getFirst()).name()).isEqualTo("The night");
        assertThat(BOOK.calendarOf(policy("two", Optional.empty())).aroundTheClock())
                .isTrue();
    }

    @Test
    void one_part_is_changed_and_the_others_stay() {
        Risk risk = new Risk(50, Duration.ofMinutes(10));
        assertThat(BOOK.riskOrUsual()).isEqualTo(Risk.USUAL);
        PromiseBook other = BOOK.withRisk(risk)
                .withZone(LISBON)
                .withDefault("night")
                .withHolidaySets(List.of())
                .withCalendars(List.of(NIGHT))
                .withPolicies(List.of());
        assertThat(other.riskOrUsual()).isEqualTo(risk);
        assertThat(other.zone()).isEqualTo(LISBON);
        assertThat(other.defaultCalendar()).isEqualTo("night");
        assertThat(other.holidaySets()).isEmpty();
        assertThat(other.calendars()).containsExactly(NIGHT);
        assertThat(other.policies()).isEmpty();
        assertThat(BOOK.withZone(LISBON).calendars()).isEqualTo(BOOK.calendars());
    }

    @Test
    void what_keeps_it_from_being_put_into_force_is_said() {
        assertThat(BOOK.faults()).isEmpty();
        assertThat(BOOK.withDefault("gone").faults()).singleElement().asString().contains("No calendar is the default");
        assertThat(BOOK.withHolidaySets(List.of()).faults())
                .singleElement()
                .asString()
                .contains("The desk")
                .contains("holiday set that is gone");
        assertThat(BOOK.withPolicies(List.of(policy("one", Optional.of("gone"))))
                        .faults())
                .singleElement()
                .asString()
                .contains("calendar that is gone");
        assertThat(BOOK.withPolicies(List.of(policy("one", Optional.empty()), policy("one", Optional.empty())))
                        .faults())
                .singleElement()
                .asString()
                .contains("Two policies are called");
        Entry never = Entry.of(
                "e",
                "Never",
                Entry.Kind.OPENING,
                LocalDateTime.parse("2027-02-28T08:00"),
                LocalDateTime.parse("2027-02-28T09:00"),
                Optional.of(new rafter.core.time.Repeat("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", Optional.empty())));
        assertThat(BOOK.withCalendars(List.of(DESK, NIGHT.with(List.of(never)))).faults())
                .singleElement()
                .asString()
                .contains("The night")
                .contains("entry “Never”");
    }
}

package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.promises.targets.Terms;
import rafter.core.target.Editions;
import rafter.core.target.Promise;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** The due horizon from made-up figures. It is Monday 1 March 2027 in Oslo; open Monday to Friday, 08 to 17. */
class HorizonTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final WorkCalendar WEEK = WorkCalendar.weekly(
            "Office",
            OSLO,
            LocalTime.of(8, 0),
            LocalTime.of(17, 0),
            DayOfWeek.MONDAY,
            DayOfWeek.TUESDAY,
            DayOfWeek.WEDNESDAY,
            DayOfWeek.THURSDAY,
            DayOfWeek.FRIDAY);
    private static final Terms TERMS =
            new Terms(Editions.always(new Promise(Map.of()), WEEK), WorkingTime.of(WEEK), OSLO);

    private final List<WorklistStore.Due> due = new ArrayList<>();

    private static Instant at(String time) {
        return Instant.parse("2027-03-01T" + time + ":00Z");
    }

    /** So many targets of a kind in a column. */
    private HorizonTest with(int bucket, String objective, int count) {
        due.add(new WorklistStore.Due(
                bucket,
                objective,
                count,
                LongStream.range(0, Math.min(count, 6))
                        .map(n -> 4000 + 10L * bucket + n)
                        .boxed()
                        .toArray(Long[]::new)));
        return this;
    }

    private Horizon drawn(String time) {
        return Horizon.draw(TERMS, at(time), edges -> due);
    }

    private static List<Instant> edges(String time) {
        var found = new ArrayList<Instant>();
        Horizon.draw(TERMS, at(time), edges -> {
            found.addAll(edges);
            return List.of();
        });
        return found;
    }

    @Test
    void an_empty_list_has_an_empty_horizon_that_says_so() {
        Horizon horizon = drawn("09:00");
        assertThat(horizon.total()).isZero();
        assertThat(horizon.marks()).isEmpty();
        assertThat(horizon.stretches()).isEmpty();
        assertThat(horizon.text()).startsWith("0 targets running").contains("0 late");
    }

    @Test
    void what_is_late_stands_in_the_bin_and_what_has_no_room_there_is_counted() {
        Horizon horizon = with(0, "FIRST_REPLY", 14).drawn("09:00");
        assertThat(horizon.late()).isEqualTo(14);
        assertThat(horizon.marks()).hasSize(6).allMatch(mark -> mark.tone().equals("late") && mark.x() < Horizon.LEFT);
        assertThat(horizon.more())
                .singleElement()
                .satisfies(more -> assertThat(more.words()).isEqualTo("+8"));
    }

    @Test
    void targets_of_one_column_are_stacked_and_none_stands_on_another() {
        Horizon horizon = with(5, "FIRST_REPLY", 2)
                .with(5, "RESOLUTION", 1)
                .with(9, "NEXT_REPLY", 1)
                .drawn("09:00");
        assertThat(horizon.marks()).hasSize(4).doesNotHaveDuplicates();
        assertThat(horizon.marks().stream()
                        .map(mark -> mark.x() + ":" + mark.y())
                        .distinct())
                .hasSize(4);
        assertThat(horizon.marks())
                .allMatch(mark ->
                        mark.x() > Horizon.LEFT && mark.x() < Horizon.LEFT + Horizon.WIDTH && mark.y() < Horizon.BASE);
        assertThat(horizon.more()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"8, 4, 4", "9, 2, 7", "20, 2, 18", "21, 1, 20", "900, 1, 899"})
    void the_more_fall_due_the_fewer_are_drawn_and_the_rest_is_said(int each, int drawn, int said) {
        for (int bucket = 1; bucket <= 25; bucket++) {
            with(bucket, "RESOLUTION", each);
        }
        Horizon horizon = drawn("09:00");
        assertThat(horizon.marks()).hasSize(25 * drawn);
        assertThat(horizon.more()).hasSize(25).allMatch(more -> more.words().equals("+" + said));
        assertThat(horizon.total()).isEqualTo(25 * each);
    }

    @Test
    void columns_below_the_legend_leave_it_free() {
        Horizon horizon = with(2, "RESOLUTION", 4).with(50, "RESOLUTION", 4).drawn("09:00");
        assertThat(horizon.marks().stream().filter(mark -> mark.x() < 900)).hasSize(4);
        assertThat(horizon.marks().stream().filter(mark -> mark.x() > 900)).hasSize(2);
        assertThat(horizon.more()).singleElement().satisfies(more -> {
            assertThat(more.words()).isEqualTo("+2");
            assertThat(more.y()).isGreaterThan(30);
        });
    }

    @Test
    void the_marks_open_their_tickets_and_are_named_in_words() {
        String svg = with(0, "FIRST_REPLY", 1)
                .with(3, "RESOLUTION", 1)
                .drawn("09:00")
                .marksSvg();
        assertThat(svg)
                .contains(
                        "<g class=\"late\"><a tabindex=\"0\" href=\"/tickets/4000\"><title>4000 First reply late</title>",
                        "href=\"#h-resolution\"")
                .doesNotContain("<script");
    }

    @ParameterizedTest
    @ValueSource(strings = {"06:00", "07:00", "09:05", "12:34", "15:59", "17:30", "22:00"})
    void columns_run_on_and_begin_with_the_hours(String time) {
        List<Instant> edges = edges(time);
        assertThat(edges).isSorted().doesNotHaveDuplicates();
        assertThat(edges.getFirst()).isEqualTo(at(time));
        assertThat(edges).allMatch(edge -> TERMS.hours().between(at(time), edge).compareTo(Duration.ofHours(11)) <= 0);
        List<Instant> openHours = List.of(Instant.parse("2027-03-02T08:00:00Z"), Instant.parse("2027-03-02T09:00:00Z"));
        assertThat(openHours).allMatch(hour -> !hour.isBefore(edges.getLast()) || edges.contains(hour));
    }

    @Test
    void hours_in_words_are_those_of_the_wall() {
        Horizon horizon = with(0, "FIRST_REPLY", 2)
                .with(1, "RESOLUTION", 1)
                .with(30, "NEXT_REPLY", 3)
                .with(30, "RESOLUTION", 1)
                .drawn("09:00");
        assertThat(horizon.stretches())
                .extracting(Horizon.Stretch::words)
                .satisfiesExactly(
                        late -> assertThat(late).isEqualTo("late"),
                        first -> assertThat(first).startsWith("10:00 to 11:00"),
                        last -> assertThat(last).contains(" to "));
        assertThat(horizon.stretches())
                .extracting(Horizon.Stretch::kinds)
                .containsExactly("2 first reply", "1 resolution", "3 next reply, 1 resolution");
        assertThat(horizon.stretches().getFirst().due())
                .isEqualTo("0-" + at("09:00").getEpochSecond());
    }

    @Test
    void around_the_clock_nothing_is_folded() {
        var always = WorkingTime.of(WorkCalendar.aroundTheClock("Always", OSLO));
        Horizon horizon = Horizon.draw(new Terms(TERMS.editions(), always, OSLO), at("09:00"), edges -> List.of());
        assertThat(horizon.folds()).isEmpty();
        assertThat(horizon.ticks()).hasSizeBetween(10, 13);
        assertThat(drawn("16:30").folds()).as("the night between two days").isNotEmpty();
    }
}

package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TeamId;
import rafter.core.json.NewerVersion;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.time.Entry;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;
import rafter.core.time.Repeat;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Books of promises are read for ever: the recorded file has one of each form, and is only added to. */
class BookJsonTest {

    private static PromiseBook book() {
        var entry = new Entry(
                "e",
                "Market",
                Entry.Kind.OPENING,
                true,
                false,
                java.time.LocalDateTime.parse("2027-01-10T10:00"),
                java.time.LocalDateTime.parse("2027-01-10T14:00"),
                Optional.of(new Repeat(
                        "FREQ=MONTHLY;BYDAY=2SU", Optional.of(java.time.LocalDateTime.parse("2028-01-01T00:00")))),
                new TreeSet<>(Set.of(java.time.LocalDateTime.parse("2027-02-14T10:00"))),
                new TreeSet<>(),
                Optional.of(java.time.ZoneId.of("Europe/Oslo")));
        var plan = new CalendarPlan("c", "Office", Optional.empty(), false, List.of(entry), List.of("h"));
        var set = HolidaySet.of(
                "h", "Holidays", List.of(new Holiday(java.time.LocalDate.of(2027, 5, 17), "Constitution Day")));
        var goal = new Goal(Map.of(Priority.P1, Duration.ofMinutes(90)), Set.of(Turn.PARTNER), 90, true);
        var steps = List.of(
                new Step(
                        "a",
                        Objective.FIRST_REPLY,
                        new Step.When.Before(Duration.ofMinutes(30)),
                        List.of(new Act.Notify(Act.Whom.LEAD, "", "{number}"), new Act.RaisePriority())),
                new Step(
                        "b",
                        Objective.FIRST_REPLY,
                        new Step.When.Used(50),
                        List.of(new Act.HandOver(new TeamId(3)), new Act.Tag("late"))),
                new Step(
                        "c", Objective.FIRST_REPLY, new Step.When.After(Duration.ZERO), List.of(new Act.Note("Late"))));
        Criteria criteria = new Criteria.Any(List.of(
                Criteria.test(KnownField.PLAN, Operator.IS, "Anchor"),
                new Criteria.Not(Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "lost"))));
        var policy = new Policy(
                "p", "Anchor", "why", true, criteria, Optional.of("c"), Map.of(Objective.FIRST_REPLY, goal), steps);
        return new PromiseBook(java.time.ZoneId.of("Europe/Oslo"), "c", List.of(plan), List.of(set), List.of(policy));
    }

    private static List<String> recorded() throws IOException {
        try (var in = BookJsonTest.class.getResourceAsStream("/recorded/books.jsonl")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8).lines().toList();
        }
    }

    @Test
    void a_book_of_any_form_is_read_as_what_it_meant() throws IOException {
        assertThat(recorded()).hasSize(2);
        for (String document : recorded()) {
            assertThat(BookJson.read(document)).isEqualTo(book());
        }
        assertThat(book().faults()).isEmpty();
    }

    @Test
    void what_is_written_today_is_the_latest_form_that_is_recorded() throws IOException {
        assertThat(JsonMapper.shared().readTree(BookJson.write(book())))
                .isEqualTo(JsonMapper.shared().readTree(recorded().getLast()));
    }

    @Test
    void a_book_of_the_first_form_may_say_nothing_of_risk_and_hold_what_is_no_more() {
        String first =
                "{\"zone\":\"Europe/Oslo\",\"defaultCalendar\":\"c\",\"calendars\":[],\"holidaySets\":[],\"policies\":[],\"gone\":1}";
        assertThat(BookJson.read(first).riskOrUsual()).isEqualTo(Risk.USUAL);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"version\":2}",
                "{\"version\":2,\"zone\":\"Europe/Oslo\",\"defaultCalendar\":\"c\",\"calendars\":[],\"holidaySets\":[],\"policies\":[]}",
                "{\"version\":2,\"zone\":\"Europe/Oslo\",\"defaultCalendar\":null,\"calendars\":[],\"holidaySets\":[],\"policies\":[],\"risk\":null}",
                "{\"version\":2,\"zone\":\"Europe/Oslo\",\"defaultCalendar\":\"c\",\"calendars\":[],\"holidaySets\":[],\"policies\":[],\"risk\":null,\"more\":1}",
                "[]"
            })
    void what_is_missing_or_left_over_in_a_book_of_today_is_a_defect(String document) {
        assertThatExceptionOfType(JacksonException.class).isThrownBy(() -> BookJson.read(document));
    }

    @Test
    void a_newer_book_is_not_guessed_at() {
        assertThatExceptionOfType(NewerVersion.class).isThrownBy(() -> BookJson.read("{\"version\":3}"));
    }
}

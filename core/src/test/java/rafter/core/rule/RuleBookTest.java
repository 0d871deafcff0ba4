package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.core.rule.RandomRules.rule;
import static rafter.core.rule.RandomRules.tag;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Formula;
import rafter.core.json.Unreadable;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

class RuleBookTest {

    private static final Instant NOW = Instant.parse("2027-03-01T09:00:00Z");
    private static final RuleBook BOOK = new RuleBook(List.of(
            new RuleBook.Section(
                    "1",
                    "Sort",
                    List.of(
                            rule("a", Criteria.everything(), true, tag("x")),
                            rule("b", Criteria.everything(), true, tag("x")))),
            new RuleBook.Section("2", "Chase", List.of(rule("c", Criteria.everything(), true, tag("x"))))));

    static LongStream seeds() {
        return Seeds.upTo(100);
    }

    private static List<String> order(RuleBook book) {
        return book.sections().stream()
                .map(section ->
                        section.id() + section.rules().stream().map(Rule::id).toList())
                .toList();
    }

    @Test
    void a_rule_moves_by_a_place_and_from_the_edge_into_the_next_section() {
        assertThat(order(BOOK.moved("b", -1))).containsExactly("1[b, a]", "2[c]");
        assertThat(order(BOOK.moved("b", 1))).containsExactly("1[a]", "2[b, c]");
        assertThat(order(BOOK.moved("c", -1))).containsExactly("1[a, b, c]", "2[]");
        assertThat(BOOK.moved("a", -1)).isEqualTo(BOOK);
        assertThat(BOOK.moved("c", 1)).isEqualTo(BOOK);
        assertThat(BOOK.moved("gone", 1)).isEqualTo(BOOK);
    }

    @Test
    void a_rule_is_laid_anywhere() {
        assertThat(order(BOOK.placed("c", "1", 1))).containsExactly("1[a, c, b]", "2[]");
        assertThat(order(BOOK.placed("a", "1", 99))).containsExactly("1[b, a]", "2[c]");
        assertThat(BOOK.placed("a", "gone", 0)).isEqualTo(BOOK);
    }

    @Test
    void a_rule_is_changed_where_it_stands_and_a_new_one_goes_to_the_end() {
        Rule changed = rule("a", Criteria.everything(), false);
        assertThat(BOOK.with(changed, "1").rule("a")).contains(changed);
        assertThat(order(BOOK.with(changed, "2"))).containsExactly("1[b]", "2[c, a]");
        assertThat(order(BOOK.with(rule("n", Criteria.everything(), true), "1")))
                .containsExactly("1[a, b, n]", "2[c]");
        assertThat(order(BOOK.without("b"))).containsExactly("1[a]", "2[c]");
    }

    @Test
    void a_section_goes_only_when_it_is_empty() {
        assertThat(BOOK.withoutSection("2")).isEqualTo(BOOK);
        assertThat(order(BOOK.without("c").withoutSection("2"))).containsExactly("1[a, b]");
        assertThat(order(BOOK.withSection("3", "New"))).containsExactly("1[a, b]", "2[c]", "3[]");
        assertThat(BOOK.withSection("1", "Other").sections().getFirst().name()).isEqualTo("Other");
    }

    @Test
    void only_what_works_otherwise_is_in_force_anew() {
        RuleBook was = BOOK.comingIntoForce(RuleBook.EMPTY, NOW);
        Rule renamed = new Rule(
                "a",
                "Another name",
                "Why",
                true,
                new Occasion.Arrival(),
                Criteria.everything(),
                List.of(tag("x")),
                true,
                Instant.EPOCH);
        RuleBook next = BOOK.with(renamed, "1")
                .replaced(rule("b", Criteria.everything(), true, tag("y")))
                .comingIntoForce(was, NOW.plusSeconds(60));
        assertThat(next.rule("a").orElseThrow().since()).isEqualTo(NOW);
        assertThat(next.rule("b").orElseThrow().since()).isEqualTo(NOW.plusSeconds(60));
        assertThat(next.asWritten().rule("b").orElseThrow().since()).isEqualTo(Instant.EPOCH);
    }

    @Test
    void a_draft_may_be_unfinished_as_long_as_it_is_off() {
        Rule empty = new Rule(
                "n", "", "", true, new Occasion.Change(Set.of(), ""), Criteria.everything(), List.of(), true, NOW);
        assertThat(BOOK.with(empty, "1").faults())
                .hasSize(4)
                .allMatch(fault -> fault.startsWith("A rule without a name"));
        assertThat(BOOK.with(empty.on(false), "1").faults()).isEmpty();
    }

    @Test
    void faults_of_the_clock_are_told() {
        assertThat(clock(Duration.ZERO, 1, Duration.ZERO).faults()).hasSize(1);
        assertThat(clock(Duration.ofDays(400), 0, Duration.ZERO).faults()).hasSize(2);
        assertThat(clock(Duration.ofHours(1), 2, Duration.ZERO).faults()).hasSize(1);
        assertThat(clock(Duration.ofHours(1), 3, Duration.ofHours(1)).faults()).isEmpty();
    }

    private static Occasion.Clock clock(Duration span, int times, Duration again) {
        return new Occasion.Clock(Moment.CREATED, span, false, times, again);
    }

    @Test
    void a_rule_on_the_clock_fires_so_often_and_at_those_times() {
        WorkingTime hours = WorkingTime.of(WorkCalendar.weekly(
                "Office",
                ZoneOffset.UTC,
                LocalTime.of(8, 0),
                LocalTime.of(16, 0),
                DayOfWeek.MONDAY,
                DayOfWeek.TUESDAY));
        Instant monday = Instant.parse("2027-03-01T14:00:00Z");
        assertThat(new Occasion.Clock(Moment.US, Duration.ofHours(4), true, 3, Duration.ofHours(8))
                        .instants(monday, hours))
                .containsExactly(
                        Instant.parse("2027-03-02T10:00:00Z"),
                        Instant.parse("2027-03-08T10:00:00Z"),
                        Instant.parse("2027-03-09T10:00:00Z"));
        assertThat(new Occasion.Clock(Moment.US, Duration.ofHours(4), false, 2, Duration.ofHours(8))
                        .instants(monday, hours))
                .containsExactly(monday.plus(Duration.ofHours(4)), monday.plus(Duration.ofHours(12)));
        assertThat(new Occasion.Clock(Moment.DUE, Duration.ofHours(4), true, 1, Duration.ZERO)
                        .instants(Instant.parse("2027-03-02T10:00:00Z"), hours))
                .containsExactly(monday);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_book_is_read_as_it_was_written(long seed) {
        var random = new Random(seed);
        RuleBook book = ReadingTest.random(random);
        assertThat(RuleBookJson.read(RuleBookJson.write(book))).isEqualTo(book);
    }

    @Test
    void every_occasion_and_deed_is_written() {
        var rule = new Rule(
                "a",
                "Name",
                "Why",
                false,
                new Occasion.Change(Set.of(Happening.TAGGED, Happening.RATED), "vip"),
                new Criteria.Expert(Formula.of("priority == 1")),
                List.of(new Deed("hand-by", Map.of("by", "LEAST", "team", "3")), new Deed("close", Map.of())),
                true,
                NOW);
        var other = new Rule(
                "b",
                "Other",
                "Why",
                true,
                clock(Duration.ofMinutes(90), 2, Duration.ofDays(1)),
                Criteria.everything(),
                List.of(tag("x")),
                false,
                NOW);
        RuleBook book = RandomRules.book(rule, other);
        assertThat(RuleBookJson.read(RuleBookJson.write(book))).isEqualTo(book);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "[]",
                "{",
                "{\"rulebook\": 2, \"sections\": []}",
                "{\"rulebook\": 1}",
                "{\"rulebook\": 1, \"sections\": [{}]}",
                "{\"rulebook\": 1, \"sections\": [{\"id\": \"a/b\", \"name\": \"n\", \"rules\": []}]}",
                "{\"rulebook\": 1, \"sections\": [{\"id\": \"\", \"name\": \"n\", \"rules\": []}]}",
                "{\"rulebook\": 1, \"sections\": [{\"id\": \"s\", \"name\": \"n\", \"rules\": [{\"name\": \"x\"}]}]}"
            })
    void what_is_no_book_is_refused_with_words(String json) {
        assertThatThrownBy(() -> RuleBookJson.read(json)).isInstanceOf(Unreadable.class);
    }

    @Test
    void a_deed_keeps_what_belongs_to_its_form() {
        assertThat(Deed.of("tag", Map.of("tag", "x", "team", "3", "text", " "))).isEqualTo(tag("x"));
        assertThat(Deed.of("call", Map.of("address", "https://a.example/", "tag", "x"))
                        .typed())
                .containsOnlyKeys("address");
        assertThat(new Deed("delete", Map.of()).known()).isFalse();
    }
}

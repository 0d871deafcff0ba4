package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;
import static rafter.core.rule.RandomRules.book;
import static rafter.core.rule.RandomRules.rule;
import static rafter.core.rule.RandomRules.tag;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.ContactId;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Way;

class ReadingTest {

    private static final Reading.Trigger CAME = new Reading.Trigger.Came();

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static List<String> results(
            RuleBook book, Reading.Trigger trigger, Set<String> done, Set<String> matching) {
        return Reading.read(book, trigger, done, rule -> matching.contains(rule.id()), rule -> {}).stream()
                .map(read -> read.rule().id() + " " + read.result())
                .toList();
    }

    @Test
    void a_rule_that_does_not_carry_on_ends_the_reading_of_its_section_alone() {
        var book = new RuleBook(List.of(
                new RuleBook.Section(
                        "1",
                        "One",
                        List.of(
                                rule("a", Criteria.everything(), true),
                                rule("b", Criteria.everything(), false),
                                rule("c", Criteria.everything(), false))),
                new RuleBook.Section("2", "Two", List.of(rule("d", Criteria.everything(), false)))));
        assertThat(results(book, CAME, new HashSet<>(), Set.of("a", "b", "c", "d")))
                .containsExactly("a MATCHED", "b MATCHED", "c NOT_REACHED", "d MATCHED");
    }

    @Test
    void a_rule_does_its_work_once_for_a_cause_and_keeps_what_it_takes() {
        var book = book(rule("a", Criteria.everything(), false), rule("b", Criteria.everything(), false));
        var done = new HashSet<String>();
        results(book, CAME, done, Set.of("a", "b"));
        assertThat(done).containsExactly("a");
        assertThat(results(book, CAME, done, Set.of("a", "b"))).containsExactly("a ONCE_ALREADY", "b NOT_REACHED");
        assertThat(results(book, CAME, done, Set.of("b"))).containsExactly("a ONCE_ALREADY", "b MATCHED");
    }

    @Test
    void a_rule_that_is_off_is_come_by_and_not_asked() {
        var book = book(rule("a", Criteria.everything(), false).on(false), rule("b", Criteria.everything(), false));
        assertThat(results(book, CAME, new HashSet<>(), Set.of("a", "b"))).containsExactly("a OFF", "b MATCHED");
    }

    @Test
    void a_rule_is_asked_about_the_ticket_as_those_above_left_it() {
        var book = book(
                rule("a", Criteria.everything(), true, tag("lost")),
                rule("b", test(KnownField.TAGS, Operator.HAS_ANY, "lost"), true));
        var facts = new Facts[] {Facts.none()};
        var reads = Reading.read(
                book,
                CAME,
                new HashSet<>(),
                rule -> RandomRules.matches(rule.criteria(), facts[0]),
                rule -> facts[0] = facts[0].with(KnownField.TAGS, List.of("lost")));
        assertThat(reads).extracting(Reading.Read::result).containsOnly(Reading.Result.MATCHED);
    }

    @Test
    void a_change_is_read_by_those_that_wait_for_it() {
        var tagged = new Reading.Trigger.Happened(Happening.TAGGED, Set.of("vip"));
        assertThat(reads(tagged, new Occasion.Change(Set.of(Happening.TAGGED), "vip")))
                .isTrue();
        assertThat(reads(tagged, new Occasion.Change(Set.of(Happening.TAGGED), "")))
                .isTrue();
        assertThat(reads(tagged, new Occasion.Change(Set.of(Happening.TAGGED), "pet")))
                .isFalse();
        assertThat(reads(tagged, new Occasion.Change(Set.of(Happening.STATE), "")))
                .isFalse();
        assertThat(reads(tagged, new Occasion.Arrival())).isFalse();
        assertThat(reads(CAME, new Occasion.Arrival())).isTrue();
    }

    @Test
    void an_event_tells_which_tag_or_field_it_is_about() {
        Ticket ticket = Ticket.replay(List.of(new TicketEvent.Opened(
                Instant.EPOCH,
                Actor.system(),
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Any",
                new ContactId(1),
                Priority.P3,
                Optional.empty())));
        var tagged = new TicketEvent.TagsChanged(Instant.EPOCH, Actor.system(), Set.of("vip"));
        assertThat(Reading.Trigger.of(ticket, tagged))
                .contains(new Reading.Trigger.Happened(Happening.TAGGED, Set.of("vip")));
        assertThat(Reading.Trigger.of(
                        ticket.after(tagged), new TicketEvent.TagsChanged(Instant.EPOCH, Actor.system(), Set.of())))
                .isEmpty();
        assertThat(Reading.Trigger.of(
                        ticket, new TicketEvent.FieldSet(Instant.EPOCH, Actor.system(), "own-1-text", "x")))
                .contains(new Reading.Trigger.Happened(Happening.FIELD, Set.of("own-1-text")));
        assertThat(Reading.Trigger.of(ticket, new TicketEvent.TopicChanged(Instant.EPOCH, Actor.system(), "x")))
                .contains(new Reading.Trigger.Happened(Happening.TOPIC, Set.of()));
    }

    private static boolean reads(Reading.Trigger trigger, Occasion occasion) {
        return trigger.reads(
                new Rule("x", "x", "", true, occasion, Criteria.everything(), List.of(), true, Instant.EPOCH));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_book_read_twice_comes_to_the_same(long seed) {
        var random = new Random(seed);
        RuleBook book = random(random);
        Facts facts = RandomRules.facts(random);
        assertThat(matching(book, facts)).isEqualTo(matching(book, facts));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void rules_that_are_called_unrelated_can_change_places(long seed) {
        var random = new Random(seed);
        RuleBook book = random(random);
        List<Rule> rules = book.rules();
        for (int i = 0; i + 1 < rules.size(); i++) {
            if (RuleChecks.unrelated(rules.get(i), rules.get(i + 1))) {
                RuleBook other = book.moved(rules.get(i).id(), 1);
                for (int j = 0; j < 50; j++) {
                    Facts facts = RandomRules.facts(random);
                    assertThat(matching(other, facts)).isEqualTo(matching(book, facts));
                }
            }
        }
    }

    static RuleBook random(Random random) {
        return book(IntStream.range(0, 2 + random.nextInt(5))
                .mapToObj(i -> rule("r" + i, RandomRules.criteria(random, 1), random.nextInt(3) == 0))
                .toArray(Rule[]::new));
    }

    private static Set<String> matching(RuleBook book, Facts facts) {
        return Reading.matching(book, CAME, rule -> RandomRules.matches(rule.criteria(), facts));
    }

    @Test
    void who_ended_the_reading_is_told() {
        var book = book(rule("a", Criteria.everything(), false), rule("b", Criteria.everything(), false));
        var reads = new ArrayList<>(Reading.read(book, CAME, new HashSet<>(), rule -> true, rule -> {}));
        assertThat(Reading.ender(book, reads, book.rule("b").orElseThrow()))
                .contains(book.rule("a").orElseThrow());
    }
}

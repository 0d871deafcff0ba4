package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;
import static rafter.core.rule.RandomRules.book;
import static rafter.core.rule.RandomRules.rule;
import static rafter.core.rule.RandomRules.tag;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

class RuleChecksTest {

    private static final Criteria LOST = test(KnownField.SUBJECT, Operator.HAS_ANY, "lost", "left behind");

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    /** Tickets of which nothing is known. */
    private record Told(long tickets, Map<String, Long> matched, Map<String, Map<String, Long>> taken)
            implements RuleChecks.History {
        static final Told NOTHING = new Told(0, Map.of(), Map.of());

        @Override
        public Optional<Long> matched(String rule) {
            return Optional.ofNullable(matched.get(rule));
        }

        @Override
        public Map<String, Long> takenBy(String rule) {
            return taken.getOrDefault(rule, Map.of());
        }

        @Override
        public boolean has(Field field, String phrase) {
            return !phrase.equals("pram");
        }

        @Override
        public Optional<String> otherForm(Field field, String phrase) {
            return phrase.equals("pram") ? Optional.of("prams") : Optional.empty();
        }
    }

    private static List<RuleChecks.Finding> check(Rule... rules) {
        return RuleChecks.of(book(rules), Told.NOTHING);
    }

    @Test
    void a_rule_is_never_reached_below_one_that_takes_all_of_its_tickets() {
        Criteria anchor = new Criteria.All(List.of(
                test(KnownField.PLAN, Operator.IS, "Anchor"), test(KnownField.SUBJECT, Operator.HAS_ANY, "lost")));
        assertThat(check(rule("a", LOST, false, tag("lost")), rule("b", anchor, false, tag("vip"))))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.rule()).isEqualTo("b");
                    assertThat(one.kind()).isEqualTo(RuleChecks.Kind.UNREACHABLE);
                    assertThat(one.byLogic()).isTrue();
                    assertThat(one.mends())
                            .containsExactly(new RuleChecks.Mend.MoveAbove("a"), new RuleChecks.Mend.LetCarryOn("a"));
                });
        assertThat(check(rule("a", LOST, true, tag("lost")), rule("b", anchor, false, tag("vip"))))
                .isEmpty();
    }

    @Test
    void its_mends_mend_it() {
        RuleBook book = book(
                rule("a", LOST, false, tag("lost")),
                rule("b", test(KnownField.SUBJECT, Operator.HAS_ANY, "lost"), false, tag("vip")));
        RuleChecks.Finding finding = RuleChecks.of(book, Told.NOTHING).getFirst();
        for (RuleChecks.Mend mend : finding.mends()) {
            assertThat(RuleChecks.of(RuleChecks.mended(book, "b", mend), Told.NOTHING))
                    .isEmpty();
        }
        assertThat(RuleChecks.mended(book, "b", finding.mends().getFirst()).rules())
                .extracting(Rule::id)
                .containsExactly("b", "a");
    }

    @Test
    void logic_says_nothing_where_a_rule_between_may_change_what_is_asked() {
        Criteria vip = test(KnownField.TAGS, Operator.HAS_ANY, "vip");
        assertThat(check(
                        rule("a", vip, false, tag("x")),
                        rule("between", Criteria.everything(), true, tag("vip")),
                        rule("b", vip, false, tag("y"))))
                .isEmpty();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_logic_calls_unreachable_no_ticket_reaches(long seed) {
        var random = new Random(seed);
        RuleBook book = ReadingTest.random(random);
        for (RuleChecks.Finding finding : RuleChecks.of(book, Told.NOTHING)) {
            for (int i = 0; i < 100; i++) {
                Facts facts = RandomRules.facts(random);
                assertThat(Reading.matching(
                                book, new Reading.Trigger.Came(), rule -> RandomRules.matches(rule.criteria(), facts)))
                        .as("%s in %s with %s", finding, book, facts)
                        .doesNotContain(finding.rule());
            }
        }
    }

    @Test
    void criteria_that_cannot_be_true_are_told() {
        Criteria never = new Criteria.All(
                List.of(test(KnownField.PRIORITY, Operator.IS, "P1"), test(KnownField.PRIORITY, Operator.IS, "P2")));
        assertThat(check(rule("a", never, false, tag("x"))))
                .extracting(RuleChecks.Finding::kind)
                .containsExactly(RuleChecks.Kind.IMPOSSIBLE);
    }

    @Test
    void two_rules_contradict_each_other_where_a_ticket_can_match_both() {
        Deed high = new Deed("priority", Map.of("priority", "P1"));
        Deed low = new Deed("priority", Map.of("priority", "P4"));
        Criteria billing = test(KnownField.TOPIC, Operator.IS, "billing");
        assertThat(check(rule("a", LOST, true, high), rule("b", billing, true, low)))
                .extracting(RuleChecks.Finding::kind)
                .containsExactly(RuleChecks.Kind.CONTRADICTS);
        assertThat(check(rule("a", LOST, true, high), rule("b", billing, true, high)))
                .isEmpty();
        assertThat(check(
                        rule("a", test(KnownField.TOPIC, Operator.IS, "lost"), true, high),
                        rule("b", billing, true, low)))
                .isEmpty();
    }

    @Test
    void history_tells_what_logic_cannot() {
        RuleBook book = book(rule("a", LOST, false, tag("x")), rule("b", Criteria.everything(), false, tag("y")));
        var taken = new Told(100, Map.of("a", 30L, "b", 0L), Map.of("b", Map.of("a", 30L)));
        assertThat(RuleChecks.of(book, taken)).singleElement().satisfies(one -> {
            assertThat(one.kind()).isEqualTo(RuleChecks.Kind.UNREACHABLE);
            assertThat(one.byLogic()).isFalse();
            assertThat(one.words()).contains("30 tickets").contains("“a”");
        });
        assertThat(RuleChecks.of(book, new Told(100, Map.of("a", 30L, "b", 0L), Map.of())))
                .extracting(RuleChecks.Finding::kind)
                .containsExactly(RuleChecks.Kind.NEVER);
    }

    @Test
    void a_word_that_stands_in_tickets_in_another_form_alone_is_told_and_mended() {
        RuleBook book = book(rule("a", test(KnownField.SUBJECT, Operator.HAS_ANY, "pram"), false, tag("x")));
        var history = new Told(10, Map.of("a", 0L), Map.of());
        RuleChecks.Finding finding = RuleChecks.of(book, history).getFirst();
        assertThat(finding.kind()).isEqualTo(RuleChecks.Kind.OTHER_FORM);
        assertThat(finding.words()).contains("“prams”");
        RuleBook mended = RuleChecks.mended(book, "a", finding.mends().getFirst());
        assertThat(mended.rules().getFirst().criteria()).isEqualTo(test(KnownField.SUBJECT, Operator.HAS_FORM, "pram"));
    }
}

package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Formula;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

class LogicTest {

    static LongStream seeds() {
        return Seeds.upTo(300);
    }

    private static boolean impossible(Criteria... all) {
        return Logic.together(List.of(all)) == Logic.Answer.IMPOSSIBLE;
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_is_called_impossible_is_never_met_by_a_ticket(long seed) {
        var random = new Random(seed);
        List<Criteria> some = IntStream.range(0, 1 + random.nextInt(3))
                .mapToObj(i -> RandomRules.criteria(random, 3))
                .toList();
        if (Logic.together(some) == Logic.Answer.IMPOSSIBLE) {
            for (int i = 0; i < 200; i++) {
                var facts = RandomRules.facts(random);
                assertThat(some).anyMatch(one -> !RandomRules.matches(one, facts));
            }
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_a_ticket_meets_is_not_called_impossible(long seed) {
        var random = new Random(seed);
        var facts = RandomRules.facts(random);
        List<Criteria> met = IntStream.range(0, 40)
                .mapToObj(i -> RandomRules.criteria(random, 2))
                .map(one -> RandomRules.matches(one, facts) ? one : new Criteria.Not(one))
                .limit(6)
                .toList();
        assertThat(Logic.together(met)).as("%s of %s", met, facts).isNotEqualTo(Logic.Answer.IMPOSSIBLE);
    }

    @Test
    void nothing_both_is_and_is_not() {
        var random = new Random(5);
        for (int i = 0; i < 200; i++) {
            Criteria one = RandomRules.criteria(random, 2);
            assertThat(Logic.together(List.of(one, new Criteria.Not(one))))
                    .as("%s", one)
                    .isNotEqualTo(Logic.Answer.POSSIBLE);
        }
    }

    @Test
    void a_phrase_stands_only_where_its_words_stand() {
        assertThat(Logic.implies(
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "lost bag"),
                        List.of(test(KnownField.SUBJECT, Operator.HAS_ANY, "lost", "found"))))
                .isTrue();
        assertThat(Logic.implies(
                        test(KnownField.SUBJECT, Operator.HAS_ALL, "lost", "bag"),
                        List.of(test(KnownField.SUBJECT, Operator.HAS_ANY, "lost bag"))))
                .isFalse();
    }

    @Test
    void a_word_is_one_of_its_forms() {
        assertThat(Logic.implies(
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "bags"),
                        List.of(test(KnownField.SUBJECT, Operator.HAS_FORM, "bag"))))
                .isTrue();
        assertThat(Logic.implies(
                        test(KnownField.SUBJECT, Operator.HAS_FORM, "bag"),
                        List.of(test(KnownField.SUBJECT, Operator.HAS_ANY, "bag"))))
                .isFalse();
    }

    @Test
    void orders_are_known() {
        assertThat(impossible(
                        test(KnownField.PRIORITY, Operator.AT_LEAST, "P2"),
                        test(KnownField.PRIORITY, Operator.AT_MOST, "P3")))
                .isTrue();
        assertThat(impossible(
                        test(KnownField.AGE, Operator.AT_LEAST, "4 h"), test(KnownField.AGE, Operator.AT_MOST, "1 h")))
                .isTrue();
        assertThat(Logic.implies(
                        test(KnownField.NEXT_TARGET, Operator.WITHIN, "30 m"),
                        List.of(test(KnownField.NEXT_TARGET, Operator.WITHIN, "4 h"))))
                .isTrue();
    }

    @Test
    void two_rules_together_can_take_all_of_a_third() {
        Criteria third = test(KnownField.TOPIC, Operator.IS, "billing", "lost");
        assertThat(Logic.implies(
                        third,
                        List.of(
                                test(KnownField.TOPIC, Operator.IS, "billing"),
                                test(KnownField.TOPIC, Operator.IS, "lost", "freight"))))
                .isTrue();
    }

    @Test
    void ends_of_an_address_contradict_each_other_only_where_they_must() {
        assertThat(impossible(
                        test(KnownField.CONTACT_ADDRESS, Operator.IS, "ada@x.example"),
                        new Criteria.Not(test(KnownField.CONTACT_ADDRESS, Operator.ENDS_WITH, "x.example"))))
                .isTrue();
        assertThat(impossible(
                        test(KnownField.CONTACT_ADDRESS, Operator.BEGINS_WITH, "ada"),
                        new Criteria.Not(test(KnownField.CONTACT_ADDRESS, Operator.ENDS_WITH, "x.example"))))
                .isFalse();
    }

    @Test
    void a_set_is_not_empty_that_has_something() {
        assertThat(impossible(test(KnownField.TAGS, Operator.IS_EMPTY), test(KnownField.TAGS, Operator.HAS_ANY, "vip")))
                .isTrue();
        assertThat(impossible(
                        test(KnownField.TAGS, Operator.HAS_ALL, "vip", "pet"),
                        test(KnownField.TAGS, Operator.HAS_NONE, "PET ")))
                .isTrue();
    }

    @Test
    void a_formula_is_what_it_says_and_nothing_more_is_known() {
        var formula = new Criteria.Expert(Formula.of("priority == 1"));
        assertThat(impossible(formula, new Criteria.Not(formula))).isTrue();
        assertThat(impossible(formula, test(KnownField.PRIORITY, Operator.IS, "P4")))
                .isFalse();
    }

    @Test
    void of_what_would_take_too_long_nothing_is_said() {
        List<Criteria> many = IntStream.range(0, 40)
                .<Criteria>mapToObj(i -> new Criteria.Any(List.of(
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "a" + i),
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "b" + i))))
                .toList();
        Criteria none = new Criteria.Any(List.of(
                new Criteria.All(List.of(new Criteria.Not(new Criteria.All(many)))), new Criteria.Any(List.of())));
        var all = new java.util.ArrayList<>(many);
        all.add(none);
        assertThat(Logic.together(all)).isEqualTo(Logic.Answer.UNKNOWN);
    }
}

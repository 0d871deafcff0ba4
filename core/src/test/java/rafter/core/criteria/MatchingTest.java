package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.core.criteria.Criteria.test;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.ticket.Priority;

/** Each question of each kind of field, on what is there, what is not, and at its bound. */
class MatchingTest {

    private static final OwnField NUMBER = new OwnField(7, OwnField.Kind.NUMBER);
    private static final OwnField DATE = new OwnField(8, OwnField.Kind.DATE);
    private static final OwnField TEXT = new OwnField(9, OwnField.Kind.TEXT);

    private static boolean holds(Field field, Operator operator, String asked, String has) {
        Facts facts = has == null ? Facts.none() : Facts.none().with(field, Arrays.asList(has.split("&")));
        return Matching.matches(test(field, operator, asked == null ? new String[0] : asked.split("&")), facts);
    }

    @ParameterizedTest
    @CsvSource({
        "IS, billing, billing, true",
        "IS, billing, lost, false",
        "IS, billing&lost, lost, true",
        "IS, billing, , false",
        "IS_NOT, billing, billing, false",
        "IS_NOT, billing, lost, true",
        "IS_NOT, billing, , true",
        "IS_SET, , billing, true",
        "IS_SET, , , false",
        "IS_EMPTY, , billing, false",
        "IS_EMPTY, , , true",
        "HAS_ANY, billing, billing, false"
    })
    void a_choice(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(KnownField.TOPIC, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "IS, P2, P2, true",
        "IS, P1, P2, false",
        "IS, P2, , false",
        "IS_NOT, P2, P2, false",
        "IS_NOT, P1, P2, true",
        "IS_NOT, P2, , true",
        "AT_LEAST, P2, P1, true",
        "AT_LEAST, P2, P2, true",
        "AT_LEAST, P2, P3, false",
        "AT_LEAST, P2, , false",
        "AT_LEAST, P9, P1, false",
        "AT_MOST, P2, P1, false",
        "AT_MOST, P2, P2, true",
        "AT_MOST, P2, P3, true",
        "AT_MOST, soon, P4, false",
        "RUNS, P2, P2, false"
    })
    void a_rank(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(KnownField.PRIORITY, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "HAS_ANY, late&lost, late, true", "HAS_ANY, lost, late, false", "HAS_ANY, lost, , false",
                "HAS_ALL, late&vip, late&vip&x, true", "HAS_ALL, late&vip, late, false",
        "HAS_NONE, lost, late, true", "HAS_NONE, late, late, false", "HAS_NONE, late, , true", "IS_SET, , late, true",
                "IS_SET, , , false",
        "IS_EMPTY, , , true", "IS_EMPTY, , late, false", "HAS_ANY, ' LATE ', late, true", "IS, late, late, false"
    })
    void tags(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(KnownField.TAGS, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "IS, Été 12, ete 12, true",
        "IS, ete, ete 12, false",
        "IS, b&a, a, true",
        "IS, a, , false",
        "IS_NOT, ete, Été, false",
        "IS_NOT, a, b, true",
        "IS_NOT, a, , true",
        "BEGINS_WITH, ab, abc, true",
        "BEGINS_WITH, bc, abc, false",
        "BEGINS_WITH, a&x, xyz, true",
        "BEGINS_WITH, ' ', abc, false",
        "ENDS_WITH, bc, abc, true",
        "ENDS_WITH, ab, abc, false",
        "ENDS_WITH, @x.example, q@x.example&w@y.example, true",
        "IS, w@y.example, q@x.example&w@y.example, true",
        "IS_SET, , abc, true",
        "IS_SET, , , false",
        "IS_EMPTY, , , true",
        "IS_EMPTY, , abc, false",
        "AT_LEAST, abc, abc, false"
    })
    void a_text(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(TEXT, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "HAS_ANY, lost&pass, my pass, true", "HAS_ANY, lost, my pass, false", "HAS_ALL, my&pass, my pass, true",
                "HAS_ALL, my&lost, my pass, false",
        "HAS_NONE, lost, my pass, true", "HAS_NONE, pass, my pass, false", "HAS_FORM, cancel, it was cancelled, true",
                "HAS_FORM, cancel, it went, false",
        "BEGINS_WITH, my, my pass, true", "BEGINS_WITH, pass, my pass, false", "BEGINS_WITH, '', my pass, false",
                "IS, my pass, my pass, false"
    })
    void words(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(KnownField.SUBJECT, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "IS, 12.0, 12, true",
        "IS, 13, 12, false",
        "IS, many, 12, false",
        "IS, 12, , false",
        "IS_NOT, 12, 12.00, false",
        "IS_NOT, 13, 12, true",
        "IS_NOT, 13, , true",
        "AT_LEAST, 12, 12, true",
        "AT_LEAST, 12, 11.9, false",
        "AT_LEAST, 12&5, 6, true",
        "AT_MOST, 12, 12, true",
        "AT_MOST, 12, 12.1, false",
        "IS_SET, , 12, true",
        "IS_SET, , , false",
        "IS_EMPTY, , , true",
        "IS_EMPTY, , 12, false",
        "HAS_ANY, 12, 12, false"
    })
    void a_number(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(NUMBER, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "IS, 2027-03-01, 2027-03-01, true",
        "FROM, 2027-03-01, 2027-03-01, true",
        "FROM, 2027-03-01, 2027-02-28, false",
        "UNTIL, 2027-03-01, 2027-03-01, true",
        "UNTIL, 2027-03-01, 2027-03-02, false",
        "FROM, soon, 2027-03-01, false"
    })
    void a_date(Operator operator, String asked, String has, boolean holds) {
        assertThat(holds(DATE, operator, asked, has)).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "AT_LEAST, 10:00, 10:00, true",
        "AT_LEAST, 10:00, 09:00, true",
        "AT_LEAST, 10:00, 11:00, false",
        "AT_LEAST, 10:00, , false",
        "AT_MOST, 10:00, 10:00, true",
        "AT_MOST, 10:00, 09:59, false",
        "AT_MOST, 10:00, 10:01, true"
    })
    void time_that_has_passed(Operator operator, String bound, String began, boolean holds) {
        assertThat(holds(KnownField.AGE, operator, at(bound), at(began))).isEqualTo(holds);
    }

    @ParameterizedTest
    @CsvSource({
        "RUNS, , 10:00, true",
        "RUNS, , , false",
        "RUNS_NOT, , 10:00, false",
        "RUNS_NOT, , , true",
        "LATE, 10:00, 10:00, true",
        "LATE, 10:00, 10:01, false",
        "LATE, 10:00, , false",
        "WITHIN, 10:00, 09:00, true",
        "WITHIN, 10:00, 10:00, true",
        "WITHIN, 10:00, 11:00, false",
        "AT_RISK, 10:00, 11:00&10:00, true",
        "AT_RISK, 10:00, 11:00&10:01, false",
        "AT_RISK, 10:00, 11:00, false",
        "IS, 10:00, 10:00, false"
    })
    void a_time_at_which_a_target_falls_due(Operator operator, String bound, String due, boolean holds) {
        assertThat(holds(KnownField.NEXT_TARGET, operator, at(bound), at(due))).isEqualTo(holds);
    }

    private static String at(String times) {
        return times == null
                ? null
                : String.join(
                        "&",
                        Arrays.stream(times.split("&"))
                                .map(time -> "2027-03-01T" + time + ":00Z")
                                .toList());
    }

    @Test
    void a_question_is_personal_only_by_the_word_that_means_the_reader() {
        Criteria mine = test(KnownField.OWNER, Operator.IS, Asking.ME);
        Criteria teams = test(KnownField.TEAM, Operator.IS, Asking.MINE);
        assertThat(Asking.personal(mine)).isTrue();
        assertThat(Asking.personal(teams)).isTrue();
        assertThat(Asking.personal(new Criteria.Not(mine))).isTrue();
        assertThat(Asking.personal(new Criteria.Any(List.of(test(KnownField.TOPIC, Operator.IS, "x"), teams))))
                .isTrue();
        assertThat(Asking.personal(test(KnownField.OWNER, Operator.IS, "7"))).isFalse();
        assertThat(Asking.personal(test(KnownField.TEAM, Operator.IS, "7"))).isFalse();
        assertThat(Asking.personal(test(KnownField.TOPIC, Operator.IS, Asking.ME)))
                .isFalse();
        assertThat(Asking.personal(test(KnownField.TOPIC, Operator.IS, Asking.MINE)))
                .isFalse();
    }

    @Test
    void the_questions_that_hold_when_another_does_not_are_known() {
        assertThat(Arrays.stream(Operator.values()).filter(Operator::negative))
                .containsExactlyInAnyOrder(Operator.IS_NOT, Operator.HAS_NONE, Operator.IS_EMPTY, Operator.RUNS_NOT);
    }

    @Test
    void facts_are_the_same_when_they_say_the_same() {
        Facts one = Facts.none().with(KnownField.TOPIC, "billing").with(NUMBER, "12");
        assertThat(one)
                .isEqualTo(Facts.none().with(NUMBER, "12").with(KnownField.TOPIC, "billing"))
                .hasSameHashCodeAs(Facts.none().with(NUMBER, "12").with(KnownField.TOPIC, "billing"));
        assertThat(one)
                .isNotEqualTo(Facts.none().with(KnownField.TOPIC, "billing"))
                .isNotEqualTo(Facts.none().with(NUMBER, "12"))
                .isNotEqualTo("billing");
        assertThat(one.hashCode()).isNotEqualTo(Facts.none().hashCode()).isNotZero();
        assertThat(one.toString()).contains("TOPIC").contains("billing").contains("12");
        assertThat(Facts.none().with(TEXT, List.of(" ", "kept")).of(TEXT).plain())
                .containsExactly("kept");
        assertThat(Facts.none()
                        .with(TEXT, "Été")
                        .of(TEXT, Fact.Texts.class)
                        .orElseThrow()
                        .folded())
                .containsExactly("ete");
        assertThat(Facts.none().with(KnownField.PRIORITY, "P9").of(KnownField.PRIORITY))
                .as("what the type cannot hold is nothing")
                .isEqualTo(Fact.NOTHING);
        assertThatThrownBy(() -> Facts.none().with(KnownField.TOPIC, new Fact.Ranked(Priority.P1)))
                .as("nor can a field hold what is of another sort")
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("topic");
    }

    @Test
    void all_that_is_wrong_with_a_question_is_said() {
        assertThat(Criteria.faults(new Criteria.All(List.of(
                        test(KnownField.AGE, Operator.AT_LEAST, "soon"),
                        test(NUMBER, Operator.IS, "many"),
                        test(DATE, Operator.FROM, "monday")))))
                .hasSize(3)
                .anyMatch(fault -> fault.contains("no length of time"))
                .anyMatch(fault -> fault.contains("no number"))
                .anyMatch(fault -> fault.contains("no date"));
        assertThat(Criteria.faults(new Criteria.Any(List.of(test(KnownField.PRIORITY, Operator.IS, "P7")))))
                .singleElement()
                .asString()
                .contains("no priority");
        assertThat(Criteria.faults(new Criteria.Not(new Criteria.Any(List.of()))))
                .singleElement()
                .asString()
                .contains("match nothing");
        String seven = "a b c d e f g h i j k l m n o p q r s t u v w x y z";
        assertThat(Criteria.faults(test(KnownField.SUBJECT, Operator.HAS_FORM, seven)))
                .singleElement()
                .asString()
                .contains("too many words");
        assertThat(Criteria.faults(test(KnownField.SUBJECT, Operator.HAS_FORM, "cancel the booking")))
                .isEmpty();
        assertThat(Criteria.faults(test(KnownField.SUBJECT, Operator.HAS_ANY, seven)))
                .isEmpty();
        assertThat(Criteria.faults(test(KnownField.AGE, Operator.AT_LEAST, "4 h")))
                .isEmpty();
    }

    @Test
    void a_sentence_may_be_eight_deep_and_no_deeper() {
        Criteria deep = test(KnownField.TOPIC, Operator.IS, "x");
        for (int i = 0; i < Criteria.DEEPEST; i++) {
            deep = i % 3 == 0
                    ? new Criteria.All(List.of(deep))
                    : i % 3 == 1 ? new Criteria.Any(List.of(deep)) : new Criteria.Not(deep);
        }
        assertThat(Criteria.faults(deep)).isEmpty();
        assertThat(Criteria.faults(new Criteria.Not(deep)))
                .singleElement()
                .asString()
                .contains("nested more than");
        assertThat(Criteria.asked(
                        new Criteria.Any(List.of(deep, new Criteria.Not(test(KnownField.PLAN, Operator.IS_SET))))))
                .containsExactlyInAnyOrder(KnownField.TOPIC, KnownField.PLAN);
    }

    @Test
    void relative_times_and_words_mean_what_they_mean_when_somebody_reads() {
        var asking = new Asking(Instant.parse("2027-03-01T10:00:00Z"), new PersonId(7), Set.of(new TeamId(3)));
        Criteria resolved = asking.resolve(test(KnownField.AGE, Operator.AT_LEAST, "1 h"));
        assertThat(Matching.matches(resolved, Facts.none().with(KnownField.AGE, "2027-03-01T09:00:00Z")))
                .isTrue();
        assertThat(Matching.matches(resolved, Facts.none().with(KnownField.AGE, "2027-03-01T09:00:01Z")))
                .isFalse();
    }
}

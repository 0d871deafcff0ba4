package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FormulaTest {

    private static final Facts FACTS = Facts.none()
            .with(KnownField.PRIORITY, "P2")
            .with(KnownField.TAGS, List.of("vip", "pet"))
            .with(KnownField.SUBJECT, "Lost bag")
            .with(KnownField.CUSTOMER_MESSAGES, "3")
            .with(new OwnField(7, OwnField.Kind.TEXT), "deck 3");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "priority <= 2 | true",
                "priority == 1 | false",
                "tags.exists(t, t.startsWith(\"vi\")) && customer_messages > 2 | true",
                "subject.contains(\"bag\") && topic != \"x\" | true",
                "own[\"own-7-text\"] == \"deck 3\" | true",
                "topic == \"\" && owner == \"\" | true"
            })
    void a_formula_asks_what_a_sentence_cannot(String formula, boolean holds) {
        assertThat(Formula.of(formula).fault()).isEmpty();
        assertThat(Formula.of(formula).matches(FACTS)).isEqualTo(holds);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", "priority", "priority <=", "weather == 1", "priority == \"P1\"", "1 + 1", "System.exit(1)"})
    void what_is_no_question_is_told_while_typing_and_matches_nothing(String formula) {
        assertThat(Formula.of(formula).fault()).isPresent();
        assertThat(Formula.of(formula).matches(FACTS)).isFalse();
    }

    @Test
    void what_fails_while_it_is_evaluated_does_not_match() {
        assertThat(Formula.of("1 / our_messages == 1").fault()).isEmpty();
        assertThat(Formula.of("1 / our_messages == 1").matches(FACTS)).isFalse();
        assertThat(Formula.of("own[\"gone\"] == \"\"").matches(FACTS)).isFalse();
    }

    @Test
    void its_cost_is_bounded() {
        String nested = "[0,1,2,3,4,5,6,7,8,9].all(a, [0,1,2,3,4,5,6,7,8,9].all(b, [0,1,2,3,4,5,6,7,8,9].all(c, "
                + "[0,1,2,3,4,5,6,7,8,9].all(d, [0,1,2,3,4,5,6,7,8,9].all(e, [0,1,2,3,4,5,6,7,8,9].all(f, a + b + c + d + e + f >= 0))))))";
        assertThat(Formula.of(nested).matches(FACTS)).isFalse();
        assertThat(Formula.of("true || ".repeat(500) + "true").fault()).isPresent();
        assertThat(Formula.of("(".repeat(300) + "true" + ")".repeat(300)).fault())
                .isPresent();
    }

    @Test
    void it_is_kept_as_text() {
        Criteria criteria = new Criteria.All(List.of(new Criteria.Expert(Formula.of("priority == 1"))));
        assertThat(CriteriaJson.read(CriteriaJson.write(criteria))).isEqualTo(criteria);
        assertThat(Criteria.faults(new Criteria.Expert(Formula.of("nothing")))).hasSize(1);
    }
}

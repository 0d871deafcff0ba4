package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.core.criteria.Criteria.test;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class CriteriaTest {

    private static final Facts SLOT = Facts.none()
            .with(Field.PLAN, "Anchor")
            .with(Field.PRIORITY, "P2")
            .with(Field.TAGS, List.of("booking", "late"))
            .with(Field.SUBJECT, "Lost my Season-Pass at Skelby, déjà vu")
            .with(Field.CONTACT_ADDRESS, "Dov.Reiss@Brightwater.example");
    private static final Sentence WORDS = new Sentence((field, value) -> value);

    @ParameterizedTest
    @CsvSource({
        "lost, true", "LOST, true", "los, false", "season pass, true", "pass season, false", "deja vu, true", "at skelby, true", "'', false"
    })
    void only_whole_words_are_found_whatever_their_case_and_accents(String words, boolean found) {
        assertThat(Matching.matches(test(Field.SUBJECT, Operator.HAS_ANY, words), SLOT)).isEqualTo(found);
    }

    @ParameterizedTest
    @CsvSource({"AT_LEAST,P2,true", "AT_LEAST,P1,false", "AT_LEAST,P3,true", "AT_MOST,P2,true", "AT_MOST,P3,false", "AT_MOST,P1,true", "IS,P2,true"})
    void p1_is_the_highest_priority(Operator operator, String bound, boolean matches) {
        assertThat(Matching.matches(test(Field.PRIORITY, operator, bound), SLOT)).isEqualTo(matches);
    }

    @Test
    void texts_are_compared_by_their_ends_and_sets_by_what_is_in_them() {
        assertThat(Matching.matches(test(Field.CONTACT_ADDRESS, Operator.ENDS_WITH, "@brightwater.example"), SLOT)).isTrue();
        assertThat(Matching.matches(test(Field.CONTACT_ADDRESS, Operator.BEGINS_WITH, "dov."), SLOT)).isTrue();
        assertThat(Matching.matches(test(Field.TAGS, Operator.HAS_ALL, "booking", "late"), SLOT)).isTrue();
        assertThat(Matching.matches(test(Field.TAGS, Operator.HAS_ALL, "booking", "lost"), SLOT)).isFalse();
        assertThat(Matching.matches(test(Field.TAGS, Operator.HAS_NONE, "lost"), SLOT)).isTrue();
    }

    @Test
    void what_is_not_known_is_nothing_and_not_something_else() {
        assertThat(Matching.matches(test(Field.TOPIC, Operator.IS, "billing"), SLOT)).isFalse();
        assertThat(Matching.matches(test(Field.TOPIC, Operator.IS_NOT, "billing"), SLOT)).isTrue();
        assertThat(Matching.matches(test(Field.TOPIC, Operator.IS_EMPTY), SLOT)).isTrue();
    }

    @Test
    void it_reads_as_a_sentence_and_says_why() {
        var criteria = new Criteria.All(List.of(
                test(Field.PLAN, Operator.IS, "Anchor", "Harbour"),
                new Criteria.Any(List.of(test(Field.SUBJECT, Operator.HAS_ANY, "lost"), test(Field.TOPIC, Operator.IS, "billing")))));
        assertThat(WORDS.of(criteria))
                .isEqualTo("the customer’s plan is Anchor or Harbour and (the subject has one of “lost” or the topic is billing)");
        Verdict verdict = Matching.explain(criteria, SLOT);
        assertThat(verdict.matches()).isTrue();
        assertThat(Matching.decisive(verdict)).extracting(WORDS::why)
                .containsExactly("the customer’s plan is Anchor or Harbour", "the subject has one of “lost” (lost)");
        Verdict no = Matching.explain(test(Field.PLAN, Operator.IS, "Harbour"), SLOT);
        assertThat(WORDS.why(no)).isEqualTo("the customer’s plan is Anchor, not Harbour");
    }

    @Test
    void what_cannot_be_asked_is_told() {
        assertThat(Criteria.faults(test(Field.PLAN, Operator.HAS_ALL, "Anchor"))).singleElement().asString().contains("cannot be asked");
        assertThat(Criteria.faults(test(Field.PLAN, Operator.IS, " "))).singleElement().asString().contains("lacks what to compare with");
        assertThat(Criteria.faults(new Criteria.Any(List.of()))).hasSize(1);
        assertThat(Criteria.faults(Criteria.everything())).isEmpty();
    }

    @Test
    void json_of_another_version_or_with_unknown_fields_is_refused() {
        assertThatThrownBy(() -> CriteriaJson.read("{\"version\": 9, \"all\": []}")).hasMessageContaining("version 9");
        assertThatThrownBy(() -> CriteriaJson.read("{\"all\": [{\"field\": \"moon\", \"is\": [\"full\"]}]}")).hasMessageContaining("moon");
        assertThatThrownBy(() -> CriteriaJson.read("{")).isInstanceOf(CriteriaJson.Unreadable.class);
    }

    static LongStream seeds() {
        return LongStream.range(0, 200);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void it_comes_back_from_json_as_it_went(long seed) {
        Criteria criteria = random(new Random(seed), 0);
        assertThat(CriteriaJson.read(CriteriaJson.write(criteria))).isEqualTo(criteria);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_explanation_agrees_with_the_answer_and_not_turns_it_round(long seed) {
        var random = new Random(seed);
        Criteria criteria = random(random, 0);
        Facts facts = facts(random);
        boolean matches = Matching.matches(criteria, facts);
        assertThat(Matching.explain(criteria, facts).matches()).isEqualTo(matches);
        assertThat(Matching.matches(new Criteria.Not(criteria), facts)).isEqualTo(!matches);
        assertThat(Matching.matches(new Criteria.All(List.of(criteria, criteria)), facts)).isEqualTo(matches);
    }

    private static Facts facts(Random random) {
        Facts facts = Facts.none();
        for (Field field : Field.values()) {
            facts = random.nextBoolean() ? facts.with(field, value(field, random)) : facts;
        }
        return facts;
    }

    private static String value(Field field, Random random) {
        return field == Field.PRIORITY ? "P" + (1 + random.nextInt(4)) : List.of("Anchor", "lost", "Skelby", "7").get(random.nextInt(4));
    }

    static Criteria random(Random random, int depth) {
        int kind = depth > 3 ? 3 : random.nextInt(5);
        return switch (kind) {
            case 0 -> new Criteria.All(parts(random, depth));
            case 1 -> new Criteria.Any(parts(random, depth));
            case 2 -> new Criteria.Not(random(random, depth + 1));
            default -> {
                Field field = Field.values()[random.nextInt(Field.values().length)];
                List<Operator> operators = field.type().operators();
                Operator operator = operators.get(random.nextInt(operators.size()));
                yield new Criteria.Test(field, operator, operator.wantsValues() ? List.of(value(field, random), value(field, random)) : List.of());
            }
        };
    }

    private static List<Criteria> parts(Random random, int depth) {
        var parts = new ArrayList<Criteria>();
        for (int i = random.nextInt(4); i > 0; i--) {
            parts.add(random(random, depth + 1));
        }
        return parts;
    }
}

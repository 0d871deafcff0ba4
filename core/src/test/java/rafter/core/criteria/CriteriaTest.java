package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.core.criteria.Criteria.test;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.json.Unreadable;

class CriteriaTest {

    /** Every field that every ticket has, and an own one of each kind. */
    private static final List<Field> FIELDS = Stream.concat(
                    Arrays.<Field>stream(KnownField.values()),
                    Arrays.stream(OwnField.Kind.values()).map(kind -> new OwnField(7, kind)))
            .toList();

    private static final Facts SLOT = Facts.none()
            .with(KnownField.PLAN, "Anchor")
            .with(KnownField.PRIORITY, "P2")
            .with(KnownField.TAGS, List.of("booking", "late"))
            .with(KnownField.SUBJECT, "Lost my Season-Pass at Skelby, déjà vu")
            .with(KnownField.CONTACT_ADDRESS, "Dov.Reiss@Brightwater.example");
    private static final Instant NOW = Instant.parse("2026-11-23T10:00:00Z");
    private static final Asking ASKING = new Asking(NOW, new PersonId(7), Set.of(new TeamId(3), new TeamId(4)));
    private static final Sentence WORDS = new Sentence((field, value) -> value);

    @ParameterizedTest
    @CsvSource({
        "lost, true",
        "LOST, true",
        "los, false",
        "season pass, true",
        "pass season, false",
        "deja vu, true",
        "at skelby, true",
        "'', false"
    })
    void only_whole_words_are_found_whatever_their_case_and_accents(String words, boolean found) {
        assertThat(Matching.matches(test(KnownField.SUBJECT, Operator.HAS_ANY, words), SLOT))
                .isEqualTo(found);
    }

    @ParameterizedTest
    @CsvSource({
        "AT_LEAST,P2,true",
        "AT_LEAST,P1,false",
        "AT_LEAST,P3,true",
        "AT_MOST,P2,true",
        "AT_MOST,P3,false",
        "AT_MOST,P1,true",
        "IS,P2,true"
    })
    void p1_is_the_highest_priority(Operator operator, String bound, boolean matches) {
        assertThat(Matching.matches(test(KnownField.PRIORITY, operator, bound), SLOT))
                .isEqualTo(matches);
    }

    @Test
    void texts_are_compared_by_their_ends_and_sets_by_what_is_in_them() {
        assertThat(Matching.matches(test(KnownField.CONTACT_ADDRESS, Operator.ENDS_WITH, "@brightwater.example"), SLOT))
                .isTrue();
        assertThat(Matching.matches(test(KnownField.CONTACT_ADDRESS, Operator.BEGINS_WITH, "dov."), SLOT))
                .isTrue();
        assertThat(Matching.matches(test(KnownField.TAGS, Operator.HAS_ALL, "booking", "late"), SLOT))
                .isTrue();
        assertThat(Matching.matches(test(KnownField.TAGS, Operator.HAS_ALL, "booking", "lost"), SLOT))
                .isFalse();
        assertThat(Matching.matches(test(KnownField.TAGS, Operator.HAS_NONE, "lost"), SLOT))
                .isTrue();
    }

    @Test
    void what_is_not_known_is_nothing_and_not_something_else() {
        assertThat(Matching.matches(test(KnownField.TOPIC, Operator.IS, "billing"), SLOT))
                .isFalse();
        assertThat(Matching.matches(test(KnownField.TOPIC, Operator.IS_NOT, "billing"), SLOT))
                .isTrue();
        assertThat(Matching.matches(test(KnownField.TOPIC, Operator.IS_EMPTY), SLOT))
                .isTrue();
    }

    @Test
    void it_reads_as_a_sentence_and_says_why() {
        var criteria = new Criteria.All(List.of(
                test(KnownField.PLAN, Operator.IS, "Anchor", "Harbour"),
                new Criteria.Any(List.of(
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "lost"),
                        test(KnownField.TOPIC, Operator.IS, "billing")))));
        assertThat(WORDS.of(criteria))
                .isEqualTo(
                        "the customer’s plan is Anchor or Harbour and (the subject has one of “lost” or the topic is billing)");
        Verdict verdict = Matching.explain(criteria, SLOT);
        assertThat(verdict.matches()).isTrue();
        assertThat(Matching.decisive(verdict))
                .extracting(WORDS::why)
                .containsExactly("the customer’s plan is Anchor or Harbour", "the subject has one of “lost” (lost)");
        Verdict no = Matching.explain(test(KnownField.PLAN, Operator.IS, "Harbour"), SLOT);
        assertThat(WORDS.why(no)).isEqualTo("the customer’s plan is Anchor, not Harbour");
    }

    @Test
    void what_cannot_be_asked_is_told() {
        assertThat(Criteria.faults(test(KnownField.PLAN, Operator.HAS_ALL, "Anchor")))
                .singleElement()
                .asString()
                .contains("cannot be asked");
        assertThat(Criteria.faults(test(KnownField.PLAN, Operator.IS, " ")))
                .singleElement()
                .asString()
                .contains("lacks what to compare with");
        assertThat(Criteria.faults(new Criteria.Any(List.of()))).hasSize(1);
        assertThat(Criteria.faults(Criteria.everything())).isEmpty();
    }

    @Test
    void json_of_another_version_or_with_unknown_fields_is_refused() {
        assertThatThrownBy(() -> CriteriaJson.read("{\"version\": 9, \"all\": []}"))
                .hasMessageContaining("version 9");
        assertThatThrownBy(() -> CriteriaJson.read("{\"all\": [{\"field\": \"moon\", \"is\": [\"full\"]}]}"))
                .hasMessageContaining("moon");
        assertThatThrownBy(() -> CriteriaJson.read("{")).isInstanceOf(Unreadable.class);
    }

    static LongStream seeds() {
        return Seeds.upTo(200);
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
        Criteria criteria = ASKING.resolve(random(random, 0));
        Facts facts = facts(random);
        boolean matches = Matching.matches(criteria, facts);
        assertThat(Matching.explain(criteria, facts).matches()).isEqualTo(matches);
        assertThat(Matching.matches(new Criteria.Not(criteria), facts)).isEqualTo(!matches);
        assertThat(Matching.matches(new Criteria.All(List.of(criteria, criteria)), facts))
                .isEqualTo(matches);
    }

    private static Facts facts(Random random) {
        Facts facts = Facts.none();
        for (Field field : FIELDS) {
            String value = field.type().ofTime()
                    ? NOW.plusSeconds(60L * (random.nextInt(600) - 300)).toString()
                    : value(field, random);
            facts = random.nextBoolean() ? facts.with(field, value) : facts;
        }
        return facts;
    }

    private static String value(Field field, Random random) {
        if (field.type().ofTime()) {
            return List.of("30 m", "2 h", "1 d", "1 h 30").get(random.nextInt(4));
        }
        if (field.type() == FieldType.NUMBER) {
            return List.of("7", "12", "0.5", "-3").get(random.nextInt(4));
        }
        if (field.type() == FieldType.DATE) {
            return "2027-03-0" + (1 + random.nextInt(4));
        }
        return field == KnownField.PRIORITY
                ? "P" + (1 + random.nextInt(4))
                : List.of("Anchor", "lost", "Skelby", "7").get(random.nextInt(4));
    }

    static Criteria random(Random random, int depth) {
        int kind = depth > 3 ? 3 : random.nextInt(5);
        return switch (kind) {
            case 0 -> new Criteria.All(parts(random, depth));
            case 1 -> new Criteria.Any(parts(random, depth));
            case 2 -> new Criteria.Not(random(random, depth + 1));
            default -> {
                Field field = FIELDS.get(random.nextInt(FIELDS.size()));
                List<Operator> operators = field.type().operators();
                Operator operator = operators.get(random.nextInt(operators.size()));
                yield new Criteria.Test(
                        field,
                        operator,
                        operator.wantsValues() ? List.of(value(field, random), value(field, random)) : List.of());
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

    @ParameterizedTest
    @CsvSource({
        "sailing, the ferry sails at noon, true",
        "booking, two bookings were made, true",
        "cancelled, please cancel it, true",
        "delay, delayed again, true",
        "ferry, three ferries, true",
        "lose, I lost it, false",
        "sail, a sailor, false",
        "stop, it stopped, true"
    })
    void on_request_regular_forms_of_a_word_are_found_too(String word, String text, boolean found) {
        Facts facts = Facts.none().with(KnownField.ANY_MESSAGE, List.of("Dear all", text));
        assertThat(Matching.matches(test(KnownField.ANY_MESSAGE, Operator.HAS_FORM, word), facts))
                .isEqualTo(found);
    }

    @Test
    void a_phrase_does_not_reach_from_one_message_into_the_next() {
        Facts facts = Facts.none().with(KnownField.ANY_MESSAGE, List.of("lost my season", "pass is gone"));
        assertThat(Matching.matches(test(KnownField.ANY_MESSAGE, Operator.HAS_ANY, "season pass"), facts))
                .isFalse();
        assertThat(Matching.matches(test(KnownField.ANY_MESSAGE, Operator.HAS_ALL, "my season", "pass is"), facts))
                .isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "WITHIN,30 m,20,true",
        "WITHIN,30 m,40,false",
        "WITHIN,30 m,-5,true",
        "LATE,,-1,true",
        "LATE,,1,false",
        "RUNS,,1,true"
    })
    void a_target_is_due_within_a_time_from_now_and_late_ones_are_too(
            Operator operator, String within, int minutes, boolean matches) {
        Facts facts = Facts.none()
                .with(
                        KnownField.FIRST_REPLY,
                        NOW.plus(Duration.ofMinutes(minutes)).toString());
        Criteria asked = within == null
                ? test(KnownField.FIRST_REPLY, operator)
                : test(KnownField.FIRST_REPLY, operator, within);
        assertThat(Matching.matches(ASKING.resolve(asked), facts)).isEqualTo(matches);
        assertThat(Matching.matches(ASKING.resolve(asked), Facts.none())).isFalse();
    }

    @ParameterizedTest
    @CsvSource({"AT_LEAST,2 h,121,true", "AT_LEAST,2 h,119,false", "AT_MOST,2 h,119,true", "AT_MOST,1 d,1441,false"})
    void time_in_a_turn_is_counted_until_now(Operator operator, String amount, int minutes, boolean matches) {
        Facts facts = Facts.none()
                .with(KnownField.IN_TURN, NOW.minus(Duration.ofMinutes(minutes)).toString());
        assertThat(Matching.matches(ASKING.resolve(test(KnownField.IN_TURN, operator, amount)), facts))
                .isEqualTo(matches);
    }

    @Test
    void me_and_my_teams_are_those_of_whoever_reads() {
        Criteria mine = new Criteria.Any(List.of(
                test(KnownField.OWNER, Operator.IS, Asking.ME), test(KnownField.TEAM, Operator.IS, Asking.MINE)));
        assertThat(Asking.personal(mine)).isTrue();
        assertThat(Asking.personal(test(KnownField.OWNER, Operator.IS, "7"))).isFalse();
        assertThat(Matching.matches(ASKING.resolve(mine), Facts.none().with(KnownField.OWNER, "7")))
                .isTrue();
        assertThat(Matching.matches(ASKING.resolve(mine), Facts.none().with(KnownField.TEAM, "4")))
                .isTrue();
        assertThat(Matching.matches(
                        ASKING.resolve(mine),
                        Facts.none().with(KnownField.OWNER, "8").with(KnownField.TEAM, "5")))
                .isFalse();
    }

    @Test
    void an_amount_that_cannot_be_read_is_a_fault() {
        assertThat(Criteria.faults(test(KnownField.AGE, Operator.AT_LEAST, "soon")))
                .hasSize(1);
        assertThat(Criteria.faults(test(KnownField.AGE, Operator.AT_LEAST, "2 d")))
                .isEmpty();
    }

    @org.junit.jupiter.params.ParameterizedTest
    @org.junit.jupiter.params.provider.ValueSource(
            strings = {
                "{\"all\":\"x\"}",
                "[]",
                "\"all\"",
                "{\"all\":[],\"any\":[]}",
                "{\"all\":[],\"other\":1}",
                "{\"version\":2,\"all\":[]}",
                "{\"version\":\"1\",\"all\":[]}",
                "{\"all\":[1]}",
                "{\"not\":[]}",
                "{\"field\":\"plan\"}",
                "{\"field\":\"plan\",\"is\":\"Anchor\"}",
                "{\"field\":\"plan\",\"is\":[1]}",
                "{\"field\":\"plan\",\"is\":[],\"is-not\":[]}",
                "{\"field\":\"plan\",\"at-least\":[\"x\"]}",
                "{\"field\":1,\"is\":[]}",
                "{\"field\":\"plan\",\"is\":[\"Anchor\"],\"unless\":[]}",
                "{}",
                "null",
                "",
                "{"
            })
    void what_is_no_criteria_is_refused_and_never_guessed_at(String json) {
        assertThatThrownBy(() -> CriteriaJson.read(json)).isInstanceOf(Unreadable.class);
    }

    @Test
    void an_unknown_priority_is_a_fault_and_matches_nothing() {
        Facts facts = Facts.none().with(KnownField.PRIORITY, "P2");
        for (Operator operator : List.of(Operator.IS, Operator.AT_LEAST, Operator.AT_MOST)) {
            Criteria.Test test = Criteria.test(KnownField.PRIORITY, operator, "zebra");
            assertThat(Criteria.faults(test)).isNotEmpty();
            assertThat(Matching.matches(test, facts)).isFalse();
        }
    }

    @Test
    void tags_are_compared_in_small_letters_and_any_address_of_a_contact_counts() {
        Facts facts = Facts.none()
                .with(KnownField.TAGS, List.of("lost", "vip"))
                .with(KnownField.CONTACT_ADDRESS, List.of("kim@home.example", "kim@work.example"));
        assertThat(Matching.matches(Criteria.test(KnownField.TAGS, Operator.HAS_ALL, "LOST ", "Vip"), facts))
                .isTrue();
        assertThat(Matching.matches(
                        Criteria.test(KnownField.CONTACT_ADDRESS, Operator.ENDS_WITH, "@work.example"), facts))
                .isTrue();
        assertThat(Matching.matches(
                        Criteria.test(KnownField.CONTACT_ADDRESS, Operator.IS_NOT, "kim@work.example"), facts))
                .isFalse();
        assertThat(Matching.matches(Criteria.test(KnownField.CONTACT_ADDRESS, Operator.IS_EMPTY), Facts.none()))
                .isTrue();
    }
}

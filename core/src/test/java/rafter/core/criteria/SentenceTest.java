package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** How criteria read, and what relative words in them mean. */
class SentenceTest {

    private static final Sentence SENTENCE = new Sentence((field, value) -> switch (value) {
        case "7" -> "Freight desk";
        case "OURS" -> "ours";
        case "me" -> "me";
        default -> value;
    });

    static Stream<Arguments> sentences() {
        return Stream.of(
                Arguments.of(Criteria.everything(), "all tickets"),
                Arguments.of(new Criteria.Any(List.of()), "no ticket"),
                Arguments.of(test(KnownField.TEAM, Operator.IS, "7"), "the team is Freight desk"),
                Arguments.of(test(KnownField.PRIORITY, Operator.AT_LEAST, "P2"), "the priority is at least P2"),
                Arguments.of(
                        test(KnownField.TAGS, Operator.HAS_ALL, "late", "refund", "booking"),
                        "it has all of the tags late, refund and booking"),
                Arguments.of(test(KnownField.TAGS, Operator.HAS_ANY, "late"), "it has the tag late"),
                Arguments.of(test(KnownField.HELPERS, Operator.HAS_ANY, "me"), "who helps is me"),
                Arguments.of(test(KnownField.HELPERS, Operator.HAS_ALL, "me", "you"), "those who help are me and you"),
                Arguments.of(test(KnownField.HELPERS, Operator.HAS_NONE, "me"), "who helps is not me"),
                Arguments.of(test(KnownField.HELPERS, Operator.IS_EMPTY), "nobody helps"),
                Arguments.of(
                        test(KnownField.HELPING_TEAMS, Operator.HAS_ANY, "one of mine"),
                        "the team that helps is one of mine"),
                Arguments.of(test(KnownField.HELPING_TEAMS, Operator.IS_SET), "a team helps"),
                Arguments.of(
                        test(KnownField.WATCHERS, Operator.HAS_ANY, "me", "you"), "the watchers include me or you"),
                Arguments.of(test(KnownField.WATCHERS, Operator.HAS_NONE, "me"), "the watchers do not include me"),
                Arguments.of(
                        test(KnownField.SUBJECT, Operator.HAS_ANY, "lost", "left on board"),
                        "the subject has one of “lost” or “left on board”"),
                Arguments.of(test(KnownField.OWNER, Operator.IS_EMPTY), "the owner is not known"),
                Arguments.of(test(KnownField.NEXT_TARGET, Operator.LATE), "the next target is late"),
                Arguments.of(
                        test(KnownField.FIRST_REPLY, Operator.WITHIN, "30 m"), "the first reply is due within 30 m"),
                Arguments.of(test(KnownField.COMES_BACK, Operator.SOON, "1 d"), "the time it comes back is within 1 d"),
                Arguments.of(test(KnownField.PLAN, Operator.IS), "the customer’s plan is …"),
                Arguments.of(new Criteria.Not(test(KnownField.TURN, Operator.IS, "OURS")), "not (the turn is ours)"),
                Arguments.of(
                        new Criteria.All(List.of(
                                test(KnownField.TURN, Operator.IS, "OURS"),
                                new Criteria.Any(List.of(
                                        test(KnownField.OWNER, Operator.IS, "me"),
                                        test(KnownField.OWNER, Operator.IS_EMPTY))))),
                        "the turn is ours and (the owner is me or the owner is not known)"),
                Arguments.of(
                        new Criteria.All(
                                List.of(new Criteria.Any(List.of(test(KnownField.TURN, Operator.IS, "OURS"))))),
                        "the turn is ours"));
    }

    @ParameterizedTest
    @MethodSource("sentences")
    void criteria_read_as_a_sentence(Criteria criteria, String words) {
        assertThat(SENTENCE.of(criteria)).isEqualTo(words);
    }

    @ParameterizedTest
    @EnumSource(KnownField.class)
    void every_question_about_every_field_reads_as_words(KnownField field) {
        for (Operator operator : field.type().operators()) {
            Criteria asked = operator.wantsValues() ? test(field, operator, "30 m") : test(field, operator);
            assertThat(SENTENCE.of(asked))
                    .startsWith(field.type() == FieldType.SET ? "" : field.words() + " " + operator.words())
                    .doesNotContain("null", "_");
        }
    }

    @Test
    void no_two_fields_and_no_two_questions_of_a_field_have_the_same_name_or_words() {
        assertThat(Arrays.stream(KnownField.values()).map(KnownField::key)).doesNotHaveDuplicates();
        assertThat(Arrays.stream(KnownField.values()).map(KnownField::words)).doesNotHaveDuplicates();
        for (FieldType type : FieldType.values()) {
            assertThat(type.operators().stream().map(Operator::words)).doesNotHaveDuplicates();
        }
    }

    @Test
    void a_promise_asks_about_nothing_that_its_own_clocks_or_the_hour_would_change() {
        assertThat(KnownField.ofPromises()).noneMatch(field -> field.type().ofTime());
        assertThat(KnownField.ofPromises()).doesNotContain(KnownField.OWNER, KnownField.ANY_MESSAGE);
        assertThat(KnownField.askedBy(new Criteria.All(List.of(
                        test(KnownField.PLAN, Operator.IS, "Anchor"),
                        test(new OwnField(3, OwnField.Kind.TEXT), Operator.IS, "x")))))
                .containsExactly(KnownField.PLAN);
    }

    // ------------------------------------------------------------------ relative words

    private static final Instant NOW = Instant.parse("2027-03-01T09:00:00Z");
    private static final Asking IMANI = new Asking(NOW, new PersonId(4), Set.of(new TeamId(7), new TeamId(2)));

    @Test
    void me_and_mine_mean_whoever_reads() {
        assertThat(IMANI.resolve(test(KnownField.OWNER, Operator.IS, "me", "9")))
                .isEqualTo(test(KnownField.OWNER, Operator.IS, "4", "9"));
        assertThat(IMANI.resolve(test(KnownField.TEAM, Operator.IS_NOT, "mine")))
                .isEqualTo(test(KnownField.TEAM, Operator.IS_NOT, "2", "7"));
        assertThat(new Asking(NOW, new PersonId(4), Set.of()).resolve(test(KnownField.TEAM, Operator.IS, "mine")))
                .as("of nobody’s team")
                .isEqualTo(test(KnownField.TEAM, Operator.IS));
        assertThat(IMANI.resolve(test(KnownField.SUBJECT, Operator.HAS_ANY, "me")))
                .as("a word is a word")
                .isEqualTo(test(KnownField.SUBJECT, Operator.HAS_ANY, "me"));
    }

    @Test
    void lengths_of_time_reach_back_for_what_was_and_ahead_for_what_is_to_come() {
        assertThat(IMANI.resolve(test(KnownField.AGE, Operator.AT_LEAST, "2 h")))
                .isEqualTo(test(KnownField.AGE, Operator.AT_LEAST, "2027-03-01T07:00:00Z"));
        assertThat(IMANI.resolve(test(KnownField.RESOLUTION, Operator.WITHIN, "2 h")))
                .isEqualTo(test(KnownField.RESOLUTION, Operator.WITHIN, "2027-03-01T11:00:00Z"));
        assertThat(IMANI.resolve(test(KnownField.COMES_BACK, Operator.SOON, "1 d")))
                .isEqualTo(test(KnownField.COMES_BACK, Operator.SOON, "2027-03-02T09:00:00Z"));
        assertThat(IMANI.resolve(test(KnownField.RESOLUTION, Operator.LATE)))
                .isEqualTo(test(KnownField.RESOLUTION, Operator.LATE, NOW.toString()));
        assertThat(IMANI.resolve(test(KnownField.AGE, Operator.AT_LEAST, "long ago")))
                .isEqualTo(test(KnownField.AGE, Operator.AT_LEAST));
    }

    @Test
    void what_is_nested_is_resolved_too_and_keeps_its_shape() {
        Criteria nested = new Criteria.Any(
                List.of(new Criteria.Not(test(KnownField.OWNER, Operator.IS, "me")), new Criteria.All(List.of())));
        assertThat(IMANI.resolve(nested))
                .isEqualTo(new Criteria.Any(List.of(
                        new Criteria.Not(test(KnownField.OWNER, Operator.IS, "4")), new Criteria.All(List.of()))));
    }

    @Test
    void an_operator_that_a_field_does_not_have_is_a_fault_in_words() {
        assertThat(Criteria.faults(test(KnownField.PLAN, Operator.LATE)))
                .singleElement()
                .asString()
                .contains("cannot be asked");
        assertThat(Criteria.faults(test(KnownField.PLAN, Operator.IS)))
                .singleElement()
                .asString()
                .contains("lacks what to compare with");
        assertThat(Criteria.faults(new Criteria.Any(List.of())))
                .singleElement()
                .asString()
                .contains("would match nothing");
        Criteria deep = test(KnownField.PLAN, Operator.IS, "Anchor");
        for (int i = 0; i < 12; i++) {
            deep = new Criteria.All(List.of(deep));
        }
        assertThat(Criteria.faults(deep)).singleElement().asString().contains("nested more than");
    }
}

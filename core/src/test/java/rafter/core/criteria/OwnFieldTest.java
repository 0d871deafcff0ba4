package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.criteria.Criteria.test;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import rafter.core.id.PersonId;

class OwnFieldTest {

    private static final OwnField METRES = new OwnField(3, OwnField.Kind.NUMBER);
    private static final OwnField SAILING = new OwnField(4, OwnField.Kind.DATE);

    @ParameterizedTest
    @EnumSource(OwnField.Kind.class)
    void a_field_is_found_again_by_its_key(OwnField.Kind kind) {
        var field = new OwnField(12, kind);
        assertThat(Field.of(field.key())).hasValue(field);
    }

    @Test
    void whose_field_it_is_stands_in_its_key() {
        for (OwnField.Bearer bearer : OwnField.Bearer.values()) {
            var field = new OwnField(12, bearer, OwnField.Kind.DATE);
            assertThat(Field.of(field.key())).hasValue(field);
        }
        assertThat(new OwnField(12, OwnField.Kind.TEXT).key()).isEqualTo("own-12-text");
        assertThat(new OwnField(12, OwnField.Bearer.COMPANY, OwnField.Kind.TEXT).key())
                .isEqualTo("company-12-text");
    }

    @Test
    void fields_of_one_number_but_of_different_bearers_are_not_mixed_up() {
        var ofContact = new OwnField(5, OwnField.Bearer.CONTACT, OwnField.Kind.TEXT);
        var ofCompany = new OwnField(5, OwnField.Bearer.COMPANY, OwnField.Kind.TEXT);
        Facts facts = Facts.none().with(ofContact, "North");
        assertThat(facts.of(ofContact).plain()).containsExactly("North");
        assertThat(facts.of(ofCompany).plain()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "own-12",
        "own--text",
        "own-12-list",
        "own-9999999999999999999-text",
        "OWN-12-text",
        "own-12-text-more",
        "team-12-text",
        "contact-12"
    })
    void what_is_no_key_names_no_field(String key) {
        assertThat(Field.of(key)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"12,12", "' 12.50 ',12.5", "0.000,0", "-3,-3", "+4,4", "100,100", "1200.10,1200.1"})
    void equal_numbers_are_written_alike(String typed, String kept) {
        assertThat(METRES.normalised(typed)).hasValue(kept);
    }

    @ParameterizedTest
    @CsvSource({"twelve", "1e5", "'1,5'", "--3", "1.2.3", "1234567890123456", "0x10"})
    void what_is_no_number_is_not_kept(String typed) {
        assertThat(METRES.normalised(typed)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "2027-03-01,true",
        "2028-02-29,true",
        "2027-02-29,false",
        "1.3.2027,false",
        "2027-3-1,false",
        "+12027-03-01,false"
    })
    void dates_are_days_that_there_are(String typed, boolean kept) {
        assertThat(SAILING.normalised(typed).isPresent()).isEqualTo(kept);
    }

    @Test
    void a_blank_takes_the_value_away_in_every_kind() {
        for (OwnField.Kind kind : OwnField.Kind.values()) {
            assertThat(new OwnField(1, kind).normalised("  ")).hasValue("");
        }
    }

    @ParameterizedTest
    @CsvSource({
        "IS,12.0,true",
        "IS,11,false",
        "IS_NOT,11,true",
        "IS_NOT,12,false",
        "AT_LEAST,9,true",
        "AT_LEAST,100,false",
        "AT_MOST,100,true",
        "AT_MOST,9,false",
        "AT_MOST,many,false"
    })
    void numbers_are_compared_by_their_size_and_not_as_text(Operator operator, String with, boolean matches) {
        Facts facts = Facts.none().with(METRES, "12");
        assertThat(Matching.matches(test(METRES, operator, with), facts)).isEqualTo(matches);
    }

    @ParameterizedTest
    @CsvSource({
        "FROM,2027-03-01,true",
        "FROM,2027-03-02,false",
        "UNTIL,2027-03-01,true",
        "UNTIL,2027-02-28,false",
        "IS,2027-03-01,true",
        "UNTIL,later,false"
    })
    void dates_are_compared_by_the_calendar(Operator operator, String with, boolean matches) {
        Facts facts = Facts.none().with(SAILING, "2027-03-01");
        assertThat(Matching.matches(test(SAILING, operator, with), facts)).isEqualTo(matches);
    }

    @Test
    void a_ticket_without_a_value_is_unlike_every_value() {
        assertThat(Matching.matches(test(METRES, Operator.IS_NOT, "12"), Facts.none()))
                .isTrue();
        assertThat(Matching.matches(test(METRES, Operator.AT_MOST, "12"), Facts.none()))
                .isFalse();
        assertThat(Matching.matches(test(METRES, Operator.IS_EMPTY), Facts.none()))
                .isTrue();
        assertThat(Matching.matches(test(SAILING, Operator.IS_SET), Facts.none()))
                .isFalse();
    }

    @Test
    void what_cannot_be_compared_is_said_before_it_is_used() {
        assertThat(Criteria.faults(test(METRES, Operator.AT_LEAST, "long")))
                .singleElement()
                .asString()
                .contains("“long” is no number");
        assertThat(Criteria.faults(test(SAILING, Operator.FROM, "2027-02-30")))
                .singleElement()
                .asString()
                .contains("is no date");
        assertThat(Criteria.faults(test(SAILING, Operator.FROM, "2027-02-28"))).isEmpty();
    }

    @Test
    void a_sentence_calls_an_own_field_by_the_name_it_has_today() {
        var sentence = new Sentence(new Sentence.Names() {
            @Override
            public String of(Field field, String value) {
                return value;
            }

            @Override
            public String of(Field field) {
                return field.equals(METRES) ? "the metres" : field.words();
            }
        });
        assertThat(sentence.of(test(METRES, Operator.AT_LEAST, "14"))).isEqualTo("the metres is at least 14");
        assertThat(sentence.of(test(new OwnField(9, OwnField.Kind.TEXT), Operator.IS, "x")))
                .contains("own field 9");
    }

    @Test
    void an_answer_is_told_in_the_words_in_which_it_was_asked() {
        Instant now = Instant.parse("2027-03-01T09:00:00Z");
        Criteria written = new Criteria.All(List.of(
                test(KnownField.NEXT_TARGET, Operator.WITHIN, "4 h"),
                new Criteria.Not(test(KnownField.OWNER, Operator.IS, "me"))));
        Facts facts = Facts.none()
                .with(KnownField.NEXT_TARGET, "2027-03-01T10:00:00Z")
                .with(KnownField.OWNER, "8");
        Verdict verdict = Matching.explain(new Asking(now, new PersonId(7), Set.of()).resolve(written), facts)
                .asWritten(written);
        assertThat(verdict.criteria()).isEqualTo(written);
        assertThat(verdict.matches()).isTrue();
        var sentence = new Sentence((field, value) -> value.equals("2027-03-01T10:00:00Z") ? "10:00" : value);
        assertThat(Matching.decisive(verdict))
                .extracting(sentence::why)
                .containsExactly("the next target is due within 4 h (10:00)", "not (the owner is me)");
    }

    @Test
    void why_a_time_does_not_match_says_when_it_is() {
        Instant now = Instant.parse("2027-03-01T09:00:00Z");
        Criteria written = test(KnownField.NEXT_TARGET, Operator.WITHIN, "30 m");
        Verdict verdict = Matching.explain(
                        new Asking(now, new PersonId(7), Set.of()).resolve(written),
                        Facts.none().with(KnownField.NEXT_TARGET, "2027-03-01T10:00:00Z"))
                .asWritten(written);
        assertThat(new Sentence((field, value) -> "10:00").why(verdict))
                .isEqualTo("not: the next target is due within 30 m (10:00)");
    }

    @ParameterizedTest
    @CsvSource({"30 m,20,true", "30 m,40,false", "2 h,-5,true"})
    void what_is_to_come_back_soon_is_found_before_it_does(String within, int minutes, boolean matches) {
        Instant now = Instant.parse("2027-03-01T09:00:00Z");
        Facts facts = Facts.none()
                .with(KnownField.COMES_BACK, now.plusSeconds(60L * minutes).toString());
        Criteria asked =
                new Asking(now, new PersonId(1), Set.of()).resolve(test(KnownField.COMES_BACK, Operator.SOON, within));
        assertThat(Matching.matches(asked, facts)).isEqualTo(matches);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "SEVERAL|Dogs~ Cats~~Dogs|Cats~Dogs",
                "SEVERAL|~|",
                "TREE|Ferries /Cabins/ Upgrade|Ferries / Cabins / Upgrade",
                "TICK|Yes|yes",
                "TICK|~yes|yes",
                "TICK|no|",
                "TICK|0|",
                "PERSON|12|12",
                "LINK|https://ferries.example/plan?a=1#b|https://ferries.example/plan?a=1#b",
                "LONG|One~Two|One~Two",
            })
    void a_value_is_kept_in_one_way(OwnField.Kind kind, String typed, String kept) {
        String expected = kept == null ? "" : kept.replace('~', '\n');
        var field = new OwnField(7, kind);
        assertThat(field.normalised(typed.replace("~", "\r\n"))).hasValue(expected);
        assertThat(field.normalised(expected)).hasValue(expected);
    }

    @ParameterizedTest
    @CsvSource({
        "TREE, Ferries // Cabins",
        "TICK, perhaps",
        "TICK, yes and no",
        "PERSON, Odile",
        "COMPANY, -3",
        "LINK, javascript:alert(1)",
        "LINK, ferries.example",
        "LINK, https:///nowhere",
        "LINK, https://a b.example",
    })
    void what_cannot_be_a_value_is_none(OwnField.Kind kind, String typed) {
        assertThat(new OwnField(7, kind).normalised(typed)).isEmpty();
    }

    @Test
    void a_choice_in_a_tree_matches_every_level_above_it_and_none_beside_it() {
        var service = new OwnField(7, OwnField.Kind.TREE);
        Facts facts = Facts.none().with(service, "Ferries / Cabins / Upgrade");
        assertThat(Matching.matches(test(service, Operator.HAS_ANY, "Ferries / Cabins"), facts))
                .isTrue();
        assertThat(Matching.matches(test(service, Operator.HAS_ANY, "ferries"), facts))
                .isTrue();
        assertThat(Matching.matches(test(service, Operator.HAS_ANY, "Cabins", "Ferries / Meals"), facts))
                .isFalse();
        assertThat(Matching.matches(test(service, Operator.IS_SET), facts)).isTrue();
    }

    @Test
    void several_choices_are_asked_about_like_tags() {
        var animals = new OwnField(7, OwnField.Kind.SEVERAL);
        Facts facts = Facts.none().with(animals, "Cats\nDogs");
        assertThat(Matching.matches(test(animals, Operator.HAS_ALL, "dogs", "Cats"), facts))
                .isTrue();
        assertThat(Matching.matches(test(animals, Operator.HAS_NONE, "Birds"), facts))
                .isTrue();
        assertThat(facts.of(new OwnField(8, OwnField.Kind.SEVERAL))).isEqualTo(Fact.NOTHING);
        assertThat(Facts.none().with(animals, "").of(animals)).isEqualTo(Fact.NOTHING);
    }
}

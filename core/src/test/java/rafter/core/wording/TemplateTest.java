package rafter.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.wording.Template.Open;
import rafter.core.wording.Template.Version;

/** Which mail somebody gets by itself, and in which language. */
class TemplateTest {

    private static final Criteria FREIGHT = Criteria.test(KnownField.TOPIC, Operator.IS, "freight slots");
    private static final Facts ABOUT_FREIGHT = Facts.none().with(KnownField.TOPIC, "freight slots");

    private static Template template(long id, Open open, Criteria criteria, Version... versions) {
        return new Template(id, Purpose.ACKNOWLEDGEMENT, "T" + id, true, open, criteria, List.of(versions), 0);
    }

    private static Template template(long id, Open open, Criteria criteria) {
        return template(id, open, criteria, new Version("", "Subject", "Text"));
    }

    private static Optional<Long> chosen(Facts facts, boolean open, Template... all) {
        return Template.choose(List.of(all), Purpose.ACKNOWLEDGEMENT, facts, open)
                .map(Template::id);
    }

    @Test
    void the_first_that_fits_the_ticket_and_the_hour_is_sent() {
        Template night = template(1, Open.CLOSED, Criteria.everything());
        Template freight = template(2, Open.ANY, FREIGHT);
        Template rest = template(3, Open.ANY, Criteria.everything());
        assertThat(chosen(ABOUT_FREIGHT, true, night, freight, rest)).contains(2L);
        assertThat(chosen(ABOUT_FREIGHT, false, night, freight, rest)).contains(1L);
        assertThat(chosen(Facts.none(), true, night, freight, rest)).contains(3L);
        assertThat(chosen(Facts.none(), true, template(1, Open.OPEN, Criteria.everything())))
                .contains(1L);
        assertThat(chosen(Facts.none(), false, template(1, Open.OPEN, Criteria.everything())))
                .isEmpty();
    }

    @Test
    void one_that_is_off_or_for_something_else_is_not() {
        Template rest = template(3, Open.ANY, Criteria.everything());
        var off = new Template(
                1, Purpose.ACKNOWLEDGEMENT, "Off", false, Open.ANY, Criteria.everything(), rest.versions(), 0);
        var other = new Template(2, Purpose.OWN, "Own", true, Open.ANY, Criteria.everything(), rest.versions(), 0);
        assertThat(chosen(Facts.none(), true, off, other, rest)).contains(3L);
        assertThat(chosen(Facts.none(), true, off, other)).isEmpty();
        assertThat(rest.forAll()).isTrue();
        assertThat(template(1, Open.OPEN, Criteria.everything()).forAll()).isFalse();
        assertThat(template(1, Open.ANY, FREIGHT).forAll()).isFalse();
    }

    @ParameterizedTest
    @CsvSource({"de,German", "de-CH,Swiss", "de-AT,German", "DE,German", "fr,Everybody", "'',Everybody", "x,Everybody"})
    void the_words_are_those_of_the_language_as_it_is_spoken_there_or_those_for_everybody(String tag, String words) {
        Template template = template(
                1,
                Open.ANY,
                Criteria.everything(),
                new Version("", "Everybody", "Text"),
                new Version("de", "German", "Text"),
                new Version("de-CH", "Swiss", "Text"));
        assertThat(template.words(tag).subject()).isEqualTo(words);
    }

    @Test
    void nothing_is_wrong_with_a_whole_one() {
        assertThat(template(
                                1,
                                Open.ANY,
                                FREIGHT,
                                new Version("", "{ticket}: {subject}", "Hello {first name}, we open {opens}."),
                                new Version("pt-BR", "{number}", "{request page}"))
                        .faults())
                .isEmpty();
    }

    @Test
    void what_is_missing_or_wrong_is_said_with_its_language() {
        assertThat(template(1, Open.ANY, Criteria.everything(), new Version("de", "S", "T"))
                        .faults())
                .hasSize(1);
        assertThat(template(1, Open.ANY, Criteria.everything(), new Version("", "", "T"))
                        .faults())
                .hasSize(1);
        assertThat(template(1, Open.ANY, Criteria.everything(), new Version("", "{agent}", "{rating}"))
                        .faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault).contains("{agent}, {rating}"));
        assertThat(template(
                                1,
                                Open.ANY,
                                Criteria.everything(),
                                new Version("", "S", "T"),
                                new Version("de", "S", "T"),
                                new Version("DE", "S", ""))
                        .faults())
                .hasSize(2)
                .anyMatch(fault -> fault.contains("(DE)"));
        assertThat(template(1, Open.ANY, Criteria.everything(), new Version("", "S".repeat(201), "T"))
                        .faults())
                .hasSize(1);
        assertThat(template(1, Open.ANY, Criteria.test(KnownField.AGE, Operator.AT_LEAST, "4 h"))
                        .faults())
                .containsExactly("It asks something that is not known when it is sent.");
        assertThat(template(1, Open.ANY, Criteria.test(KnownField.TOPIC, Operator.IS))
                        .faults())
                .hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(strings = {"german", "d", "xx", "de_DE", "12"})
    void what_is_no_language_is_refused(String tag) {
        assertThat(template(1, Open.ANY, Criteria.everything(), new Version("", "S", "T"), new Version(tag, "S", "T"))
                        .faults())
                .hasSize(1);
    }

    @Test
    void the_question_how_we_did_needs_its_links_in_every_language() {
        var question = new Template(
                1,
                Purpose.RATING,
                "Q",
                true,
                Open.ANY,
                Criteria.everything(),
                List.of(new Version("", "S", "{rating}"), new Version("de", "S", "T")),
                0);
        assertThat(question.faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault).contains("{rating}").contains("(de)"));
    }

    @ParameterizedTest
    @EnumSource
    void a_purpose_is_known_by_its_key_and_has_placeholders(Purpose purpose) {
        assertThat(Purpose.of(purpose.key())).contains(purpose);
        assertThat(purpose.placeholders()).isNotEmpty();
        assertThat(purpose.needed().stream()).allMatch(purpose.placeholders()::contains);
        assertThat(purpose.words()).isNotBlank();
        assertThat(purpose.when()).isNotBlank();
    }
}

package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

/** Finding words, and filling placeholders. */
class WordsTest {

    private static final String LETTERS = "abÅéßñ 日1. -'\u0301\n\tİ";

    static LongStream seeds() {
        return Seeds.upTo(300);
    }

    private static String text(Random random) {
        var text = new StringBuilder();
        for (int i = random.nextInt(40); i > 0; i--) {
            text.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
        }
        return text.toString();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void folding_a_folded_text_changes_nothing(long seed) {
        String folded = Words.fold(text(new Random(seed)));
        assertThat(Words.fold(folded)).isEqualTo(folded);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void each_run_of_words_of_a_text_is_found_in_it_and_as_it_is_kept(long seed) {
        var random = new Random(seed);
        String text = text(random);
        Words words = Words.of(text);
        List<String> all = Words.list(text);
        assertThat(words.has("")).isFalse();
        if (all.isEmpty()) {
            assertThat(words.stored()).isBlank();
            return;
        }
        int from = random.nextInt(all.size());
        String phrase = String.join(" ", all.subList(from, from + 1 + random.nextInt(all.size() - from)));
        assertThat(words.has(phrase)).isTrue();
        assertThat(words.hasForm(phrase)).isTrue();
        assertThat(words.stored()).contains(Words.of(phrase).stored());
        assertThat(words.beginsWith(all.getFirst())).isTrue();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_two_texts_have_together_no_phrase_reaches_across(long seed) {
        var random = new Random(seed);
        var first = new ArrayList<>(Words.list("q " + text(random)));
        var second = new ArrayList<>(Words.list(text(random) + " z"));
        first.add("edge");
        second.addFirst("rim");
        Words both = Words.of(List.of(String.join(" ", first), String.join(" ", second)));
        assertThat(both.has("edge rim")).isFalse();
        assertThat(both.has("edge")).isTrue();
        assertThat(both.has("rim")).isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "pass, compass, false",
        "pass, season-pass, true",
        "season pass, season-pass, true",
        "season pass, season the pass, false",
        "zurich, ZÜRICH!, true",
        "o'neill, O Neill, true",
        "14m, 14 m, false",
        "14m, a 14M trailer, true",
        "straße, strasse, false",
        "naïve, naive, true",
        "ﬁne, fine, true"
    })
    void whole_words_are_found_letter_case_and_accents_aside(String phrase, String text, boolean found) {
        assertThat(Words.of(text).has(phrase)).isEqualTo(found);
    }

    @ParameterizedTest
    @CsvSource({
        "delay, delayed",
        "delay, delaying",
        "cancel, cancelled",
        "ferry, ferries",
        "ferries, ferry",
        "book, booking",
        "arrive, arrives",
        "stop, stopping",
        "box, boxes"
    })
    void the_regular_forms_of_a_word_are_known_both_ways(String word, String form) {
        assertThat(Words.of(form).hasForm(word)).isTrue();
        assertThat(Words.of(word).hasForm(form)).isTrue();
    }

    @Test
    void a_run_that_is_no_word_but_data_is_cut_and_still_found_by_itself() {
        String data = "x".repeat(5000);
        assertThat(Words.of(data).stored().length()).isLessThan(250);
        assertThat(Words.of("see " + data + " here").has(data)).isTrue();
        assertThat(Words.list(data)).singleElement().asString().hasSize(200);
    }

    @Test
    void a_phrase_of_many_words_has_no_more_forms_than_are_sensible_to_look_for() {
        assertThat(Words.of("The delayed box bookings stop ferry cancels today")
                        .hasForm("delays boxes booking stopped ferries cancelled"))
                .isTrue();
        assertThat(Words.of("The delayed box bookings stop no ferry cancels")
                        .hasForm("delays boxes booking stopped ferries cancelled"))
                .isFalse();
        assertThat(Words.formsOf(" . ")).isEmpty();
        assertThat(Words.formsOf("word ".repeat(13))).isEmpty();
        assertThat(Words.of(List.of("ends with boxes", "booking begins")).hasForm("box bookings"))
                .isFalse();
    }

    // ------------------------------------------------------------------ placeholders

    @Test
    void placeholders_have_one_name_each_and_go_on_answering_to_those_of_before() {
        assertThat(Placeholder.names(Placeholder.forSteps()))
                .contains("ticket", "number", "target", "objective")
                .hasSize(Placeholder.forSteps().size() + 2);
        assertThat(Placeholder.names(Placeholder.forWriting())).doesNotContain("owner", "link", "due");
        assertThat(Placeholders.fill(
                        "{ticket} {number} {objective}",
                        Placeholder.named(Map.of(Placeholder.TICKET, "4471", Placeholder.TARGET, "first reply"))))
                .isEqualTo("4471 4471 first reply");
        assertThat(Placeholder.firstName("Dov Reiss")).isEqualTo("Dov");
        assertThat(Placeholder.firstName("dov@post.example")).isEqualTo("there");
        assertThat(Placeholder.firstName(" ")).isEqualTo("there");
    }

    @Test
    void placeholders_are_filled_once_and_what_is_filled_in_is_left_alone() {
        assertThat(Placeholders.fill(
                        "Dear {first name}, {ticket}: {first name}",
                        Map.of("first name", "{ticket} $1 \\", "ticket", "4471")))
                .isEqualTo("Dear {ticket} $1 \\, 4471: {ticket} $1 \\");
    }

    @Test
    void what_nobody_knows_stays_and_is_told_once_in_order() {
        String text = "{who} and {what else} and {who}, {Not One}, {}, {ticket}";
        assertThat(Placeholders.fill(text, Map.of("ticket", "1")))
                .isEqualTo("{who} and {what else} and {who}, {Not One}, {}, 1");
        assertThat(Placeholders.unknown(text, Set.of("ticket"))).containsExactly("who", "what else");
    }

    // ------------------------------------------------------------------ forms, and the ends of things

    @Test
    void the_forms_of_a_word_are_these() {
        assertThat(Words.forms("cancel")).contains("cancel", "cancels", "canceled", "canceling");
        assertThat(Words.forms("stop")).contains("stopped", "stopping", "stops");
        assertThat(Words.forms("stopped")).contains("stop", "stops");
        assertThat(Words.forms("ferries")).contains("ferry").first().isEqualTo("ferries");
        assertThat(Words.forms("carried")).contains("carry");
        assertThat(Words.forms("ferry")).contains("ferries", "ferried").doesNotContain("ferrys", "ferryed");
        assertThat(Words.forms("day")).contains("days", "dayed").doesNotContain("daies");
        assertThat(Words.forms("by"))
                .as("of two letters a y stays")
                .contains("bys")
                .doesNotContain("bies");
        assertThat(Words.forms("move")).contains("moved", "moving", "moves").doesNotContain("moveed", "moveing");
        assertThat(Words.forms("moving")).contains("move");
        assertThat(Words.forms("moved")).contains("move");
        assertThat(Words.forms("boxes")).contains("box", "boxed");
        assertThat(Words.forms("at")).as("of two letters nothing is doubled").doesNotContain("atted", "atting");
        assertThat(Words.forms("ran")).contains("ranned", "ranning");
        assertThat(Words.forms("is"))
                .as("too short to be a form of anything")
                .contains("is")
                .doesNotContain("i");
        assertThat(Words.forms("bus")).doesNotContain("bu");
        assertThat(Words.forms("cats")).contains("cat");
        assertThat(Words.forms("falling")).contains("fall", "fal");
        assertThat(Words.forms("egging")).contains("egg").doesNotContain("eg");
    }

    @Test
    void as_many_words_as_a_phrase_may_have_have_forms_and_one_more_has_none() {
        String most = "walk ".repeat(Words.MOST_OF_A_PHRASE).strip();
        assertThat(Words.formsOf(most)).hasSize(Words.MOST_OF_A_PHRASE);
        assertThat(Words.formsOf(most + " walk")).isEmpty();
        assertThat(Words.of(most + " walk").hasForm(most + " walk")).isFalse();
        assertThat(Words.of("we walked home").hasForm("walk home")).isTrue();
        assertThat(Words.of("we walked").hasForm("walk home")).isFalse();
        assertThat(Words.of("").hasForm("")).isFalse();
        assertThat(Words.of("any").hasForm(" ")).isFalse();
    }

    @Test
    void texts_are_the_same_by_their_words_and_begin_with_the_first_of_them() {
        assertThat(Words.of("Été 12"))
                .isEqualTo(Words.of("ete 12"))
                .hasSameHashCodeAs(Words.of("ete 12"))
                .isNotEqualTo(Words.of("ete 13"))
                .isNotEqualTo("ete 12");
        assertThat(Words.of("ete").hashCode()).isNotZero();
        assertThat(Words.of("Été").toString()).isEqualTo("ete");
        assertThat(Words.of("Été 12").folded()).isEqualTo("ete 12");
        assertThat(Words.of(java.util.List.of("one two", "three four")).beginsWith("three"))
                .isTrue();
        assertThat(Words.of(java.util.List.of("one two", "three four")).beginsWith("two"))
                .isFalse();
        assertThat(Words.of("one").beginsWith("")).isFalse();
        assertThat(Words.of("one").beginsWith("?")).isFalse();
        assertThat(Words.fold("\u00a0Ä ")).isEqualTo("a");
        assertThat(Words.fold("\u0080x")).isEqualTo("\u0080x");
    }
}

package rafter.core.social;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import rafter.core.text.Words;

class SearchesTest {

    private static boolean finds(String words, String text) {
        return new KeptSearch(1, words).finds(Words.of(text));
    }

    @Test
    void all_words_of_an_alternative_must_stand_in_the_text_in_whatever_form() {
        assertThat(finds("ferry late", "The ferries were LATE again")).isTrue();
        assertThat(finds("ferry late", "The ferry was on time")).isFalse();
    }

    @Test
    void one_alternative_is_enough() {
        assertThat(finds("umbrella, \"kestrel light\"", "Aboard the Kestrel Light tonight"))
                .isTrue();
        assertThat(finds("umbrella, \"kestrel light\"", "A light for the kestrel"))
                .isFalse();
    }

    @Test
    void what_has_no_word_finds_nothing_and_says_so() {
        assertThat(finds("", "anything")).isFalse();
        assertThat(finds("!!", "anything!!")).isFalse();
        assertThat(new KeptSearch(1, " , ").faults()).isNotEmpty();
        assertThat(new KeptSearch(1, "!!, ferry").faults()).isNotEmpty();
        assertThat(new KeptSearch(1, "ferry").faults()).isEmpty();
        assertThat(new KeptSearch(1, "a, ".repeat(21)).faults()).isNotEmpty();
    }

    @Test
    void a_wording_is_known_again_after_small_changes_and_a_short_one_never() {
        var spam = Wording.of("Win a free cruise today, follow the harbour lottery page now");
        assertThat(Wording.same(spam, Wording.of("WIN a free cruise today! Follow the harbour lottery page, now!!")))
                .isTrue();
        assertThat(Wording.same(spam, Wording.of("Is the cruise from the harbour free of stairs?")))
                .isFalse();
        assertThat(Wording.same(Wording.of("late"), Wording.of("late"))).isFalse();
    }
}

package rafter.app.work.search;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class PassageTest {

    @Test
    void the_first_word_that_begins_so_is_marked_as_it_stands() {
        Passage passage = Passage.of("Dear all,\n\nthe Déjà-vu ferry  was late.", List.of("deja"));
        assertThat(passage).isEqualTo(new Passage("Dear all, the ", "Déjà", "-vu ferry was late."));
    }

    @Test
    void far_into_a_long_text_only_what_is_near_is_shown() {
        Passage passage = Passage.of("word ".repeat(300) + "lantern" + " more".repeat(300), List.of("lantern"));
        assertThat(passage.before()).startsWith("…").hasSizeLessThan(70);
        assertThat(passage.hit()).isEqualTo("lantern");
        assertThat(passage.after()).endsWith("…").hasSizeLessThan(130);
    }

    @Test
    void where_nothing_matches_the_text_begins_and_nothing_is_marked() {
        assertThat(Passage.of("Short", List.of("lantern"))).isEqualTo(new Passage("Short", "", ""));
    }
}

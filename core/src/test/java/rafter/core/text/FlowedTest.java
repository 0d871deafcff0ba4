package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class FlowedTest {

    @Test
    void softly_broken_lines_become_one() {
        assertThat(Flowed.join("The boat \nleaves \nsoon.\nYes?\n", false)).isEqualTo("The boat leaves soon.\nYes?\n");
    }

    @Test
    void the_blank_goes_with_the_break_when_it_says_so() {
        assertThat(Flowed.join("Fähr \nhaus\n", true)).isEqualTo("Fährhaus\n");
    }

    @Test
    void quotations_are_joined_each_by_itself_and_stuffed_blanks_are_taken_off() {
        assertThat(Flowed.join("> one \n> two\n>> three \nfour\n >five\n", false))
                .isEqualTo("> one two\n>> three \nfour\n>five\n");
    }

    @Test
    void a_signature_mark_is_no_soft_break() {
        assertThat(Flowed.join("Bye \n-- \nKim\n", false)).isEqualTo("Bye \n-- \nKim\n");
    }
}

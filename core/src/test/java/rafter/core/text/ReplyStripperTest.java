package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ReplyStripperTest {

    @Test
    void the_quoted_rest_below_an_attribution_is_folded() {
        var parts = ReplyStripper.strip("Thank you.\n\nOn Mon, 1 Mar 2027 at 09:00, Help <help@ternpassage.example> wrote:\n> Hello\n> there\n");
        assertThat(parts.own()).isEqualTo("Thank you.");
        assertThat(parts.quoted()).startsWith("On Mon").endsWith("> there");
    }

    @Test
    void an_attribution_may_be_broken_over_lines() {
        var parts = ReplyStripper.strip("Yes\n\nOn Monday, 1 March 2027, Tern Passage Help\n<help@ternpassage.example>\nwrote:\n\n> Hello");
        assertThat(parts.own()).isEqualTo("Yes");
    }

    @Test
    void answers_between_quotes_keep_the_quotes_they_answer() {
        String text = "On Monday Help wrote:\n> Which sailing?\nThe 07:40.\n> How many?\nTwo.";
        assertThat(ReplyStripper.strip(text).own()).isEqualTo(text);
    }

    @Test
    void quotes_above_own_words_stay_and_only_the_rest_below_is_folded() {
        var parts = ReplyStripper.strip("> Which sailing?\nThe 07:40.\n\n> older\n> oldest");
        assertThat(parts.own()).isEqualTo("> Which sailing?\nThe 07:40.");
        assertThat(parts.quoted()).isEqualTo("> older\n> oldest");
    }

    @Test
    void a_block_of_header_lines_begins_the_rest() {
        var parts = ReplyStripper.strip("Fine by me.\n\nFrom: Help <help@ternpassage.example>\nSent: Monday\nTo: Dov\nSubject: Slot\n\nHello");
        assertThat(parts.own()).isEqualTo("Fine by me.");
        assertThat(parts.quoted()).startsWith("From: Help");
    }

    @ParameterizedTest
    @ValueSource(strings = {"-----Original Message-----", "---------- Forwarded message ---------", "-------- Opprinnelig melding --------"})
    void a_divider_begins_the_rest(String divider) {
        assertThat(ReplyStripper.strip("See below\n" + divider + "\nHello").own()).isEqualTo("See below");
    }

    @Test
    void a_signature_is_folded() {
        var parts = ReplyStripper.strip("The 07:40, please.\n-- \nDov Reiss\nBrightwater Produce");
        assertThat(parts.own()).isEqualTo("The 07:40, please.");
        assertThat(parts.signature()).contains("Brightwater");
    }

    @Test
    void a_phone_closing_is_a_signature_only_at_the_end() {
        assertThat(ReplyStripper.strip("Yes.\n\nSent from my phone").own()).isEqualTo("Yes.");
        assertThat(ReplyStripper.strip("Sent from my phone\nbut I am on board").own()).contains("on board");
    }

    @Test
    void a_sentence_that_begins_like_a_header_is_not_one() {
        String text = "From: here to Vessa, how long?\nI ask because of my dog.";
        assertThat(ReplyStripper.strip(text).own()).isEqualTo(text);
    }

    @Test
    void when_nothing_of_their_own_is_left_everything_is_theirs() {
        String text = "On Monday Help wrote:\n> Hello";
        assertThat(ReplyStripper.strip(text).own()).isEqualTo(text);
        assertThat(ReplyStripper.strip("").own()).isEmpty();
    }
}

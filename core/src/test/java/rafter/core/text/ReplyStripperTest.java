package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ReplyStripperTest {

    private static final String OURS =
            "Hello Dov, your trailer is on the 07:40 boat in lane 4.\nPlease be there at 07:10.\n\nKind regards\nImani";

    private static Earlier earlier() {
        return Earlier.of(Set.of("help@ternpassage.example", "dov@brightwater.example"), () -> List.of(OURS));
    }

    private static ReplyParts strip(String text) {
        return ReplyStripper.strip(text, earlier());
    }

    private static void nothingIsFolded(String text) {
        assertThat(strip(text).own()).isEqualTo(text.strip());
        assertThat(ReplyStripper.strip(text, Earlier.NOTHING).own()).isEqualTo(text.strip());
    }

    @Test
    void the_quoted_rest_below_an_attribution_is_folded() {
        var parts = strip(
                "Thank you.\n\nOn Mon, 1 Mar 2027 at 09:00, Help <help@ternpassage.example> wrote:\n> Hello\n> there\n");
        assertThat(parts.own()).isEqualTo("Thank you.");
        assertThat(parts.quoted()).startsWith("On Mon").endsWith("> there");
    }

    @Test
    void an_attribution_may_be_broken_over_lines() {
        assertThat(strip(
                                "Yes\n\nOn Monday, 1 March 2027, Tern Passage Help\n<help@ternpassage.example>\nwrote:\n\n> Hello")
                        .own())
                .isEqualTo("Yes");
    }

    @Test
    void what_we_wrote_is_known_without_marks() {
        var parts = strip("That is fine.\n\nAm 1. März 2027 um 10:00 schrieb Tern Passage:\n\n" + OURS);
        assertThat(parts.own()).isEqualTo("That is fine.");
        assertThat(parts.quoted()).endsWith("Imani");
    }

    @Test
    void an_answer_below_what_we_wrote_stays_in_view() {
        var parts = strip("On 1 March 2027, Help wrote:\n" + OURS + "\n\nYes, we will be there.");
        assertThat(parts.own()).isEqualTo("Yes, we will be there.");
        assertThat(parts.quoted()).contains("lane 4");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Man. 1. mars 2027 kl. 10:00 skrev Tern Passage <help@ternpassage.example>:",
                "Dnia 1 marca 2027 10:00 Tern Passage napisał(a):",
                "El lun, 1 mar 2027 a las 10:00, Tern Passage (<help@ternpassage.example>) escribió:",
                "Le lun. 1 mars 2027 à 10:00, Tern Passage a écrit :",
                "Il giorno lun 1 mar 2027 alle ore 10:00 Tern Passage ha scritto:",
                "Op ma 1 mrt 2027 om 10:00 schreef Tern Passage:",
                "Em seg., 1 de mar. de 2027 às 10:00, Tern Passage escreveu:",
                "ma 1. maalisk. 2027 klo 10.00 Tern Passage kirjoitti:",
                "пн, 1 мар. 2027 г. в 10:00, Tern Passage написал:",
                "2027年3月1日 Tern Passage 写道：",
                "1 Mar 2027 10:00 tarihinde Tern Passage şunu yazdı:",
                "Den mån 1 mars 2027 kl 10:00 skrev Tern Passage:"
            })
    void attributions_of_many_languages_go_with_the_quotation(String attribution) {
        assertThat(strip("Takk!\n\n" + attribution + "\n> Hello\n> there").own())
                .isEqualTo("Takk!");
        assertThat(strip("Takk!\n\n" + attribution + "\n" + OURS).own()).isEqualTo("Takk!");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "I want to book:\n\nFrom: Oslo\nTo: Kiel\nDate: 3 March\nSubject: two adults\n\nand please a cabin with a window.",
                "On Monday your colleague wrote:\nwe would get our money back.\nThat was three weeks ago.",
                "On 1 March 2027 your colleague at help@ternpassage.example wrote:\nwe would get our money back.",
                "Cabins\n--\nBerths\n2\n\nIs that right?",
                "Sent from my old address because the new one fails.\nPlease answer there.",
                "Sent from my old address, please answer to the new one",
                "-----Original Message-----\nwas all that stood in your mail. Why?",
                "> is what the machine printed.\nWhat does it mean, and can I still board?"
            })
    void the_writers_own_words_are_never_folded(String text) {
        nothingIsFolded(text);
    }

    @Test
    void the_writers_own_booking_below_a_quotation_stays() {
        var parts = strip(
                "> Hello Dov, your trailer is on the 07:40 boat in lane 4.\n> Please be there\n> at 07:10\n> Kind regards\n\nFrom: Oslo\nTo: Kiel\nDate: 3 March\nNo window please");
        assertThat(parts.own()).contains("From: Oslo").contains("No window please");
    }

    @Test
    void the_first_message_of_a_conversation_quotes_nothing() {
        String text = "Look what your leaflet says\n\nOn 1 March 2027, Help wrote:\n> Hello";
        assertThat(ReplyStripper.strip(text, Earlier.NOTHING).own()).isEqualTo(text);
    }

    @Test
    void what_is_passed_on_stays_in_view() {
        nothingIsFolded(
                "FYI\n\n---------- Forwarded message ---------\nFrom: Kim <kim@post.example>\nSent: Monday\nTo: help@ternpassage.example\nSubject: Slot\n\n"
                        + OURS);
    }

    @Test
    void answers_between_quotes_keep_the_quotes_they_answer() {
        String text = "On 1 March Help wrote:\n> Which sailing?\nThe 07:40.\n> How many?\nTwo.";
        assertThat(strip(text).own()).isEqualTo(text);
        String unmarked =
                "On 1 March Help wrote:\nHello Dov, your trailer is on the 07:40 boat in lane 4.\nNot lane 5?\nPlease be there at 07:10.";
        assertThat(strip(unmarked).own()).isEqualTo(unmarked);
    }

    @Test
    void answers_within_quoting_markup_keep_the_quotation() {
        List<TextLine> lines = List.of(
                new TextLine("See below", 0, false),
                new TextLine("On 1 March 2027 Help wrote:", 0, false),
                new TextLine("Hello Dov, your trailer is on the 07:40 boat in lane 4.", 1, true),
                new TextLine("Not lane 5?", 1, true),
                new TextLine("Please be there at 07:10.", 1, true));
        assertThat(ReplyStripper.cut(lines, earlier()).quoted(3)).isFalse();
        assertThat(ReplyStripper.cut(lines, Earlier.of(Set.of(), List::of)).quoted(3))
                .isTrue();
    }

    @Test
    void quotes_above_own_words_stay_and_only_the_rest_below_is_folded() {
        var parts = strip("> Which sailing?\nThe 07:40.\n\n> older\n> oldest");
        assertThat(parts.own()).isEqualTo("> Which sailing?\nThe 07:40.");
        assertThat(parts.quoted()).isEqualTo("> older\n> oldest");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "From: Help <help@ternpassage.example>\nSent: Monday\nTo: Dov\nSubject: Slot",
                        "Von: Tern Passage <help+t4471.1a2b3c@ternpassage.example>\nGesendet: Montag\nAn: Dov\nBetreff: Slot",
                "________________________________\nFra: Help <help@ternpassage.example>\nSendt: mandag\nTil: Dov\nEmne: Slot",
                        "-----Original Message-----\nFrom: Help <help@ternpassage.example>\nSent: Monday\nTo: Dov\nSubject: Slot"
            })
    void header_lines_that_name_the_conversation_begin_the_rest(String header) {
        var parts = strip("Fine by me.\n\n" + header + "\n\nSomething that was never seen before");
        assertThat(parts.own()).isEqualTo("Fine by me.");
        assertThat(parts.quoted()).endsWith("never seen before");
    }

    @Test
    void header_lines_that_name_strangers_begin_it_only_when_the_rest_is_known() {
        String header = "From: Imani\nSent: Monday\nTo: Dov\nSubject: Slot\n\n";
        assertThat(strip("Fine by me.\n\n" + header + OURS).own()).isEqualTo("Fine by me.");
        nothingIsFolded("Fine by me.\n\n" + header + "Something that was never seen before");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "-----Original Message-----",
                "-------- Opprinnelig melding --------",
                "-----Ursprüngliche Nachricht-----"
            })
    void a_divider_begins_the_rest_when_that_is_known(String divider) {
        assertThat(strip("See below\n" + divider + "\n" + OURS).own()).isEqualTo("See below");
    }

    @Test
    void a_signature_is_folded() {
        var parts = strip("The 07:40, please.\n-- \nDov Reiss\nBrightwater Produce");
        assertThat(parts.own()).isEqualTo("The 07:40, please.");
        assertThat(parts.signature()).contains("Brightwater");
        assertThat(strip("The 07:40, please.\n--\nDov Reiss\n+47 55 01 02 03").own())
                .isEqualTo("The 07:40, please.");
    }

    @Test
    void a_mark_above_much_text_or_an_afterthought_is_no_signature() {
        nothingIsFolded("One\n-- \n" + "and more, and more\n".repeat(12));
        nothingIsFolded("One\n-- \nDov\nP.S. Please also cancel the return trip");
    }

    @Test
    void a_phone_closing_is_a_signature_only_at_the_end() {
        assertThat(strip("Yes.\n\nSent from my phone").own()).isEqualTo("Yes.");
        assertThat(strip("Ja.\n\nSendt fra min mobiltelefon").own()).isEqualTo("Ja.");
        nothingIsFolded("Sent from my phone\nbut I am on board");
    }

    @Test
    void when_nothing_of_their_own_is_left_everything_is_theirs() {
        nothingIsFolded("On 1 March 2027 Help wrote:\n> Hello");
        assertThat(strip("").own()).isEmpty();
        nothingIsFolded("-- \nDov Reiss");
    }

    @Test
    @Tag("growth")
    void twice_the_text_takes_about_twice_the_time() {
        for (String piece : List.of(
                "> q\nand own\n",
                "On 1 Mar Kim wrote:\n",
                "From: a\nTo: b\nDate: c\n\n",
                "word ",
                "--\n",
                ">".repeat(200) + "\n")) {
            long one = Growth.of(n -> strip(piece.repeat(n)), 4_000, 8);
            assertThat(one).as(piece).isLessThan(40);
        }
    }
}

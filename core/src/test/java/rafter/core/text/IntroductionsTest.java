package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The lines above an earlier message: which ones they are, and which only look like them. */
class IntroductionsTest {

    private static int attribution(String text) {
        return Introductions.attribution(TextLine.of(text), 0);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "On 1 March 2027, Kim wrote:|1",
                "On Monday, kim@post.example wrote:|1",
                "On 1 March 2027, Kim wrote|0",
                "On Monday, Kim wrote:|0",
                "On 1 March 2027, Kim paid:|0",
                "2027-03-01 Kim 写道：|1",
                "On 1 March 2027,\\nKim Berg\\nwrote:|3",
                "On 1 March 2027,\\n\\nwrote:|0",
                "Dear all,\\non 1 March 2027 Kim wrote:|0",
                "On Tuesday\\nOn 1 March 2027 Kim wrote:|0",
                "On 1 March 2027,\\n> Kim wrote:|0",
                "On 1 March 2027\\na\\nb\\nwrote:|4",
                "On 1 March 2027\\na\\nb\\nc\\nwrote:|0"
            })
    void that_somebody_wrote_at_some_time(String text, int lines) {
        assertThat(attribution(text.replace("\\n", "\n"))).isEqualTo(lines);
    }

    @Test
    void a_line_of_four_hundred_letters_may_say_so_and_no_longer_one() {
        String most = "On 1 March 2027 " + "x".repeat(400 - 16 - 7) + " wrote:";
        assertThat(most).hasSize(400);
        assertThat(attribution(most)).isEqualTo(1);
        assertThat(attribution(most.replace("x wrote", "xx wrote"))).isZero();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "--- Original message ---",
                "__Ursprüngliche Nachricht__",
                "== Original Message ==",
                "** mensaje original **",
                "  -----Original Message-----  "
            })
    void a_framed_line_divides(String line) {
        assertThat(Introductions.isDivider(line)).isTrue();
        assertThat(Introductions.isForward(line)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"Original message", "- Original message", "--- Another message ---", "--- message ---"})
    void without_frame_or_of_other_words_it_does_not(String line) {
        assertThat(Introductions.isDivider(line)).isFalse();
    }

    @Test
    void a_frame_is_shorter_than_a_hundred_and_twenty_letters() {
        String words = " Original message";
        assertThat(Introductions.isDivider("-".repeat(119 - words.length()) + words))
                .isTrue();
        assertThat(Introductions.isDivider("-".repeat(120 - words.length()) + words))
                .isFalse();
        assertThat(Introductions.isDivider("--" + words + "-".repeat(119 - 2 - words.length())))
                .isTrue();
        assertThat(Introductions.isDivider("--" + words + "-".repeat(120 - 2 - words.length())))
                .isFalse();
    }

    @ParameterizedTest
    @CsvSource({
        "--- Forwarded message ---,true",
        "Begin forwarded message:,true",
        "Forwarded message,false",
        "fwd:,false",
        "--fwd--,true",
        "Weitergeleitete Nachricht:,true",
        "--- Message ---,false",
        "Dear all:,false"
    })
    void what_is_passed_on_is_told_from_what_is_quoted(String line, boolean forward) {
        assertThat(Introductions.isForward(line)).isEqualTo(forward);
    }

    private static int header(String... lines) {
        return Introductions.header(TextLine.of(String.join("\n", lines)), 0);
    }

    @Test
    void a_head_begins_with_the_sender_and_has_three_fields_at_least() {
        assertThat(header("From: Kim", "To: Dov", "Subject: Slot")).isEqualTo(3);
        assertThat(header("From: Kim", "To: Dov")).isZero();
        assertThat(header("To: Dov", "From: Kim", "Subject: Slot")).isZero();
        assertThat(header("From: Kim", "To: Dov", "Subject: Slot", "Hello")).isEqualTo(3);
        assertThat(header("From: Kim", "To: Dov", "Subject: Slot", "", "Date: today"))
                .isEqualTo(3);
        assertThat(header("*Von:* Kim", "*Gesendet:* heute", "*An:* Dov", "*Betreff:* Platz"))
                .isEqualTo(4);
        assertThat(header("From: Kim", "> To: Dov", "Subject: Slot"))
                .as("of one depth")
                .isZero();
    }

    @Test
    void a_long_list_of_receivers_runs_on_over_the_next_lines() {
        assertThat(header("From: Kim", "To: Dov,", " Ann,", " Bea", "Subject: Slot"))
                .isEqualTo(5);
        assertThat(header("From: Kim", "To: Dov,", "Ann,", "Bea,", "Cid,", "Subject: Slot"))
                .as("five lines in, the third field still comes")
                .isEqualTo(6);
        assertThat(header("From: Kim", "To: Dov,", "Ann,", "Bea,", "Cid,", "Dan,", "Subject: Slot"))
                .as("a sixth line that is no field ends it")
                .isZero();
    }

    @Test
    void no_more_than_twelve_lines_are_a_head() {
        String[] lines = new String[14];
        java.util.Arrays.fill(lines, "Cc: Somebody");
        lines[0] = "From: Kim";
        assertThat(header(lines)).isEqualTo(12);
    }

    @Test
    void a_line_of_thousands_of_letters_has_no_label() {
        assertThat(header("From: Kim", "To: " + "x".repeat(1_996), "Subject: Slot"))
                .isEqualTo(3);
        assertThat(header("From: Kim", "To: " + "x".repeat(1_997), "Subject: Slot"))
                .isZero();
    }

    @ParameterizedTest
    @CsvSource({
        "Sent from my phone,true",
        "Gesendet von meinem Handy,true",
        "Sent from my desk at home,false",
        "sent with the Parcel app,true",
        "Sent from my phone. Call me,false"
    })
    void what_a_telephone_adds(String line, boolean closing) {
        assertThat(Introductions.isPhoneClosing(line)).isEqualTo(closing);
    }

    @Test
    void lines_lie_as_deep_as_they_are_marked() {
        assertThat(TextLine.of("a\r\n> b\r> > c\n>>d\n> >\n  > e"))
                .extracting(TextLine::depth)
                .containsExactly(0, 1, 2, 2, 2, 0);
        assertThat(TextLine.of("> > c")).extracting(TextLine::text).containsExactly(" c");
        assertThat(TextLine.of("> b >")).extracting(TextLine::text).containsExactly(" b >");
        assertThat(TextLine.of("> ")).extracting(TextLine::depth).containsExactly(1);
        assertThat(List.of(
                        new TextLine("--- * ---", 0, true).wordless(),
                        new TextLine("a", 0, true).wordless(),
                        new TextLine("7", 0, true).wordless()))
                .containsExactly(true, false, false);
        assertThat(new TextLine(" \t", 0, true).blank()).isTrue();
        assertThat(new TextLine(".", 0, true).blank()).isFalse();
    }
}

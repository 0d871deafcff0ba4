package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailAddressTest {

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '~',
            value = {
                "Taro..Yamada@mobile.example, taro..yamada@mobile.example",
                "jiro.@mobile.example, jiro.@mobile.example",
                "kim@under_score.example, kim@under_score.example",
                "~<@relay.example,@other.example:kim@post.example>~, kim@post.example",
                "~\"kim vale\"@post.example~, ~\"kim vale\"@post.example~",
                "~\"kim\"@post.example~, kim@post.example",
                "o'neil@post.example, o'neil@post.example",
            })
    void addresses_of_odd_shape_are_addresses(String written, String kept) {
        MailAddress address = MailAddress.of(written).orElseThrow();
        assertThat(address).hasToString(kept);
        assertThat(address.writable()).isEqualTo(!kept.contains(" "));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "kim",
                "@post.example",
                "kim@",
                "kim vale@post.example",
                "kim@post.example\r\nBcc: x@y.example",
                "a<b@c.example",
                "kim@@post.example"
            })
    void what_is_none_is_refused(String written) {
        assertThat(MailAddress.of(written)).isEmpty();
    }

    @Test
    void letters_beyond_ascii_are_kept_but_cannot_be_written_to() {
        assertThat(MailAddress.of("bjørn@havn.example").orElseThrow().writable())
                .isFalse();
        assertThat(MailAddress.of("kim@a..example").orElseThrow().writable()).isFalse();
    }

    @Test
    void what_follows_a_plus_is_the_same_mailbox() {
        assertThat(MailAddress.of("kim+7@post.example").orElseThrow().plain()).hasToString("kim@post.example");
        assertThat(MailAddress.of("+7@post.example").orElseThrow().plain()).hasToString("+7@post.example");
    }

    @Test
    void all_addresses_of_a_text_are_found_once_and_in_order() {
        assertThat(MailAddress.in("Write to <kim@a.example>, jo@b.example. Or mailto:kim@a.example! @ no@ @one", 10))
                .extracting(MailAddress::toString)
                .containsExactly("kim@a.example", "jo@b.example");
        assertThat(MailAddress.in("a@b ".repeat(5), 0)).isEmpty();
    }

    @Test
    void parts_are_as_long_as_they_may_be_and_no_longer() {
        String local = "l".repeat(MailAddress.LONGEST_LOCAL);
        String domain = "d".repeat(MailAddress.LONGEST_DOMAIN - 8) + ".example";
        assertThat(MailAddress.of(local + "@post.example")).isPresent();
        assertThat(MailAddress.of(local + "l@post.example")).isEmpty();
        assertThat(MailAddress.of("a@" + domain)).isPresent();
        assertThat(MailAddress.of("a@d" + domain)).isEmpty();
        assertThat(MailAddress.of("a@x")).isPresent();
        assertThat(MailAddress.of("@x")).isEmpty();
        assertThat(MailAddress.of("a@")).isEmpty();
        assertThat(MailAddress.of("@a:b@x.example")).map(MailAddress::toString).hasValue("b@x.example");
    }

    @Test
    void signs_that_no_address_has_are_refused_and_others_are_not() {
        for (String sign :
                java.util.List.of("\u001f", "\u007f", "\u0080", "\u009f", "<", ">", ",", ";", ":", "(", " ")) {
            assertThat(MailAddress.of("a" + sign + "b@post.example")).as(sign).isEmpty();
        }
        for (String sign : java.util.List.of("\u00a1", "'", "{", "|", "`", "~", "!")) {
            assertThat(MailAddress.of("a" + sign + "b@post.example")).as(sign).isPresent();
        }
        assertThat(MailAddress.of("\"a b\"@post.example"))
                .map(MailAddress::toString)
                .hasValue("\"a b\"@post.example");
        assertThat(MailAddress.of("\"ab\"@post.example"))
                .map(MailAddress::toString)
                .hasValue("ab@post.example");
        assertThat(MailAddress.of("\"\"@post.example")).isEmpty();
        assertThat(MailAddress.of("\"a b@post.example")).isEmpty();
        assertThat(MailAddress.of("a@b\u007f.example")).isEmpty();
    }

    @Test
    void mail_can_be_written_to_what_is_of_plain_signs_alone() {
        assertThat(MailAddress.of("a~b@post.example").orElseThrow().writable()).isTrue();
        assertThat(MailAddress.of("\"a b\"@post.example").orElseThrow().writable())
                .isFalse();
        assertThat(MailAddress.of("å@post.example").orElseThrow().writable()).isFalse();
        assertThat(MailAddress.of("a@post..example").orElseThrow().writable()).isFalse();
        assertThat(MailAddress.of("a@.example").orElseThrow().writable()).isFalse();
        assertThat(MailAddress.of("a@example.").orElseThrow().writable()).isFalse();
    }

    @Test
    void in_running_text_they_end_where_their_signs_end() {
        assertThat(MailAddress.in("Write to a@x.example, or b@y.example. <c@z.example>; not @alone or d@", 9))
                .extracting(MailAddress::toString)
                .containsExactly("a@x.example", "b@y.example", "c@z.example");
        assertThat(MailAddress.in("a@x.example b@x.example c@x.example", 2)).hasSize(2);
        assertThat(MailAddress.in("a@x.example a@x.example", 9)).hasSize(1);
        String long64 = "l".repeat(MailAddress.LONGEST_LOCAL);
        assertThat(MailAddress.in("x" + long64 + "@post.example", 9))
                .extracting(MailAddress::toString)
                .containsExactly(long64 + "@post.example");
        assertThat(MailAddress.in("@x.example", 9)).isEmpty();
        assertThat(MailAddress.in("mail=a@x.example!", 9))
                .extracting(MailAddress::toString)
                .containsExactly("mail=a@x.example");
    }
}

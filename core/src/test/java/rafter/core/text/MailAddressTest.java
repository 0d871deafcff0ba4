package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailAddressTest {

    @ParameterizedTest
    @CsvSource(quoteCharacter = '~', value = {
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
    @ValueSource(strings = {"", "kim", "@post.example", "kim@", "kim vale@post.example", "kim@post.example\r\nBcc: x@y.example", "a<b@c.example", "kim@@post.example"})
    void what_is_none_is_refused(String written) {
        assertThat(MailAddress.of(written)).isEmpty();
    }

    @Test
    void letters_beyond_ascii_are_kept_but_cannot_be_written_to() {
        assertThat(MailAddress.of("bjørn@havn.example").orElseThrow().writable()).isFalse();
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
}

package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SafeHtmlTest {

    @Test
    void what_the_editor_makes_stays() {
        String html = "<p>Hello <strong>Dov</strong>,</p><ul><li>one</li></ul><blockquote>quoted</blockquote>";
        assertThat(SafeHtml.own(html)).isEqualTo(html);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<script>x()</script>", "<img src=x onerror=x()>", "<a href=\"javascript:x()\">go</a>",
                        "<p style=\"color:red\" onclick=\"x()\">hi</p>",
                "<svg onload=x()></svg>", "<iframe src=\"https://x.example\"></iframe>",
                        "<form action=x><input></form>", "<a href=\"data:text/html,x\">go</a>"
            })
    void what_could_do_harm_goes(String html) {
        assertThat(SafeHtml.own(html))
                .doesNotContainIgnoringCase("script")
                .doesNotContain("on")
                .doesNotContain("style")
                .doesNotContain("src")
                .doesNotContain("data:");
    }

    @Test
    void links_tell_the_other_side_nothing() {
        assertThat(SafeHtml.own("<a href=\"https://tern.example\">here</a>")).contains("rel=\"noopener noreferrer\"");
    }

    @Test
    void text_becomes_paragraphs_with_its_lines_and_no_markup_of_its_own() {
        assertThat(SafeHtml.fromText("One\ntwo\n\n<b>three</b>"))
                .isEqualTo("<p>One<br>two</p><p>&lt;b&gt;three&lt;/b&gt;</p>");
    }

    @Test
    void formatted_text_reads_well_as_plain_mail() {
        String text = SafeHtml.toText(
                "<p>Hello,</p><p>see <a href=\"https://tern.example/a\">the page</a>:</p><ul><li>one</li><li>two</li></ul><p>Bye</p>");
        assertThat(text).isEqualTo("Hello,\n\nsee the page <https://tern.example/a>:\n\n  - one\n  - two\n\nBye");
    }

    @Test
    void text_and_back_keeps_the_words() {
        String text = "Hello Dov,\n\nline one\nline two\n\nBye";
        assertThat(SafeHtml.toText(SafeHtml.fromText(text))).isEqualTo(text);
    }

    @Test
    void blanks_and_empty_paragraphs_are_no_words() {
        assertThat(SafeHtml.isBlank("<p><br></p><p>&nbsp;</p>")).isTrue();
        assertThat(SafeHtml.isBlank("<p>.</p>")).isFalse();
    }
}

package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MailKindsTest {

    private static MailKind kind(Map<String, String> headers) {
        var all = new HashMap<String, List<String>>();
        headers.forEach((name, value) -> all.put(name, List.of(value)));
        return MailKinds.of(all, "dov@brightwater.example", "text/plain", false);
    }

    @Test
    void a_plain_mail_is_a_persons() {
        assertThat(kind(Map.of("subject", "Automatic gate does not open"))).isEqualTo(MailKind.PERSON);
        assertThat(kind(Map.of("auto-submitted", "no"))).isEqualTo(MailKind.PERSON);
    }

    @ParameterizedTest
    @CsvSource({
        "auto-submitted, auto-replied, AUTO_REPLY",
        "auto-submitted, 'Auto-Replied (vacation)', AUTO_REPLY",
        "x-autoreply, yes, AUTO_REPLY",
        "precedence, auto_reply, AUTO_REPLY",
        "subject, 'Out of office: back on Monday', AUTO_REPLY",
        "subject, 'Automatisk svar: Borte', AUTO_REPLY",
        "auto-submitted, auto-generated, AUTO_GENERATED",
        "precedence, bulk, LIST",
        "list-id, <tides.lists.example>, LIST",
        "list-unsubscribe, <mailto:off@lists.example>, LIST",
    })
    void machines_give_themselves_away(String header, String value, MailKind expected) {
        assertThat(kind(Map.of(header, value))).isEqualTo(expected);
    }

    @Test
    void a_delivery_report_is_a_bounce() {
        assertThat(MailKinds.of(Map.of(), "mailer-daemon@post.example", "multipart/report", true)).isEqualTo(MailKind.BOUNCE);
        assertThat(MailKinds.of(Map.of("return-path", List.of("<>")), "x@post.example", "multipart/report", false))
                .isEqualTo(MailKind.BOUNCE);
    }

    @Test
    void an_old_style_failure_notice_is_a_bounce() {
        var headers = Map.of("subject", List.of("Undelivered Mail Returned to Sender"));
        assertThat(MailKinds.of(headers, "MAILER-DAEMON@post.example", "text/plain", false)).isEqualTo(MailKind.BOUNCE);
    }

    @Test
    void everything_but_a_person_is_automatic() {
        assertThat(MailKind.PERSON.automatic()).isFalse();
        assertThat(MailKind.LIST.automatic()).isTrue();
    }

    @Test
    void placeholders_are_filled_and_unknown_ones_stay_and_are_named() {
        assertThat(Placeholders.fill("{ticket}: {subject} {other}", Map.of("ticket", "4471", "subject", "$1 {ticket}")))
                .isEqualTo("4471: $1 {ticket} {other}");
        assertThat(Placeholders.unknown("{ticket} {other thing}", java.util.Set.of("ticket"))).containsExactly("other thing");
    }
}

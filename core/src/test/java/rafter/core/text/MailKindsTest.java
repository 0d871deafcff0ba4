package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailKindsTest {

    private static MailKind kind(Map<String, String> headers) {
        var all = new HashMap<String, List<String>>();
        headers.forEach((name, value) -> all.put(name, List.of(value)));
        return MailKinds.of(MailSigns.plain(all, "dov@brightwater.example", "Hello"));
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
        "auto-submitted, auto-generated, AUTO_GENERATED",
        "precedence, bulk, LIST",
        "list-id, <tides.lists.example>, LIST",
        "list-unsubscribe, <mailto:off@lists.example>, LIST",
    })
    void machines_give_themselves_away(String header, String value, MailKind expected) {
        assertThat(kind(Map.of(header, value))).isEqualTo(expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Out of office hours: how do I collect my car?",
                "Automatic reply from your ticket machine",
                "Autosvar på Skelby kai virker ikke",
                "Réponse automatique du guichet"
            })
    void the_words_of_a_subject_alone_never_make_a_machine_of_a_person(String subject) {
        assertThat(kind(Map.of("subject", subject))).isEqualTo(MailKind.PERSON);
    }

    @ParameterizedTest
    @CsvSource({
        "x-auto-response-suppress, All",
        "x-auto-response-suppress, 'DR, OOF, AutoReply'",
        "return-path, <>",
        "precedence, bulk",
        "auto-submitted, auto-generated"
    })
    void the_words_of_a_subject_decide_together_with_a_machines_header(String header, String value) {
        assertThat(kind(Map.of("subject", "Automatisk svar: Borte", header, value)))
                .isEqualTo(MailKind.AUTO_REPLY);
    }

    @Test
    void a_person_who_wants_no_automatic_answer_is_a_person_all_the_same() {
        var headers = Map.of("x-auto-response-suppress", List.of("OOF"));
        MailSigns signs = MailSigns.plain(headers, "dov@brightwater.example", "");
        assertThat(MailKinds.of(signs)).isEqualTo(MailKind.PERSON);
        assertThat(signs.wantsNoAutomaticAnswer()).isTrue();
        assertThat(MailSigns.plain(Map.of("x-auto-response-suppress", List.of("DR, RN, NRN")), "", "")
                        .wantsNoAutomaticAnswer())
                .isFalse();
    }

    @Test
    void an_empty_return_path_is_never_a_persons() {
        assertThat(kind(Map.of("return-path", "< >"))).isEqualTo(MailKind.AUTO_GENERATED);
        assertThat(kind(Map.of("return-path", "<dov@brightwater.example>"))).isEqualTo(MailKind.PERSON);
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
        assertThat(Placeholders.unknown("{ticket} {other thing}", java.util.Set.of("ticket")))
                .containsExactly("other thing");
    }
}

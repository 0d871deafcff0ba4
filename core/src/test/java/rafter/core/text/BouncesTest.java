package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Reports of undelivered mail are known, whoever wrote the server. */
class BouncesTest {

    /** A report in free text: who sends it, and how it is worded. */
    record Old(
            String sender,
            String name,
            Map<String, String> headers,
            String subject,
            String text,
            String address,
            String code) {
        @Override
        public String toString() {
            return subject + " from " + sender;
        }
    }

    private static Old old(String sender, String name, String subject, String text, String address, String code) {
        return new Old(sender, name, Map.of(), subject, text, address, code);
    }

    static List<Old> old() {
        return List.of(
                old(
                        "MAILER-DAEMON@post.example",
                        "",
                        "failure notice",
                        "Hi. This is the mail-send program at post.example.\nI'm afraid I wasn't able to deliver your message to the following addresses.\n"
                                + "This is a permanent error; I've given up. Sorry it didn't work out.\n\n<kim@post.example>:\nSorry, no mailbox here by that name. (#5.1.1)\n\n--- Below this line is a copy of the message.\n\nReturn-Path: <help@ternpassage.example>\nMessage-ID: <t1.a@ternpassage.example>\n",
                        "kim@post.example",
                        "5.1.1"),
                old(
                        "mailer-daemon@seamail.example",
                        "Mail Delivery Subsystem",
                        "Returned mail: see transcript for details",
                        "The original message was received at Mon, 1 Mar 2027\n\n   ----- The following addresses had permanent fatal errors -----\n<kim@seamail.example>\n    (reason: 550 5.1.1 <kim@seamail.example>... User unknown)\n",
                        "kim@seamail.example",
                        "550 5.1.1"),
                old(
                        "mailer-daemon@letterbox.example",
                        "Mail Delivery System",
                        "Mail delivery failed: returning message to sender",
                        "This message was created automatically by mail delivery software.\n\nA message that you sent could not be delivered to one or more of its\nrecipients. This is a permanent error. The following address(es) failed:\n\n  kim@letterbox.example\n    host mx.letterbox.example [203.0.113.9]\n    SMTP error from remote mail server after RCPT TO:<kim@letterbox.example>:\n    552 5.2.2 mailbox is full\n",
                        "kim@letterbox.example",
                        "552 5.2.2"),
                old(
                        "postmaster@oakum.example",
                        "System Administrator",
                        "Undeliverable: Re: Slot",
                        "Your message\n\n  To: kim@oakum.example\n  Subject: Slot\n\ndid not reach the following recipient(s):\n\nkim@oakum.example on Mon\n    The recipient name is not recognized\n",
                        "kim@oakum.example",
                        ""),
                old(
                        "postmaster@vessa.example",
                        "",
                        "Unzustellbar: Ihre Fähre",
                        "Ihre Nachricht an kim@vessa.example konnte nicht zugestellt werden.\n550 5.7.1 refused",
                        "kim@vessa.example",
                        "550 5.7.1"),
                old(
                        "MAILER-DAEMON@skelby.example",
                        "",
                        "Delivery Status Notification (Failure)",
                        "Delivery to the following recipient failed permanently:\n\n     kim@skelby.example\n\nTechnical details: 550 No such user",
                        "kim@skelby.example",
                        "550"),
                new Old(
                        "bounces@lists.example",
                        "",
                        Map.of("list-id", "<x.lists.example>", "precedence", "list"),
                        "Undelivered Mail Returned to Sender",
                        "This is the mail system at host lists.example.\n\n<kim@lists.example>: host mx said: 450 4.2.1 busy",
                        "kim@lists.example",
                        "450 4.2.1"),
                new Old(
                        "admin@harbour.example",
                        "",
                        Map.of("return-path", "<>"),
                        "Mail could not be delivered",
                        "kim@harbour.example: unknown user",
                        "kim@harbour.example",
                        ""),
                new Old(
                        "",
                        "",
                        Map.of("return-path", "<>"),
                        "Levering mislykkes",
                        "Meldingen til kim@nord.example kunne ikke leveres. 5.4.4",
                        "kim@nord.example",
                        "5.4.4"),
                new Old(
                        "noreply@cove.example",
                        "",
                        Map.of("x-failed-recipients", "kim@cove.example, jo@cove.example"),
                        "Delivery incomplete",
                        "There was a problem. 550 5.1.1",
                        "kim@cove.example",
                        "550 5.1.1"));
    }

    private static Optional<Bounce> read(Old one) {
        var headers = new HashMap<String, List<String>>();
        one.headers().forEach((name, value) -> headers.put(name, List.of(value)));
        headers.put("subject", List.of(one.subject()));
        headers.put("to", List.of("help@ternpassage.example"));
        return Bounces.read(new MailSigns(headers, one.sender(), one.name(), "text/plain", "", false, one.text()));
    }

    @ParameterizedTest
    @MethodSource("old")
    void a_report_in_free_text_tells_address_code_and_reason(Old one) {
        Bounce bounce = read(one).orElseThrow();
        assertThat(bounce.failures()).isNotEmpty();
        assertThat(bounce.failures().getFirst().address()).isEqualTo(one.address());
        assertThat(bounce.failures().getFirst().code()).isEqualTo(one.code());
        assertThat(bounce.words()).contains(one.address());
    }

    @Test
    void the_returned_mail_is_named_first() {
        assertThat(read(old().getFirst()).orElseThrow().messageIds()).startsWith("<t1.a@ternpassage.example>");
    }

    @Test
    void a_person_who_asks_about_a_report_is_no_report() {
        assertThat(read(old(
                        "kim@post.example",
                        "Kim Vale",
                        "Undelivered mail returned to sender",
                        "I got this: user unknown. Why?",
                        "",
                        "")))
                .isEmpty();
        assertThat(read(old("postmaster@post.example", "", "When does the boat leave?", "At nine?", "", "")))
                .isEmpty();
    }

    private static Optional<Bounce> report(String status) {
        var headers = Map.of("subject", List.of("Delivery Status Notification"), "return-path", List.of("<>"));
        return Bounces.read(
                new MailSigns(headers, "x@post.example", "", "multipart/report", status, false, "See below."));
    }

    @Test
    void a_machine_readable_report_tells_each_receiver() {
        Bounce bounce = report(
                        "Reporting-MTA: dns; mx.example\n\nFinal-Recipient: rfc822; kim@post.example\nAction: failed\nStatus: 5.1.1\nDiagnostic-Code: smtp; 550 5.1.1\n  No such user here\n\n"
                                + "Final-Recipient: rfc822;jo@post.example\nAction: failed\nStatus: 5.2.2\n")
                .orElseThrow();
        assertThat(bounce.failures())
                .extracting(Bounce.Failure::address)
                .containsExactly("kim@post.example", "jo@post.example");
        assertThat(bounce.failures()).extracting(Bounce.Failure::code).containsExactly("550 5.1.1", "5.2.2");
        assertThat(bounce.words())
                .isEqualTo(
                        "This mail of ours was not delivered. kim@post.example: there is no such mailbox (550 5.1.1); jo@post.example: the mailbox is full (5.2.2).");
    }

    @Test
    void a_delay_is_told_as_one_and_a_receipt_is_no_failure() {
        assertThat(report("Final-Recipient: rfc822; kim@post.example\nAction: delayed\nStatus: 4.4.1\n")
                        .orElseThrow()
                        .delayed())
                .isTrue();
        assertThat(report("Final-Recipient: rfc822; kim@post.example\nAction: delivered\nStatus: 2.0.0\n"))
                .isEmpty();
    }

    @Test
    void an_unknown_code_is_told_in_the_servers_own_words() {
        assertThat(new Bounce.Failure("kim@post.example", "554", "go away").words())
                .isEqualTo("kim@post.example: “go away” (554)");
        assertThat(new Bounce.Failure("", "", "").words()).isEqualTo("the mail server gave no reason");
    }

    // ------------------------------------------------------------------ delayed or lost, and what is named

    private static Optional<Bounce> free(String subject, String text, Map<String, String> more) {
        var headers = new HashMap<String, List<String>>();
        more.forEach((name, value) -> headers.put(name, List.of(value)));
        headers.put("subject", List.of(subject));
        headers.put("to", List.of("help@ternpassage.example"));
        return Bounces.read(new MailSigns(headers, "mailer-daemon@post.example", "", "text/plain", "", false, text));
    }

    @Test
    void what_is_still_being_tried_is_delayed_and_what_is_permanent_is_not() {
        String text = "This is the mail system. kim@post.example: 450 4.2.1 busy";
        assertThat(free("Mail delivery delayed", text, Map.of()).orElseThrow().delayed())
                .isTrue();
        assertThat(free("warning: could not send", text, Map.of()).orElseThrow().delayed())
                .isTrue();
        assertThat(free("Mail delivery failed", text, Map.of()).orElseThrow().delayed())
                .isFalse();
        for (String says : List.of(
                "transient non-fatal errors",
                "Delivery will continue to be attempted",
                "The message will be retried")) {
            assertThat(free("Mail delivery", text + "\n" + says, Map.of())
                            .orElseThrow()
                            .delayed())
                    .as(says)
                    .isTrue();
            assertThat(free("Mail delivery", text + "\n" + says + "\nThis is a permanent error", Map.of())
                            .orElseThrow()
                            .delayed())
                    .as(says)
                    .isFalse();
        }
        assertThat(free("Mail delivery", text + "x".repeat(2_100) + " will be retried", Map.of())
                        .orElseThrow()
                        .delayed())
                .as("what stands far below is not read")
                .isFalse();
    }

    @Test
    void the_reason_is_the_line_with_a_code_or_else_the_last_that_says_so_and_never_long() {
        Bounce spoken = free(
                        "Mail delivery failed",
                        "Mail could not be delivered\nkim@post.example: user unknown\nGoodbye",
                        Map.of())
                .orElseThrow();
        assertThat(spoken.failures()).singleElement().satisfies(failure -> {
            assertThat(failure.address()).isEqualTo("kim@post.example");
            assertThat(failure.reason()).isEqualTo("kim@post.example: user unknown");
        });
        Bounce nobody = free("Mail delivery failed", "It could not be delivered\n  ** 550 no such user", Map.of())
                .orElseThrow();
        assertThat(nobody.failures()).singleElement().satisfies(failure -> {
            assertThat(failure.address()).isEmpty();
            assertThat(failure.code()).isEqualTo("550");
            assertThat(failure.reason()).isEqualTo("550 no such user");
        });
        assertThat(free("Mail delivery failed", "Nothing more is said", Map.of())
                        .orElseThrow()
                        .failures())
                .isEmpty();
        String reason = free("Mail delivery failed", "550 " + "x".repeat(400), Map.of())
                .orElseThrow()
                .failures()
                .getFirst()
                .reason();
        assertThat(reason).hasSize(201).endsWith("…");
        assertThat(free("Mail delivery failed", "550 " + "x".repeat(196), Map.of())
                        .orElseThrow()
                        .failures()
                        .getFirst()
                        .reason())
                .hasSize(200)
                .doesNotContain("…");
    }

    @Test
    void we_ourselves_and_the_server_are_not_who_failed() {
        Bounce one = free(
                        "Mail delivery failed",
                        "mailer-daemon@other.example tells help+t1.a@ternpassage.example and help@ternpassage.example:\nkim@post.example and jo@post.example: 550 no",
                        Map.of("delivered-to", "help+t1.a@ternpassage.example"))
                .orElseThrow();
        assertThat(one.failures())
                .extracting(Bounce.Failure::address)
                .as("the likeliest one")
                .containsExactly("kim@post.example");
        assertThat(free(
                                "Mail delivery failed",
                                "550 no",
                                Map.of("x-failed-recipients", "kim@post.example jo@post.example"))
                        .orElseThrow()
                        .failures())
                .hasSize(2);
    }

    @Test
    void the_returned_mails_own_identifier_stands_first_and_not_all_that_look_like_one_are_kept() {
        String ids = java.util.stream.IntStream.range(0, 60)
                .mapToObj(i -> "<id" + i + "@post.example>")
                .collect(java.util.stream.Collectors.joining("\n"));
        Bounce one = free(
                        "Mail delivery failed", "550 no\n" + ids + "\nMessage-ID: <ours@ternpassage.example>", Map.of())
                .orElseThrow();
        assertThat(one.messageIds())
                .startsWith("<ours@ternpassage.example>", "<id0@post.example>")
                .hasSizeLessThan(60)
                .hasSizeGreaterThan(2)
                .doesNotHaveDuplicates();
    }
}

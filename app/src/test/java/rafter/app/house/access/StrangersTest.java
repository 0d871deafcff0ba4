package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Set;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.TicketState;

/** What strangers, old sessions and odd requests can do: nothing. */
@ExtendWith(RunningApp.class)
class StrangersTest extends Browsing {

    private static int sessions() {
        return sql().fetchCount(DSL.table("spring_session"));
    }

    @Test
    void a_visitor_makes_no_session() throws Exception {
        int before = sessions();
        get("/sign-in");
        get("/worklist");
        signIn("nobody@ternpassage.example", "wrong-password");
        assertThat(sessions()).isEqualTo(before);
        assertThat(get("/sign-in?address=" + "a".repeat(2_000)).body()).doesNotContain("aaaaaaaaaa");
    }

    @Test
    void a_redirect_never_names_the_host_that_a_request_claims() throws Exception {
        try (var socket = new Socket("127.0.0.1", RunningApp.port())) {
            socket.getOutputStream()
                    .write(
                            "GET /worklist HTTP/1.1\r\nHost: evil.example\r\nAccept: text/html\r\nConnection: close\r\n\r\n"
                                    .getBytes(StandardCharsets.US_ASCII));
            String answer = new BufferedReader(
                            new InputStreamReader(socket.getInputStream(), StandardCharsets.ISO_8859_1))
                    .lines()
                    .reduce("", (a, b) -> a + b + "\n");
            assertThat(answer).contains(" 302").doesNotContain("evil.example");
        }
    }

    @Test
    void bad_input_is_bad_input_and_not_a_database_that_is_away() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/worklist"));
        for (String path : new String[] {
            "/worklist?view=a%00b",
            "/search?q=%00",
            "/worklist?after=odd",
            "/worklist?view=open&after=1,2,3",
            "/tickets/99999999999999999999",
            "/notices?before=x"
        }) {
            HttpResponse<String> page = get(path);
            assertThat(page.statusCode()).as(path).isLessThan(500);
            assertThat(page.body()).as(path).doesNotContain("does not answer");
        }
        String box = RunningApp.help().address();
        HttpResponse<String> unknownTeam = post(
                "/house-rules/email/save",
                token,
                "id",
                "0",
                "version",
                "0",
                "name",
                "x",
                "address",
                "new" + RunningApp.unique() + "@ternpassage.example",
                "team",
                "99999",
                "afterFetch",
                "MARK_READ",
                "imapHost",
                "h",
                "imapPort",
                "1",
                "imapSecurity",
                "NONE",
                "imapLogin",
                box,
                "imapPassword",
                "p",
                "folder",
                "INBOX",
                "smtpHost",
                "h",
                "smtpPort",
                "1",
                "smtpSecurity",
                "NONE",
                "smtpLogin",
                "",
                "smtpPassword",
                "");
        assertThat(unknownTeam.statusCode()).isEqualTo(400);
        assertThat(unknownTeam.body()).doesNotContain("does not answer");
    }

    @Test
    void a_change_that_was_made_is_not_answered_as_broken() throws Exception {
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(("From: b" + RunningApp.unique() + "@post.example\nSubject: x\n\nHello")
                                .getBytes(StandardCharsets.UTF_8))
                        .orElseThrow());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        HttpResponse<String> page = post(
                "/tickets/" + number + "/state",
                token(get("/worklist")),
                "state",
                TicketState.IN_HAND.key(),
                "back",
                "/worklist?view={open");
        assertThat(page.statusCode()).isLessThan(500);
        assertThat(page.uri().getPath()).isEqualTo("/tickets/" + number);
    }

    @Test
    void a_saved_mailbox_password_goes_to_no_other_server() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        var box = RunningApp.help();
        HttpResponse<String> page = post(
                "/house-rules/email/test",
                token(get("/worklist")),
                "id",
                Long.toString(box.id()),
                "version",
                "0",
                "name",
                "x",
                "address",
                box.address(),
                "team",
                "",
                "afterFetch",
                "MARK_READ",
                "imapHost",
                "localhost",
                "imapPort",
                Integer.toString(box.imap().port()),
                "imapSecurity",
                "NONE",
                "imapLogin",
                box.imap().login(),
                "imapPassword",
                "",
                "folder",
                "INBOX",
                "smtpHost",
                "127.0.0.1",
                "smtpPort",
                "1",
                "smtpSecurity",
                "NONE",
                "smtpLogin",
                "",
                "smtpPassword",
                "");
        assertThat(page.body()).contains("The saved password belongs to");
        var moved = new rafter.app.arrival.mail.Mailbox(
                box.id(),
                box.name(),
                box.address(),
                box.team(),
                box.watched(),
                box.plusAddressing(),
                box.afterFetch(),
                new rafter.app.arrival.mail.MailServer(
                        "elsewhere.example",
                        143,
                        box.imap().security(),
                        box.imap().login(),
                        ""),
                box.folder(),
                box.smtp(),
                box.uidValidity(),
                box.lastUid(),
                box.status(),
                box.version());
        org.assertj.core.api.Assertions.assertThatThrownBy(
                        () -> bean(Mailboxes.class).save(moved, Guard.ITSELF))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("entered again");
    }

    @Test
    void what_was_typed_into_a_form_of_an_ended_session_is_given_back() throws Exception {
        String text = "A long answer that somebody wrote for half an hour <b>and more</b>";
        HttpResponse<String> page = post(
                "/tickets/1/reply",
                "old-token",
                "html",
                text,
                "seen",
                "1",
                "password",
                "never-shown-anywhere-at-all-really");
        assertThat(page.statusCode()).isEqualTo(401);
        assertThat(page.body())
                .contains("A long answer that somebody wrote for half an hour &lt;b&gt;")
                .doesNotContain("never-shown");
    }

    @Test
    void two_who_change_a_person_or_a_company_are_told() throws Exception {
        Persons persons = bean(Persons.class);
        PersonId id = persons.save(
                Optional.empty(),
                "Twice",
                "twice" + RunningApp.unique() + "@ternpassage.example",
                Role.AGENT,
                true,
                RunningApp.PASSWORD,
                Set.of(),
                Guard.ITSELF);
        Person seen = persons.find(id).orElseThrow();
        persons.save(
                Optional.of(id),
                "One",
                seen.address(),
                Role.AGENT,
                true,
                "",
                Set.of(),
                java.util.OptionalInt.of(seen.version()),
                Guard.ITSELF);
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> persons.save(
                        Optional.of(id),
                        "Two",
                        seen.address(),
                        Role.AGENT,
                        true,
                        "",
                        Set.of(),
                        java.util.OptionalInt.of(seen.version()),
                        Guard.ITSELF))
                .isInstanceOf(Problem.Stale.class);
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> persons.save(
                        Optional.of(id),
                        "Three",
                        seen.address(),
                        Role.AGENT,
                        true,
                        "",
                        Set.of(),
                        RunningApp.imani().id()))
                .isInstanceOf(Problem.NoRight.class);
    }
}

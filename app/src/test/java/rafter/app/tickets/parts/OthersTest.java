package rafter.app.tickets.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import jakarta.mail.BodyPart;
import jakarta.mail.Multipart;
import jakarta.mail.internet.MimeMessage;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Call;
import rafter.core.ticket.Help;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Work;

/** Others on a ticket: who helps, who was called, who is met. */
@ExtendWith(RunningApp.class)
class OthersTest extends Browsing {

    private final Acts acts = bean(Acts.class);
    private final int nth = unique();
    private final String customer = "vera@others" + nth + ".example";
    private final TicketNumber number = mailed();

    private TicketNumber mailed() {
        String raw = "From: Vera <" + customer + ">\nMessage-ID: <ot" + unique() + "@post.example>\nSubject: Others "
                + nth + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Work work() {
        return bean(Tickets.class).find(number, imani()).orElseThrow().work();
    }

    private static List<String> told(Viewer person) {
        return bean(Notices.class).of(person, Optional.empty(), 50).stream()
                .map(Notices.Notice::words)
                .toList();
    }

    private void askSefa(Optional<Duration> within) {
        acts.perform(
                number,
                new Act.AskHelp(new Help.Wanted(
                        Optional.of(sefa().id()),
                        Optional.empty(),
                        "Look at the crane " + nth,
                        within.map(time -> clock().instant().plus(time)))),
                imani());
    }

    // ------------------------------------------------------------------ helpers

    @Test
    void who_is_asked_is_told_has_it_in_their_turn_and_hands_it_back_with_a_result_to_who_asked() throws Exception {
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        acts.perform(number, new Act.MoveTo("with-customer"), imani());
        askSefa(Optional.empty());
        assertThat(told(sefa())).anyMatch(words -> words.contains("asks for your help on " + number));
        signIn("sefa@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/worklist?view=my-turn").body()).contains("Others " + nth);
        assertThat(get("/today").body()).contains("Look at the crane " + nth);
        String page = get("/tickets/" + number).body();
        assertThat(page).contains("/parts/hand-back?help=1");
        assertThat(post("/tickets/" + number + "/helps/1/back", token(get("/today")), "result", "It turns again")
                        .body())
                .contains("It turns again");
        assertThat(get("/worklist?view=my-turn").body()).doesNotContain("Others " + nth);
        assertThat(told(imani())).anyMatch(words -> words.contains("hands back what you asked for on " + number));
        assertThat(bean(Tickets.class).find(number, imani()).orElseThrow().owner())
                .as("the owner stays responsible")
                .contains(imani().id());
    }

    @Test
    void help_of_a_team_stands_in_the_turn_of_each_of_it() throws Exception {
        TeamId team = bean(Persons.class).addTeam("Quay " + nth, ravi().id());
        Persons persons = bean(Persons.class);
        var sefa = sefa().person();
        persons.save(
                Optional.of(sefa.id()), sefa.name(), sefa.address(), sefa.role(), true, "", Set.of(team), ravi().id());
        acts.perform(
                number,
                new Act.AskHelp(new Help.Wanted(Optional.empty(), Optional.of(team), "Look", Optional.empty())),
                imani());
        assertThat(told(sefa())).anyMatch(words -> words.contains("asks for your help on " + number));
        signIn("sefa@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/worklist?view=my-turn").body()).contains("Others " + nth);
        acts.perform(number, new Act.EndHelp(1, "Seen", false), sefa());
        assertThat(work().help(1).orElseThrow().result().orElseThrow().words()).isEqualTo("Seen");
    }

    @Test
    void late_help_is_told_to_both_once() {
        askSefa(Optional.of(Duration.ofHours(2)));
        LateHelp late = bean(LateHelp.class);
        late.tell(clock().instant());
        assertThat(told(sefa())).noneMatch(words -> words.contains("Help on " + number + " is late"));
        clock().tick(Duration.ofHours(3));
        late.tell(clock().instant());
        late.tell(clock().instant());
        assertThat(told(sefa()))
                .filteredOn(words -> words.contains("Help on " + number + " is late"))
                .hasSize(1);
        assertThat(told(imani()))
                .filteredOn(words -> words.contains("Help on " + number + " is late"))
                .hasSize(1);
    }

    @Test
    void somebody_who_was_not_asked_does_not_hand_back() {
        askSefa(Optional.empty());
        assertThatThrownBy(() -> acts.perform(number, new Act.EndHelp(1, "Mine", false), imani()))
                .isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void working_time_that_is_none_is_refused_with_what_was_typed() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(post(
                                "/tickets/" + number + "/helps",
                                token(get("/today")),
                                "whom",
                                "person-" + sefa().id(),
                                "text",
                                "Look",
                                "within",
                                "soon")
                        .body())
                .contains("“soon” is no amount of time");
        assertThat(work().helps()).isEmpty();
    }

    // ------------------------------------------------------------------ calls

    @Test
    void a_call_is_written_down_corrected_and_taken_out() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        post(
                "/tickets/" + number + "/calls",
                token(get("/today")),
                "incoming",
                "false",
                "with",
                "Harbour office",
                "length",
                "5 m",
                "notes",
                "They look for it");
        assertThat(get("/tickets/" + number).body())
                .contains("Imani Okoro called Harbour office, 5 m")
                .contains("They look for it");
        Call.Said said = work().call(1).orElseThrow().said();
        acts.perform(
                number,
                new Act.LogCall(
                        OptionalInt.of(1),
                        new Call.Said(true, said.person(), said.at(), Duration.ZERO, said.with(), said.notes())),
                imani());
        assertThat(get("/tickets/" + number).body()).contains("nobody answered");
        post("/tickets/" + number + "/calls/1/drop", token(get("/today")));
        assertThat(work().shownCalls()).isEmpty();
        assertThat(post("/tickets/" + number + "/calls", token(get("/today")), "length", "ages")
                        .body())
                .contains("“ages” is no amount of time");
    }

    // ------------------------------------------------------------------ meetings

    private int perform(Act.OfWork act) {
        Integer told = bean(TransactionTemplate.class)
                .execute(status -> bean(Invitations.class).perform(number, act, Optional.empty(), imani()));
        return told == null ? 0 : told;
    }

    private Meeting.Plan plan(String title, String... invited) {
        return new Meeting.Plan(
                title,
                clock().instant().plus(Duration.ofDays(2)),
                Duration.ofMinutes(30),
                "The quay",
                List.of(invited));
    }

    private static String calendar(MimeMessage mail) throws Exception {
        Multipart parts = (Multipart) mail.getContent();
        BodyPart file = parts.getBodyPart(parts.getCount() - 1);
        assertThat(file.getContentType()).contains("text/calendar");
        return new String(file.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .replace("\r\n ", "")
                .replace("\r\n", "\n");
    }

    @Test
    void who_is_invited_gets_an_invitation_each_change_and_that_it_is_off() throws Exception {
        String guest = "guest" + nth + "@quay" + nth + ".example";
        assertThat(perform(new Act.SetMeeting(OptionalInt.empty(), plan("Look at it", guest))))
                .isEqualTo(1);
        RunningApp.post();
        String invitation = calendar(RunningApp.mailOf(guest).getLast());
        assertThat(invitation).contains("METHOD:REQUEST", "SUMMARY:Look at it", "SEQUENCE:0", "mailto:" + guest);
        String uid = invitation
                .lines()
                .filter(line -> line.startsWith("UID:"))
                .findFirst()
                .orElseThrow();
        perform(new Act.SetMeeting(OptionalInt.of(1), plan("Look again", guest)));
        RunningApp.post();
        assertThat(calendar(RunningApp.mailOf(guest).getLast())).contains(uid, "METHOD:REQUEST", "SEQUENCE:1");
        perform(new Act.CallOffMeeting(1, true));
        RunningApp.post();
        assertThat(calendar(RunningApp.mailOf(guest).getLast()))
                .contains(uid, "METHOD:CANCEL", "STATUS:CANCELLED", "SEQUENCE:2");
    }

    @Test
    void who_is_invited_no_more_is_told_that_it_is_off_for_them() throws Exception {
        String first = "first" + nth + "@quay" + nth + ".example";
        String second = "second" + nth + "@quay" + nth + ".example";
        perform(new Act.SetMeeting(OptionalInt.empty(), plan("Look", first, second)));
        perform(new Act.SetMeeting(OptionalInt.of(1), plan("Look", second)));
        RunningApp.post();
        assertThat(calendar(RunningApp.mailOf(first).getLast())).contains("METHOD:CANCEL");
        assertThat(calendar(RunningApp.mailOf(second).getLast())).contains("METHOD:REQUEST");
    }

    @Test
    void a_meeting_stands_on_the_ticket_and_on_today_and_its_file_is_offered() throws Exception {
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        post(
                "/tickets/" + number + "/meetings",
                token(get("/today")),
                "title",
                "Walk the deck " + nth,
                "at",
                "2027-03-03T14:00",
                "length",
                "45 m",
                "place",
                "MV Saltmarsh",
                "invited",
                "");
        assertThat(get("/tickets/" + number).body()).contains("Walk the deck " + nth);
        assertThat(get("/today").body()).contains("Walk the deck " + nth);
        assertThat(get("/tickets/" + number + "/meetings/1/ics").body()).contains("BEGIN:VEVENT");
        assertThat(post(
                                "/tickets/" + number + "/meetings",
                                token(get("/today")),
                                "title",
                                "Past",
                                "at",
                                "2020-01-01T10:00",
                                "length",
                                "45 m")
                        .body())
                .contains("still to come");
    }

    // ------------------------------------------------------------------ questions beside a ticket

    @Test
    void whoever_sees_a_question_first_answers_and_who_asked_is_told() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number + "/parts/question").body()).contains("Sefa Tui");
        String token = token(get("/today"));
        String ask = "/tickets/" + number + "/questions";
        assertThat(post(ask, token, "whom", "", "text", "Is it free?").body()).contains("one person, or one team");
        String page = post(ask, token, "whom", "person-" + sefa().id(), "text", "Is the <i>crane</i> free " + nth + "?")
                .body();
        assertThat(page).contains("Is the &lt;i&gt;crane&lt;/i&gt; free " + nth).contains("Take it");
        assertThat(told(sefa())).anyMatch(words -> words.startsWith("Imani Okoro asks: “Is the <i>crane</i> free"));
        signIn("sefa@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/today").body()).contains("I am asked").contains("free " + nth);
        token = token(get("/today"));
        assertThat(post(ask + "/1/answer", token, "words", "From noon on").body())
                .contains("Sefa Tui: From noon on");
        assertThat(post(ask + "/1/answer", token, "words", "Or not").body()).contains("answered that question already");
        assertThat(get("/today").body()).doesNotContain("free " + nth);
        assertThat(told(imani())).anyMatch(words -> words.startsWith("Sefa Tui answers: “From noon on”"));
    }

    @Test
    void who_watches_for_some_things_is_told_of_those_alone() throws Exception {
        signIn("sefa@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/today"));
        post("/tickets/" + number + "/watch-for", token, "of", "STATE");
        assertThat(get("/tickets/" + number + "/parts/watchers").body()).contains("I am told on this ticket when");
        acts.perform(number, new Act.MoveTo("in-hand"), imani());
        answer();
        assertThat(told(sefa()))
                .anyMatch(words -> words.contains("set the state to In hand on " + number))
                .noneMatch(words -> words.contains("The customer wrote on " + number));
    }

    private void answer() {
        RunningApp.take(("From: Vera <" + customer + ">\nMessage-ID: <ow" + unique() + "@post.example>\nSubject: Re: [#"
                        + number + "] Others " + nth + "\n\nMore words")
                .getBytes(StandardCharsets.UTF_8));
    }

    // ------------------------------------------------------------------ coming back by what happens

    @Test
    void a_ticket_comes_back_when_a_task_is_done_with_the_note_of_who_set_it() throws Exception {
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        acts.perform(
                number,
                new Act.SetTask(OptionalInt.empty(), "Weigh it", Optional.of(sefa().id()), Optional.empty()),
                imani());
        acts.perform(number, new Act.MoveTo("with-partner"), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/today"));
        String page = post("/tickets/" + number + "/wait-for", token, "until", "TASK", "note", "Tell them " + nth)
                .body();
        assertThat(page).contains("when a task is done: “Tell them " + nth + "”");
        assertThat(post("/tickets/" + number + "/wait-for", token, "until", "TASK", "note", "x", "was", "CUSTOMER|")
                        .body())
                .contains("meanwhile");
        acts.perform(number, new Act.TickTask(1, true), sefa());
        var ticket = bean(Tickets.class).find(number, imani()).orElseThrow();
        assertThat(ticket.state().key()).isEqualTo("in-hand");
        assertThat(told(imani()))
                .anyMatch(words -> words.startsWith(number + " came back, as set")
                        && words.endsWith("You noted: “Tell them " + nth + "”"));
    }
}

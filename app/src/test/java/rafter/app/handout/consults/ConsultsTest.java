package rafter.app.handout.consults;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_FILE;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.CONSULT_LINE;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.WORKING;

import jakarta.mail.internet.MimeMessage;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.writing.Drafts;
import rafter.core.consult.Who;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Presence;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Asking others in, from the first question to the outcome on the ticket. */
@ExtendWith(RunningApp.class)
class ConsultsTest extends Browsing {

    private final String word = "seal" + unique();
    private final Consults consults = bean(Consults.class);
    private final Outcomes outcomes = bean(Outcomes.class);
    private final Guests guests = bean(Guests.class);
    private final Lines lines = bean(Lines.class);
    private final Talking talking = bean(Talking.class);
    private final Experts experts = bean(Experts.class);
    private final Skills skills = bean(Skills.class);
    private final Whereabouts whereabouts = bean(Whereabouts.class);
    private final String address = "ivo" + unique() + "@harbour.example";

    private TicketNumber ticket = new TicketNumber(0);
    private SkillId customs = new SkillId(0);
    private SkillId reefer = new SkillId(0);

    @BeforeEach
    void a_ticket_and_two_skills() {
        RunningApp.nextMinute();
        String raw = "From: Dov <dov" + unique() + "@" + word + ".example>\nSubject: " + word + "\n\nWhere is it?";
        ticket = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        customs = skill("Customs");
        reefer = skill("Reefer");
        List.of(imani(), sefa()).forEach(one -> whereabouts.say(Presence.HERE, "", true, one));
        RunningApp.post();
    }

    private SkillId skill(String name) {
        var skill = new Skill(
                new SkillId(0), name + " " + word, "", List.of(name.toLowerCase(Locale.ROOT) + word), List.of());
        skills.save(skill, 0, ravi().id());
        return skills.all().stream()
                .filter(one -> one.name().equals(skill.name()))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @AfterEach
    void as_it_was() {
        skills.all().forEach(skill -> skills.remove(skill.id(), ravi().id()));
        experts.all().forEach(expert -> experts.remove(expert.id(), ravi().id()));
        Stream.of(CONSULT_FILE, CONSULT_LINE, CONSULT_GUEST, CONSULT)
                .forEach(table -> sql().deleteFrom(table).execute());
        sql().deleteFrom(WORKING).execute();
        bean(Acts.class).perform(ticket, new Act.MoveTo(TicketState.CLOSED.key()), odile());
    }

    private void knows(Viewer who, SkillId... what) {
        skills.level(
                who.id(), Stream.of(what).collect(Collectors.toMap(one -> one, one -> SkillLevel.ABLE)), ravi().id());
    }

    private ExpertId expert(SkillId... what) {
        experts.save(
                new Experts.Expert(
                        new ExpertId(0),
                        "Ivo Brand",
                        address,
                        "",
                        Stream.of(what).collect(Collectors.toMap(one -> one, one -> SkillLevel.EXPERT)),
                        0),
                ravi().id());
        return experts.all().getFirst().id();
    }

    private long ask(SkillId... what) {
        return consults.open(ticket, "Who knows " + word + "?", Set.of(what), List.of(), odile());
    }

    private Guests.Guest only(long room) {
        assertThat(guests.of(room)).hasSize(1);
        return guests.of(room).getFirst();
    }

    private Map<String, Guests.State> states(long room) {
        return guests.of(room).stream().collect(Collectors.toMap(Guests.Guest::name, Guests.Guest::state));
    }

    private double used(Viewer who) {
        return bean(Workforce.class).workers().stream()
                .filter(one -> one.id().equals(who.id()))
                .mapToDouble(Worker::used)
                .sum();
    }

    @Test
    void the_one_who_knows_all_of_it_is_asked_comes_in_and_the_room_counts_as_load() {
        knows(imani(), customs);
        knows(sefa(), customs, reefer);
        double before = used(sefa());

        long room = ask(customs, reefer);

        Guests.Guest asked = only(room);
        assertThat(asked.person()).contains(sefa().id());
        assertThat(asked.why()).contains("Customs").contains("Reefer");
        assertThat(used(sefa())).isEqualTo(before);
        consults.take(asked.id());
        assertThat(used(sefa())).isEqualTo(before + 1);
        assertThatThrownBy(() -> consults.take(asked.id())).isInstanceOf(Problem.Stale.class);
        consults.decline(asked.id(), "");
        assertThat(used(sefa())).isEqualTo(before);
    }

    @Test
    void who_declines_is_followed_by_the_next_at_once_and_never_asked_twice() {
        knows(imani(), customs);
        knows(sefa(), customs);
        long room = ask(customs);
        Guests.Guest first = only(room);

        consults.decline(first.id(), "lunch");

        assertThat(states(room))
                .containsEntry(first.name(), Guests.State.DECLINED)
                .containsValue(Guests.State.ASKED)
                .hasSize(2);
        Guests.Guest second = guests.of(room).getLast();
        consults.decline(second.id(), "");
        assertThat(guests.of(room)).hasSize(2).noneMatch(one -> one.state() == Guests.State.ASKED);
        assertThat(bean(Rooms.class).live(room, Optional.empty()).missing())
                .singleElement()
                .asString()
                .contains(first.name() + " was asked already");
    }

    @Test
    void who_does_not_answer_in_time_is_followed_by_the_next_and_can_still_come() {
        knows(imani(), customs);
        knows(sefa(), customs);
        long room = ask(customs);
        Guests.Guest first = only(room);

        clock().tick(Duration.ofMinutes(9));
        consults.lookThrough(room);
        assertThat(guests.of(room)).hasSize(1);
        clock().tick(Duration.ofMinutes(2));
        List.of(imani(), sefa()).forEach(one -> whereabouts.say(Presence.HERE, "", true, one));
        consults.lookThrough(room);

        assertThat(states(room))
                .containsEntry(first.name(), Guests.State.LAPSED)
                .hasSize(2);
        consults.take(first.id());
        assertThat(states(room)).containsEntry(first.name(), Guests.State.TAKEN);
    }

    @Test
    void what_nobody_knows_who_is_here_is_said_and_they_are_asked_when_they_are_back() {
        knows(sefa(), customs);
        whereabouts.say(Presence.AWAY, "lunch", true, sefa());

        long room = ask(customs, reefer);

        assertThat(guests.of(room)).isEmpty();
        assertThat(bean(Rooms.class).live(room, Optional.empty()).missing())
                .hasSize(2)
                .anyMatch(one -> one.contains(sefa().name() + " is away"))
                .anyMatch(one -> one.contains("nobody knows it"));
        whereabouts.say(Presence.HERE, "", true, sefa());
        consults.lookThrough(room);
        assertThat(only(room).person()).contains(sefa().id());
    }

    @Test
    void a_room_that_asks_nobody_or_says_nothing_is_not_opened() {
        assertThatThrownBy(() -> consults.open(ticket, " ", Set.of(customs), List.of(), odile()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> consults.open(ticket, "Who?", Set.of(), List.of(), odile()))
                .isInstanceOf(Problem.Invalid.class);
        assertThat(consults.of(ticket)).isEmpty();
    }

    @Test
    void a_guest_is_asked_for_being_who_they_are_and_nobody_instead() {
        knows(imani(), customs);
        long room = consults.open(ticket, "Who?", Set.of(), List.of(sefa().id()), odile());
        consults.decline(only(room).id(), "");
        assertThat(guests.of(room)).hasSize(1);
    }

    @Test
    void the_outcome_stays_on_the_ticket_frees_who_was_there_and_is_taken_back_when_the_room_opens_again() {
        knows(sefa(), customs);
        long room = ask(customs);
        Guests.Guest guest = only(room);
        consults.take(guest.id());

        assertThatThrownBy(() -> outcomes.close(room, " ", "", Set.of(), odile()))
                .isInstanceOf(Problem.Invalid.class);
        outcomes.close(room, "It is <mislaid>", "Put on anew", Set.of(guest.id()), odile());

        assertThat(notes()).singleElement().asString().contains("It is <mislaid>", "Put on anew", sefa().name());
        assertThat(used(sefa())).isZero();
        assertThat(guests.of(room).getFirst().helped()).isTrue();
        assertThatThrownBy(() -> outcomes.close(room, "x", "", Set.of(), odile()))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> say(room, "late")).isInstanceOf(Problem.Stale.class);
        assertThat(outcomes.rooms(ticket, odile())).singleElement().satisfies(one -> {
            assertThat(one.open()).isFalse();
            assertThat(one.outcome()).contains("Put on anew");
        });
        outcomes.reopen(room, odile());
        assertThat(notes()).isEmpty();
        say(room, "on with it");
        outcomes.callOff(room, odile());
        assertThat(consults.find(room).orElseThrow().state()).isEqualTo("CALLED_OFF");
    }

    private List<String> notes() {
        return sql().select(MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(ticket))
                .and(MESSAGE.KIND.eq("NOTE"))
                .and(MESSAGE.TAKEN_BACK.isNull())
                .fetch(MESSAGE.TEXT);
    }

    private void say(long room, String text) {
        say(room, text, "");
    }

    private void say(long room, String text, String once) {
        talking.say(
                room,
                new Lines.Speaker(odile().name(), Optional.of(odile().id()), Optional.empty()),
                Lines.Kind.WORDS,
                text,
                once,
                List.of());
    }

    private List<String> words(long room) {
        return lines.of(room).stream()
                .filter(one -> one.kind() != Lines.Kind.HAPPENED)
                .map(Lines.Line::text)
                .toList();
    }

    @Test
    void a_line_that_is_sent_twice_is_said_once_and_nobody_says_more_than_can_be_read() {
        long room = ask(customs);
        say(room, "hello", "a");
        say(room, "hello", "a");
        assertThat(words(room)).containsExactly("hello");
        assertThatThrownBy(() -> say(room, "  ")).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> say(room, "x".repeat(4_001))).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> {
                    for (int i = 0; i < 40; i++) {
                        say(room, "again " + i);
                    }
                })
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void a_line_is_quoted_into_what_one_is_writing_and_what_was_there_stays() {
        Drafts drafts = bean(Drafts.class);
        long room = ask(customs);
        say(room, "The <seal> is in the lost property");
        long line = lines.of(room).getLast().id();
        drafts.save(ticket, Drafts.Kind.REPLY, "<p>Hello</p>", "", Turn.CUSTOMER, 0, odile());

        outcomes.quote(room, line, Drafts.Kind.REPLY, odile());
        outcomes.quote(room, line, Drafts.Kind.NOTE, odile());

        assertThat(drafts.find(ticket, Drafts.Kind.REPLY, odile()).html())
                .startsWith("<p>Hello</p>")
                .contains("The &lt;seal&gt; is in the lost property")
                .doesNotContain(odile().name());
        assertThat(drafts.find(ticket, Drafts.Kind.NOTE, odile()).html()).contains(odile().name());
    }

    @Test
    void an_expert_from_outside_is_asked_by_mail_takes_by_mail_and_what_they_write_stands_in_the_room()
            throws Exception {
        expert(customs);
        long room = ask(customs);
        RunningApp.post();
        MimeMessage invitation = mailOf(address).getLast();
        assertThat(invitation.getSubject()).contains(word);

        answer(invitation, address, "Yes, in a minute.\n\nIvo", "");

        assertThat(only(room).state()).isEqualTo(Guests.State.TAKEN);
        assertThat(words(room)).singleElement().asString().startsWith("Yes, in a minute.");
        assertThat(sql().fetchCount(MESSAGE, MESSAGE.TICKET.eq(ticket).and(MESSAGE.KIND.eq("CUSTOMER"))))
                .isEqualTo(1);
        answer(
                invitation,
                address,
                "On my way\n\nOn Mon, 1 Mar 2027 at 10:00, Help <help@ternpassage.example> wrote:\n> Odile Bran asks for your help\n> with a request:\n",
                "");
        assertThat(words(room).getLast()).isEqualTo("On my way");
        answer(invitation, address, "No, I must go after all", "");
        assertThat(only(room).state()).isEqualTo(Guests.State.LEFT);
    }

    @Test
    void who_declines_by_mail_is_followed_by_the_next_and_what_a_machine_or_a_stranger_writes_answers_nothing()
            throws Exception {
        knows(sefa(), customs);
        skills.level(sefa().id(), Map.of(customs, SkillLevel.ABLE), ravi().id());
        expert(customs);
        for (Viewer one : List.of(sefa())) {
            whereabouts.say(Presence.AWAY, "", true, one);
        }
        long room = ask(customs);
        RunningApp.post();
        MimeMessage invitation = mailOf(address).getLast();

        answer(invitation, address, "Yes", "Auto-Submitted: auto-replied\n");
        answer(invitation, "stranger@elsewhere.example", "Yes", "");
        answer(invitation, address, "Which container?", "");

        assertThat(only(room).state()).isEqualTo(Guests.State.ASKED);
        assertThat(words(room)).hasSize(3).anyMatch(one -> one.contains("another address"));
        whereabouts.say(Presence.HERE, "", true, sefa());
        answer(invitation, address, "Nein", "");
        assertThat(states(room))
                .containsEntry("Ivo Brand", Guests.State.DECLINED)
                .containsEntry(sefa().name(), Guests.State.ASKED);
    }

    private static void answer(MimeMessage to, String from, String text, String header) throws Exception {
        String raw = "From: <" + from + ">\nTo: " + to.getFrom()[0] + "\n" + header + "Message-ID: <a" + unique()
                + "@harbour.example>\nIn-Reply-To: " + to.getMessageID() + "\nSubject: Re: " + to.getSubject() + "\n\n"
                + text;
        RunningApp.take(raw.getBytes(StandardCharsets.UTF_8));
        RunningApp.post();
    }

    @Test
    void an_expert_sees_the_room_alone_by_a_link_that_nobody_can_make_as_long_as_it_is_open() throws Exception {
        expert(customs);
        long room = ask(customs);
        String path = "/room/" + bean(RoomPages.class).token(only(room).id());

        HttpResponse<String> page = get(path);
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.body()).contains("Where is it?").containsPattern("Come\\s+in");
        assertThat(page.headers().firstValue("Referrer-Policy")).contains("no-referrer");
        assertThat(send(path + "/lines", "text", " ").body()).contains("There are no words");
        assertThat(only(room).state()).as("who says something has come").isEqualTo(Guests.State.TAKEN);
        consults.decline(only(room).id(), "");
        send(path + "/take");
        send(path + "/lines", "text", "It is <b>here</b>", "once", "1");
        send(path + "/lines", "text", "It is <b>here</b>", "once", "1");
        assertThat(words(room)).containsExactly("It is <b>here</b>");
        assertThat(get(path + "/live").body()).contains("It is &lt;b&gt;here").doesNotContain("Into a reply");
        assertThat(get(path.substring(0, path.length() - 1) + "x").statusCode()).isEqualTo(404);
        assertThat(get("/room/1-2").statusCode()).isEqualTo(404);
        assertThat(get("/consults/" + room).uri().getPath()).isEqualTo("/sign-in");
        outcomes.callOff(room, odile());
        assertThat(get(path).statusCode()).isEqualTo(404);
        assertThat(get(path).body()).doesNotContain("Where is it?");
    }

    @Test
    void files_go_into_a_room_and_come_out_again_for_who_is_in_it() throws Exception {
        expert(customs);
        long room = ask(customs);
        String path = "/room/" + bean(RoomPages.class).token(only(room).id());
        String body = part("text", "The papers") + part("once", "f1")
                + "--edge\r\nContent-Disposition: form-data; name=\"file\"; filename=\"../seal.txt\"\r\nContent-Type: text/plain\r\n\r\nred seal\r\n--edge--\r\n";
        for (int twice = 0; twice < 2; twice++) {
            HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(uri(path + "/lines"))
                                    .header("Content-Type", "multipart/form-data; boundary=edge")
                                    .POST(HttpRequest.BodyPublishers.ofString(body))
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
        }
        Lines.Line line = lines.of(room).getLast();
        assertThat(line.files())
                .singleElement()
                .satisfies(one -> assertThat(one.name()).isEqualTo("seal.txt"));
        HttpResponse<String> file =
                get(path + "/files/" + line.files().getFirst().id());
        assertThat(file.body()).isEqualTo("red seal");
        assertThat(file.headers().firstValue("Content-Disposition").orElse("")).startsWith("attachment");
        assertThat(get(path + "/files/999999").statusCode()).isEqualTo(404);
        assertThat(get(path + "/ticket-files/999999").statusCode()).isEqualTo(404);
    }

    private static String part(String name, String value) {
        return "--edge\r\nContent-Disposition: form-data; name=\"" + name + "\"\r\n\r\n" + value + "\r\n";
    }

    @Test
    void a_script_of_somebody_outside_is_told_plainly_what_was_wrong() throws Exception {
        expert(customs);
        String path = "/room/" + bean(RoomPages.class).token(only(ask(customs)).id());
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(uri(path + "/lines"))
                                .header("Content-Type", "application/x-www-form-urlencoded")
                                .header("HX-Request", "true")
                                .POST(HttpRequest.BodyPublishers.ofString("text="))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(422);
        assertThat(answer.body()).contains("There are no words");
    }

    private HttpResponse<String> send(String path, String... fields) throws Exception {
        return post(path, "", fields);
    }

    @Test
    void two_who_answer_at_once_for_the_same_person_are_counted_once() throws InterruptedException, ExecutionException {
        knows(sefa(), customs);
        long room = ask(customs);
        long guest = only(room).id();
        Callable<Boolean> take = () -> {
            try {
                consults.take(guest);
                return true;
            } catch (Problem.Stale e) {
                return false;
            }
        };
        try (var both = Executors.newFixedThreadPool(2)) {
            var first = both.submit(take);
            var second = both.submit(take);
            assertThat(List.of(first.get(), second.get())).containsExactlyInAnyOrder(true, false);
        }
        assertThat(lines.of(room)).hasSize(1);
    }

    @Test
    void the_form_proposes_by_words_and_what_was_ticked_by_hand_stays() throws Exception {
        knows(sefa(), customs);
        knows(imani(), customs);
        bean(Workforce.class).limit(imani().id(), 0, ravi().id());
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        String at = "/tickets/" + ticket + "/consult";
        String token = token(get(at));

        String by = post(at + "/propose", token, "question", "A customs" + word + " paper", "skill", reefer.toString())
                .body();

        assertThat(by).contains("by your words").contains(sefa().name()).contains("nobody knows it");
        assertThat(by).contains("Know it, too, and cannot come now").contains("has no room");
        assertThat(ticked(by, customs)).isTrue();
        assertThat(ticked(by, reefer)).isTrue();
        String gone = post(
                        at + "/propose",
                        token,
                        "question",
                        "A paper",
                        "found",
                        customs.toString(),
                        "skill",
                        customs.toString(),
                        "skill",
                        reefer.toString())
                .body();
        assertThat(ticked(gone, customs)).isFalse();
        assertThat(ticked(gone, reefer)).isTrue();
        assertThat(post(at, token, "question", "").body()).contains("Say in at most");
        HttpResponse<String> opened = post(at, token, "question", "Which?", "skill", customs.toString());
        assertThat(opened.uri().getPath()).startsWith("/consults/");
        assertThat(opened.body()).contains("Which?").contains(sefa().name());
    }

    private static boolean ticked(String html, SkillId skill) {
        return Pattern.compile("<input[^>]*id=\"skill-" + skill + "\"[^>]*>")
                .matcher(html)
                .results()
                .anyMatch(found -> found.group().contains("checked"));
    }

    @Test
    void experts_have_an_address_of_their_own_and_come_back_when_they_were_removed() {
        ExpertId ivo = expert(customs);
        assertThatThrownBy(() -> expert(reefer)).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> experts.save(
                        new Experts.Expert(new ExpertId(0), "Ada", "no address", "", Map.of(), 0), ravi().id()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> experts.save(new Experts.Expert(ivo, "Ivo", address, "", Map.of(), 7), ravi().id()))
                .isInstanceOf(Problem.Stale.class);
        experts.remove(ivo, ravi().id());
        assertThat(experts.all()).isEmpty();
        experts.bringBack(ivo, ravi().id());
        assertThat(experts.all()).extracting(Experts.Expert::name).containsExactly("Ivo Brand");
        assertThatThrownBy(() -> experts.remove(ivo, imani().id())).isInstanceOf(Problem.class);
    }

    @Test
    void somebody_in_particular_can_be_asked_and_a_colleague_comes_by_themselves() {
        long room = ask(customs);
        consults.invite(room, new Who.Colleague(sefa().id()), odile());
        assertThatThrownBy(() -> consults.invite(room, new Who.Colleague(sefa().id()), odile()))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> consults.invite(room, new Who.Colleague(new PersonId(999_999)), odile()))
                .isInstanceOf(Problem.NotFound.class);
        consults.join(room, imani());
        assertThat(states(room))
                .containsEntry(imani().name(), Guests.State.TAKEN)
                .containsEntry(sefa().name(), Guests.State.ASKED);
        assertThat(bean(AskedIn.class).of(sefa()))
                .get()
                .satisfies(one -> assertThat(one.consult()).isEqualTo(room));
        bean(AskedIn.class).decline(room, "", sefa());
        assertThat(bean(AskedIn.class).of(sefa())).isEmpty();
    }
}

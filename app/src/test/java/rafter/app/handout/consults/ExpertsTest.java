package rafter.app.handout.consults;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;

import jakarta.mail.internet.MimeMessage;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.id.ExpertId;
import rafter.core.routing.Presence;
import rafter.core.routing.SkillLevel;

/** Experts from outside: asked by mail, in the room by a link. */
class ExpertsTest extends ConsultsAtWork {

    private static void answer(MimeMessage to, String from, String text, String header) throws Exception {
        String raw = "From: <" + from + ">\nTo: " + to.getFrom()[0] + "\n" + header + "Message-ID: <a" + unique()
                + "@harbour.example>\nIn-Reply-To: " + to.getMessageID() + "\nSubject: Re: " + to.getSubject() + "\n\n"
                + text;
        RunningApp.take(raw.getBytes(StandardCharsets.UTF_8));
        RunningApp.post();
    }

    private HttpResponse<String> send(String path, String... fields) throws Exception {
        return post(path, "", fields);
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
}

package rafter.app.handout.consults;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.MESSAGE;

import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.RoomDesk;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Drafts;
import rafter.core.ticket.Turn;

/** What is said in a room, and what of it stays on the ticket. */
class RoomTest extends ConsultsAtWork {

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

    private static String part(String name, String value) {
        return "--edge\r\nContent-Disposition: form-data; name=\"" + name + "\"\r\n\r\n" + value + "\r\n";
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
        assertThat(bean(Traces.class).of(ticket).may(RoomDesk.TRACE)).isTrue();
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
}

package rafter.app.arrival.social;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.ERRAND;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.Errands;
import rafter.app.arrival.providers.FarSide;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Ways;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;

/** What people do with posts, alone and with a wave of them. */
class SocialDeskTest extends SocialAtWork {

    private final Errands errands = bean(Errands.class);

    private SocialDesk.Answer answer(String text, boolean publicly) {
        return new SocialDesk.Answer(text, publicly, 0, Turn.CUSTOMER);
    }

    @Test
    void noise_of_a_sender_and_of_a_wording_is_set_aside_next_time_and_can_be_taken_back() throws Exception {
        String win = "@ferries" + mark + " win a cruise today with the harbour lottery " + mark;
        network.tell(List.of(
                written(id("a"), "@loud" + mark, "@ferries" + mark + " buy"), written(id("b"), "@shill" + mark, win)));
        long sender = desk.noise(post(id("a")).id(), true, imani());
        desk.noise(post(id("b")).id(), false, imani());
        assertThatThrownBy(() -> desk.noise(post(id("a")).id(), false, imani())).isInstanceOf(Problem.Invalid.class);
        network.tell(List.of(
                written(id("c"), "@loud" + mark, "@ferries" + mark + " buy more things"),
                written(id("d"), "@other" + mark, win.toUpperCase(java.util.Locale.ROOT) + "!!")));
        assertThat(post(id("c")).state()).isEqualTo(Posts.State.ASIDE);
        assertThat(post(id("d")).state()).isEqualTo(Posts.State.ASIDE);
        assertThat(rules.lookForMarks()).extracting(SocialRules.Mark::aside).containsExactly(1, 1);
        desk.again(post(id("c")).id(), Optional.of(sender), imani());
        assertThat(post(id("c")).state()).isEqualTo(Posts.State.NEW);
        network.tell(List.of(written(id("e"), "@loud" + mark, "@ferries" + mark + " sorry")));
        assertThat(post(id("e")).state()).isEqualTo(Posts.State.NEW);
    }

    @Test
    void an_answer_goes_where_it_was_written_publicly_or_privately_and_is_tried_again_while_the_network_is_down()
            throws Exception {
        network.tell(List.of(mention(id("a"))));
        network.answers(503);
        TicketNumber number = desk.answer(post(id("a")).id(), answer("We are sorry.", true), imani());
        assertThat(errands.doOne()).isTrue();
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body()).contains("waiting, next try");
        assertThat(errands.doOne()).as("it waits a moment first").isFalse();
        network.answers(200);
        network.asked();
        clock().tick(Duration.ofSeconds(3));
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked()).singleElement().satisfies(asked -> {
            assertThat(asked.path()).isEqualTo("/posts");
            assertThat(asked.body()).contains("\"private\":false", "\"answers\":\"" + id("a") + "\"", "We are sorry.");
        });
        assertThat(get("/tickets/" + number).body()).contains("sent ");
        desk.answer(post(id("a")).id(), answer("Write us your number.", false), imani());
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked().getFirst().body()).contains("\"private\":true", "\"to\":\"@marit" + mark + "\"");
        assertThat(ticket(id("a")).channel()).isEqualTo("private-message");
        assertThat(bean(Ways.class)
                        .of(
                                number,
                                ticket(id("a")),
                                List.of(),
                                bean(Traces.class).of(number)))
                .extracting(Ways.Choice::key)
                .contains("post", "private-message");
    }

    @Test
    void our_own_post_is_known_as_the_answer_that_it_is_and_is_not_shown_twice() throws Exception {
        network.tell(List.of(mention(id("a"))));
        TicketNumber number = desk.answer(post(id("a")).id(), answer("We are sorry.", true), imani());
        assertThat(errands.doOne()).isTrue();
        String key = sql().select(ERRAND.KEY)
                .from(ERRAND)
                .where(ERRAND.TICKET.eq(number))
                .fetchSingle(ERRAND.KEY);
        network.tell(List.of(written(id("o"), account.address(), "We are sorry.", "answers", id("a"), "key", key)));
        assertThat(post(id("o")).kind()).isEqualTo(Posts.Kind.OURS);
        assertThat(post(id("o")).ticket()).contains(number);
        assertThat(ticket(id("a")).messages()).isEqualTo(2);
        assertThat(ticket(id("a")).turn()).as("we wrote").isEqualTo(Turn.CUSTOMER);
        desk.takeAway(post(id("o")).id(), imani());
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked()).last().extracting(FarSide.Asked::verb).isEqualTo("DELETE");
        network.tell(List.of(written(id("r"), "@marit" + mark, "Thanks", "answers", id("o"))));
        assertThat(post(id("r")).ticket())
                .as("the same thread goes on in its ticket")
                .contains(number);
        assertThat(ticket(id("a")).turn()).as("they wrote").isEqualTo(Turn.OURS);
        desk.hide(post(id("r")).id(), true, imani());
        assertThat(post(id("r")).hiddenAt()).isPresent();
    }

    @Test
    void whatever_stands_in_an_id_of_theirs_the_network_is_told_about_that_post() throws Exception {
        String odd = "at://x/ü 1?#" + mark;
        network.tell(List.of(written(odd, account.address(), "Ours")));
        desk.takeAway(post(odd).id(), imani());
        network.asked();
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked())
                .singleElement()
                .extracting(FarSide.Asked::path)
                .isEqualTo("/posts/" + odd);
    }

    @Test
    void too_long_an_answer_says_so_and_makes_no_ticket() throws Exception {
        network.tell(List.of(mention(id("a"))));
        assertThatThrownBy(() -> desk.answer(post(id("a")).id(), answer("x".repeat(301), true), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThat(post(id("a")).ticket()).isEmpty();
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String token = token(get("/social"));
        assertThat(post("/social/" + post(id("a")).id() + "/answer", token, "text", "y".repeat(301))
                        .body())
                .contains("y".repeat(301))
                .contains("300");
    }

    @Test
    void markup_in_a_post_stays_text_everywhere() throws Exception {
        String evil = "@ferries" + mark + " <img src=x onerror=alert(1)><script>alert(2)</script>";
        network.tell(List.of(written(id("a"), "@evil" + mark, evil)));
        TicketNumber number = desk.makeTicket(post(id("a")).id(), imani());
        signIn(imani().person().address(), RunningApp.PASSWORD);
        for (String page : List.of(
                "/social?state=ticket", "/social?state=all&at=" + post(id("a")).id(), "/tickets/" + number)) {
            assertThat(get(page).body()).doesNotContain("<img src=x").doesNotContain("<script>alert");
        }
    }

    @Test
    void many_posts_on_one_matter_are_one_wave_and_are_answered_together() throws Exception {
        for (int i = 0; i < 5; i++) {
            network.tell(List.of(written(
                    id("w" + i),
                    "@crowd" + i + "x" + mark,
                    "@ferries" + mark + " the evening crossing to Skelby is cancelled, word " + i)));
        }
        Waves waves = bean(Waves.class);
        clock().tick(Duration.ofSeconds(10));
        Thread.sleep(3100);
        Waves.Seen wave = waves.of(post(id("w2")).id()).orElseThrow();
        assertThat(wave.count()).isEqualTo(5);
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/social/waves/" + wave.first()).body()).contains("5 posts");
        List<Long> all = wave.posts().stream().map(Posts.Post::id).toList();
        Waves.Answered answered =
                waves.answer(all, new SocialDesk.Answer("Next crossing at seven.", true, 0, Turn.NOBODY), imani());
        assertThat(answered.tickets()).hasSize(5);
        assertThat(answered.reasons()).isEmpty();
        assertThat(tickets.find(answered.tickets().getLast(), ravi())
                        .orElseThrow()
                        .work()
                        .parent())
                .contains(answered.tickets().getFirst());
        assertThatThrownBy(() -> waves.answer(List.of(), answer("x", true), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void the_list_finds_by_every_filter() throws Exception {
        rules.save(0, "Vessel " + mark, "\"kestrel " + mark + "\"", false, ravi().id());
        network.tell(List.of(
                written(id("a"), "@marit" + mark, "@ferries" + mark + " terrible awful crossing"),
                written(id("b"), "@jon" + mark, "The kestrel " + mark + " is lovely and wonderful")));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/social?state=new&kind=mention&words=awful").body())
                .contains("terrible awful")
                .doesNotContain("lovely");
        assertThat(get("/social?mood=good&words=kestrel+" + mark).body()).contains("lovely");
        assertThat(get("/social?mood=bad&words=kestrel+" + mark).body()).doesNotContain("lovely and");
        long search = rules.searches().getFirst().id();
        assertThat(get("/social?state=all&search=" + search).body())
                .contains("lovely")
                .doesNotContain("terrible awful");
        assertThat(get("/social?state=archived").statusCode()).isEqualTo(200);
        assertThat(get("/social?state=%3Cscript%3E&kind=x&mood=y&search=z&words=%25&at=999999999")
                        .statusCode())
                .isEqualTo(404);
    }
}

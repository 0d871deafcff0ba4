package rafter.app.work.shape;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.TICKET_STATE;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.states.StateRules;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;

/** States of one's own: added, called otherwise, taken out of use with what is in them carried over, and asking for a resolution. */
@ExtendWith(RunningApp.class)
class StatesTest extends Browsing {

    private final StateRules rules = bean(StateRules.class);
    private final Acts acts = bean(Acts.class);
    private final int nth = unique();
    private final String name = "At the quay " + nth;
    private final TicketNumber number = mailed();

    private TicketNumber mailed() {
        int one = unique();
        String raw = "From: Q <q@states" + one + ".example>\nMessage-ID: <st" + one + "@post.example>\nSubject: State "
                + nth + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    @AfterEach
    void nothing_asks_any_more() {
        sql().update(TICKET_STATE).set(TICKET_STATE.ASKS_RESOLUTION, false).execute();
        rules.all().stream()
                .filter(one -> one.state().name().equals(name))
                .forEach(one -> rules.retire(one.state().key(), ravi()));
        // Has the catalogue read anew.
        rules.change("new", "New", 10, false, version("new"), ravi());
    }

    private int version(String key) {
        return rules.find(key).orElseThrow().version();
    }

    private String state() {
        return bean(Tickets.class).find(number, imani()).orElseThrow().state().key();
    }

    @Test
    void a_state_that_was_added_is_offered_in_its_place_and_tickets_move_into_it() throws Exception {
        String key = rules.add(name, Turn.PARTNER, 25, false, ravi());
        acts.perform(number, new Act.MoveTo(key), imani());
        assertThat(bean(Tickets.class).find(number, imani()).orElseThrow().turn())
                .isEqualTo(Turn.PARTNER);
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number + "/choose/state").body()).contains(name);
        assertThat(bean(TicketStates.class).all().stream().map(one -> one.key()).toList())
                .containsSubsequence("in-hand", key, "with-customer");
        rules.change(key, name + "!", 25, false, version(key), ravi());
        assertThat(get("/worklist?view=open").statusCode()).isEqualTo(200);
        assertThat(bean(TicketStates.class).name(key)).isEqualTo(name + "!");
        rules.change(key, name, 25, false, version(key), ravi());
    }

    @Test
    void lists_in_the_order_of_states_have_it_in_its_place_whichever_way_they_run() throws Exception {
        String key = rules.add(name, Turn.PARTNER, 25, false, ravi());
        TicketNumber before = mailed();
        TicketNumber after = mailed();
        acts.perform(before, new Act.MoveTo("in-hand"), imani());
        acts.perform(number, new Act.MoveTo(key), imani());
        acts.perform(after, new Act.MoveTo("with-partner"), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String q = URLEncoder.encode(
                "{\"field\":\"subject\",\"has-any\":[\"" + nth + "\"],\"version\":1}", StandardCharsets.UTF_8);
        String list = "/worklist?view=open&q=" + q + "&shape=grid&sort=";
        String mark = "/tickets/";
        assertThat(get(list + "state").body()).containsSubsequence(mark + before, mark + number, mark + after);
        assertThat(get(list + "-state").body()).containsSubsequence(mark + after, mark + number, mark + before);
    }

    @Test
    void out_of_use_its_tickets_go_elsewhere_and_its_name_stays_known() throws Exception {
        String key = rules.add(name, Turn.OURS, 25, false, ravi());
        acts.perform(number, new Act.MoveTo(key), imani());
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String page = get("/house-rules/states/" + key).body();
        assertThat(page).contains("1 open and 0 ended tickets");
        String token = token(get("/house-rules/states"));
        assertThat(post("/house-rules/states/" + key + "/retire", token).body())
                .contains("Choose where its 1 open tickets go");
        String batch = post("/house-rules/states/" + key + "/retire", token, "into", "in-hand")
                .body();
        long id = Long.parseLong(batch.replaceFirst("(?s).*/batches/(\\d+)/.*", "$1"));
        bean(BackgroundWork.class).run("batch", id);
        assertThat(state()).isEqualTo("in-hand");
        assertThat(bean(TicketStates.class).name(key)).isEqualTo(name);
        assertThatThrownBy(() -> acts.perform(number, new Act.MoveTo(key), imani()))
                .hasMessageContaining("no such state");
    }

    @Test
    void what_is_shipped_stays_and_names_are_not_given_twice() {
        assertThatThrownBy(() -> rules.retire("resolved", ravi())).hasMessageContaining("needed");
        assertThatThrownBy(() -> rules.add("in HAND", Turn.OURS, 1, false, ravi()))
                .hasMessageContaining("of that name already");
        assertThatThrownBy(() -> rules.add(" ", Turn.OURS, 1, false, ravi())).hasMessageContaining("has a name");
        assertThatThrownBy(() -> rules.add(name, Turn.OURS, 1, false, imani())).isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void two_who_change_it_at_once_are_told() {
        String key = rules.add(name, Turn.OURS, 25, false, ravi());
        rules.change(key, name, 26, false, 0, ravi());
        assertThatThrownBy(() -> rules.change(key, name, 27, false, 0, ravi())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void a_state_that_asks_how_it_was_resolved_is_not_entered_before_that_is_written_down() {
        rules.change("resolved", "Resolved", 50, true, version("resolved"), ravi());
        assertThatThrownBy(() -> acts.perform(number, new Act.MoveTo("resolved"), imani()))
                .hasMessageContaining("asks how it was resolved");
        int seen = bean(Tickets.class).find(number, imani()).orElseThrow().lastPublicSeq();
        var answer = new Answering.Answer("<p>Done.</p>", "", Optional.empty(), Turn.NOBODY, seen);
        assertThatThrownBy(() -> bean(Answering.class).answer(number, answer, imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("your text is saved");
        acts.perform(number, new Act.Conclude(new Work.Resolution("Loose", "Fixed", "")), imani());
        bean(Answering.class).answer(number, answer, imani());
        assertThat(state()).isEqualTo("resolved");
    }
}

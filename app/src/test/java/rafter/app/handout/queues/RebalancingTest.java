package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Handing;
import rafter.core.routing.Presence;
import rafter.core.routing.Rebalance;
import rafter.core.ticket.Act;

/** Handing out anew at work: proposed, put into force as far as wanted, and taken back. */
class RebalancingTest extends QueuesAtWork {

    private final Rebalancing rebalancing = bean(Rebalancing.class);

    private static Rebalancing.Moved moved(Rebalance.Move move) {
        return new Rebalancing.Moved(
                move.ticket().number().value(),
                move.from().map(id -> id.value()).orElse(0L),
                move.to().value());
    }

    private List<Rebalance.Move> ofThisTest() {
        return rebalancing.propose(odile()).moves().stream()
                .filter(move -> mails.contains(move.ticket().number()))
                .toList();
    }

    @Test
    void what_waits_and_what_somebody_who_left_has_is_handed_out_as_one_and_taken_back_as_one() {
        saved(queue("R", Handing.HAND, about("anew")));
        TicketNumber waits = mail("anew", "Help");
        TicketNumber left = mail("anew", "Help, too");
        acts.perform(left, new Act.HandToPerson(Optional.of(imani().id())), imani());
        whereabouts.say(Presence.OFF, "", true, imani());
        List<Rebalance.Move> moves = ofThisTest();
        assertThat(moves.stream().map(move -> move.ticket().number())).contains(waits);
        assertThat(moves).allMatch(move -> move.to().equals(sefa().id()));
        Rebalancing.Done done =
                rebalancing.apply(moves.stream().map(RebalancingTest::moved).toList(), odile());
        assertThat(done.moved()).isEqualTo(moves.size());
        assertThat(owner(waits)).contains(sefa().id().value());
        assertThat(waiting(queues.kept().getLast().queue().id())).isEmpty();
        assertThat(rebalancing.undo(done.id(), odile()).moved()).isEqualTo(moves.size());
        assertThat(owner(waits)).isEmpty();
        assertThat(owner(left)).contains(imani().id().value());
        bean(rafter.app.tickets.rules.RuleDesk.class).readAll();
        assertThat(waiting(queues.kept().getLast().queue().id())).contains(waits);
        assertThatThrownBy(() -> rebalancing.undo(done.id(), odile())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void what_somebody_took_meanwhile_stays_with_them_and_is_told() {
        saved(queue("R", Handing.HAND, about("anew")));
        TicketNumber number = mail("anew", "Help");
        List<Rebalancing.Moved> moves =
                ofThisTest().stream().map(RebalancingTest::moved).toList();
        acts.perform(number, new Act.HandToPerson(Optional.of(ravi().id())), ravi());
        Rebalancing.Done done = rebalancing.apply(moves, odile());
        assertThat(done.moved()).isZero();
        assertThat(done.refused()).singleElement().asString().contains("owns ticket");
        assertThat(owner(number)).contains(ravi().id().value());
        assertThatThrownBy(() -> rebalancing.apply(List.of(), odile())).hasMessageContaining("at least one");
        assertThatThrownBy(() -> rebalancing.apply(moves, sefa())).isInstanceOf(Problem.class);
        assertThatThrownBy(() -> rebalancing.propose(sefa())).isInstanceOf(Problem.class);
    }

    @Test
    void the_floor_of_a_day_is_looked_at_as_it_stood_by_leads() throws Exception {
        saved(queue("Then", Handing.HAND, about("then")));
        mail("then", "Help");
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        String page = get("/floor/then").body();
        assertThat(page).contains("As it stood", "Then" + word, "Imani Okoro");
        assertThat(page).containsPattern("data-counts=\"[0,]*1\"");
        assertThat(get("/floor/then?day=2019-01-01").body()).contains("kept for ninety days");
        assertThat(get("/floor/then?day=someday").body()).contains("is no day");
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/floor/then").statusCode()).isEqualTo(403);
    }

    @Test
    void the_page_shows_what_moves_why_and_what_it_saves_and_does_what_is_ticked() throws Exception {
        saved(queue("R", Handing.HAND, about("anew")));
        TicketNumber number = mail("anew", "Help");
        Rebalancing.Moved move = moved(ofThisTest().getFirst());
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        String page = get("/floor/anew").body();
        assertThat(page)
                .contains("would be late as it is")
                .contains("nobody has it")
                .contains(number + ":0:" + move.to());
        String token = token(get("/floor/anew"));
        assertThat(post("/floor/anew", token).body()).contains("Tick at least one ticket");
        String after =
                post("/floor/anew", token, "move", number + ":0:" + move.to()).body();
        assertThat(after).contains("1 ticket changed hands.", "Take that", "/undo");
        assertThat(owner(number)).contains(move.to());
    }
}

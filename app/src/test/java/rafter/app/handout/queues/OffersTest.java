package rafter.app.handout.queues;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.OFFER;

import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Handing;
import rafter.core.routing.Overflow;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.ticket.Act;

/** Offers at work: one person at a time, in time or not, passed on, over pools, and none lost. */
class OffersTest extends QueuesAtWork {

    private Optional<TicketNumber> asked(Viewer who) {
        return handing.asked(who).map(HandingOut.Asked::ticket);
    }

    private Viewer whoIsAsked() {
        return asked(imani()).isPresent() ? imani() : sefa();
    }

    private static Viewer other(Viewer one) {
        return one.id().equals(imani().id()) ? sefa() : imani();
    }

    @Test
    void the_best_is_asked_and_takes_it() {
        QueueId queue = saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        assertThat(giving.giveOut()).isEqualTo(1);
        assertThat(giving.giveOut()).as("it is asked about already").isZero();
        Viewer first = whoIsAsked();
        assertThat(asked(other(first))).isEmpty();
        HandingOut.Asked offer = handing.asked(first).orElseThrow();
        assertThat(offer.why()).contains("fits best");
        assertThatThrownBy(() -> handing.take(offer.id(), other(first))).isInstanceOf(Problem.Stale.class);
        assertThat(handing.take(offer.id(), first)).isEqualTo(number);
        assertThat(owner(number)).contains(first.id().value());
        assertThat(waiting(queue)).isEmpty();
        assertThatThrownBy(() -> handing.take(offer.id(), first)).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void who_passes_is_not_asked_again_in_the_round_and_the_next_one_is_asked_at_once() {
        saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        handing.pass(handing.asked(first).orElseThrow().id(), "at lunch", first);
        assertThat(asked(first)).isEmpty();
        assertThat(asked(other(first))).contains(number);
        handing.pass(handing.asked(other(first)).orElseThrow().id(), "", other(first));
        assertThat(giving.giveOut()).as("the round is over, and pauses").isZero();
        clock().tick(Duration.ofSeconds(61));
        assertThat(giving.giveOut()).as("a new round").isEqualTo(1);
        assertThat(sql().fetchCount(OFFER, OFFER.TICKET.eq(number), OFFER.STATE.eq("PASSED")))
                .isEqualTo(2);
    }

    @Test
    void what_runs_out_goes_to_the_next_and_its_late_answer_is_refused() {
        saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        HandingOut.Asked late = handing.asked(first).orElseThrow();
        clock().tick(Duration.ofSeconds(59));
        assertThat(giving.giveOut()).isZero();
        clock().tick(Duration.ofSeconds(2));
        assertThat(giving.giveOut()).isEqualTo(1);
        assertThat(asked(other(first))).contains(number);
        assertThatThrownBy(() -> handing.take(late.id(), first)).hasMessageContaining("not asked about this");
    }

    @Test
    void nodes_whose_clocks_differ_ask_one_person_at_a_time_and_whose_turn_it_is_can_take_it() {
        saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        Instant here = clock().instant();
        // A node that is an hour ahead finds that the time is over, and asks the next one until an hour from now.
        clock().tick(Duration.ofHours(1));
        List.of(imani(), sefa()).forEach(one -> whereabouts.say(Presence.HERE, "", true, one));
        assertThat(giving.giveOut()).isEqualTo(1);
        clock().set(here);
        assertThat(giving.giveOut()).isZero();
        assertThat(asked(first)).isEmpty();
        assertThat(asked(other(first))).contains(number);
        handing.take(handing.asked(other(first)).orElseThrow().id(), other(first));
        assertThat(owner(number)).contains(other(first).id().value());
        assertThat(sql().fetchCount(OFFER, OFFER.TICKET.eq(number))).isEqualTo(2);
    }

    @Test
    void when_the_round_is_empty_the_overflow_is_asked_and_somebody_else_taking_it_withdraws_it() {
        TeamId further = bean(rafter.app.house.access.Persons.class)
                .addTeam("Further " + word, rafter.app.platform.Guard.ITSELF);
        sql().insertInto(
                        rafter.database.Tables.TEAM_MEMBER,
                        rafter.database.Tables.TEAM_MEMBER.TEAM_ID,
                        rafter.database.Tables.TEAM_MEMBER.PERSON_ID)
                .values(further, odile().id())
                .execute();
        whereabouts.say(Presence.HERE, "", true, odile());
        workforce.limit(odile().id(), 100, ravi().id());
        Queue plain = queue("O", Handing.OFFERS, about("offer"));
        saved(new Queue(
                plain.id(),
                plain.name(),
                true,
                plain.criteria(),
                plain.order(),
                plain.teams(),
                Set.of(),
                plain.way(),
                plain.answerWithin(),
                Optional.empty(),
                List.of(new Overflow(new Overflow.When.NobodyFree(), Set.of(further)))));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        handing.pass(handing.asked(first).orElseThrow().id(), "", first);
        handing.pass(handing.asked(other(first)).orElseThrow().id(), "", other(first));
        assertThat(asked(odile())).contains(number);
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        bean(rafter.app.tickets.rules.RuleDesk.class).readAll();
        assertThat(asked(odile())).as("somebody has it").isEmpty();
        sql().deleteFrom(rafter.database.Tables.TEAM_MEMBER)
                .where(rafter.database.Tables.TEAM_MEMBER.TEAM_ID.eq(further))
                .execute();
    }

    @Test
    void what_comes_back_into_a_queue_is_asked_about_anew_and_a_queue_that_is_removed_asks_nobody() {
        QueueId queue = saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        handing.take(handing.asked(first).orElseThrow().id(), first);
        acts.perform(number, new Act.HandToPerson(Optional.empty()), first);
        bean(rafter.app.tickets.rules.RuleDesk.class).readAll();
        assertThat(giving.giveOut()).as("who had it may be asked, too").isEqualTo(1);
        Viewer second = whoIsAsked();
        handing.pass(handing.asked(second).orElseThrow().id(), "", second);
        assertThat(asked(other(second))).contains(number);
        queues.remove(queue, ravi().id());
        assertThat(asked(other(second))).isEmpty();
        assertThat(waiting(queue)).isEmpty();
    }

    @Test
    void who_closes_the_browser_is_asked_no_more_and_what_they_were_asked_is_not_lost() {
        saved(queue("O", Handing.OFFERS, about("offer")));
        TicketNumber number = mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        clock().tick(Duration.ofMinutes(4));
        whereabouts.beat(other(first), Duration.ZERO);
        assertThat(giving.giveOut()).isEqualTo(1);
        assertThat(asked(other(first))).contains(number);
        assertThat(workforce.standing(first.id()).reason()).isEqualTo("no page is open");
        whereabouts.beat(first, Duration.ZERO);
        assertThat(workforce.standing(first.id()).presence()).isEqualTo(Presence.HERE);
    }

    @Test
    void who_touches_nothing_is_set_away_and_comes_back_by_touching_something() {
        whereabouts.beat(imani(), Duration.ofMinutes(15));
        assertThat(workforce.standing(imani().id()).presence()).isEqualTo(Presence.AWAY);
        whereabouts.beat(imani(), Duration.ofSeconds(5));
        assertThat(workforce.standing(imani().id()).presence()).isEqualTo(Presence.HERE);
        whereabouts.say(Presence.AWAY, "lunch", true, imani());
        whereabouts.beat(imani(), Duration.ofSeconds(5));
        assertThat(workforce.standing(imani().id()).reason())
                .as("they said so themselves")
                .isEqualTo("lunch");
    }

    @Test
    void leads_say_where_somebody_is_and_plan_for_them_and_others_do_not() {
        whereabouts.sayFor(imani().id(), Presence.OFF, "", true, odile());
        assertThat(workforce.standing(imani().id()).presence()).isEqualTo(Presence.OFF);
        assertThatThrownBy(() -> whereabouts.sayFor(imani().id(), Presence.HERE, "", true, sefa()))
                .isInstanceOf(Problem.class);
        whereabouts.say(Presence.HERE, "", true, imani());
        var now = clock().instant();
        whereabouts.plan(imani().id(), now, now.plus(Duration.ofHours(2)), "the dentist", odile());
        assertThat(workforce.standing(imani().id()).reason()).isEqualTo("the dentist");
        assertThatThrownBy(() -> whereabouts.plan(imani().id(), now, now.plusSeconds(60), "", sefa()))
                .isInstanceOf(Problem.class);
        assertThatThrownBy(() -> whereabouts.plan(sefa().id(), now, now.minusSeconds(60), "", sefa()))
                .hasMessageContaining("ends after it begins");
        whereabouts.unplan(whereabouts.of(imani().id()).absences().getFirst().id(), imani());
        assertThat(workforce.standing(imani().id()).presence()).isEqualTo(Presence.HERE);
    }

    @Test
    void a_channel_weighs_what_the_workspace_says_and_a_reason_is_asked_for_where_it_wants_one() {
        HandOutSettings settings = bean(HandOutSettings.class);
        saved(queue("O", Handing.OFFERS, about("offer")));
        settings.save(
                new HandOutRules(Factor.weights(), Map.of("email", 2.5), Optional.empty(), List.of(), true, false),
                settings.kept().version(),
                ravi().id());
        double imanis = used(imani());
        double sefas = used(sefa());
        mail("offer", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        assertThat(used(first) - (first.id().equals(imani().id()) ? imanis : sefas))
                .as("an offer takes room, too")
                .isEqualTo(2.5);
        long offer = handing.asked(first).orElseThrow().id();
        assertThatThrownBy(() -> handing.pass(offer, " ", first)).hasMessageContaining("still asked");
        handing.pass(offer, "no time", first);
        assertThat(asked(first)).isEmpty();
        assertThatThrownBy(() ->
                        settings.save(HandOutRules.usual(), settings.kept().version() - 1, ravi().id()))
                .isInstanceOf(Problem.Stale.class);
    }

    private double used(Viewer who) {
        return workforce.workers().stream()
                .filter(one -> one.id().equals(who.id()))
                .findFirst()
                .orElseThrow()
                .used();
    }

    @Test
    void nothing_is_offered_to_two_whatever_many_threads_do_at_once() throws Exception {
        saved(queue("O", Handing.OFFERS, about("many")));
        for (int i = 0; i < 8; i++) {
            mail("many", "Number " + i);
        }
        var taken = new HashSet<TicketNumber>();
        try (var several = Executors.newFixedThreadPool(4)) {
            for (int round = 0; round < 8; round++) {
                List<Callable<Optional<TicketNumber>>> all = new ArrayList<>();
                for (Viewer who : List.of(imani(), sefa())) {
                    all.add(() -> {
                        giving.giveOut();
                        return Optional.empty();
                    });
                    all.add(() -> take(who));
                }
                for (var one : several.invokeAll(all)) {
                    one.get().ifPresent(number -> assertThat(taken.add(number)).isTrue());
                }
                clock().tick(Duration.ofSeconds(1));
            }
        }
        assertThat(taken).isNotEmpty();
        taken.forEach(number -> assertThat(owner(number)).isPresent());
    }

    private Optional<TicketNumber> take(Viewer who) {
        try {
            return handing.asked(who).map(asked -> handing.take(asked.id(), who));
        } catch (Problem.Stale gone) {
            return Optional.empty();
        }
    }

    /** What a page is told that says that it is open. */
    private String beat(String token) throws Exception {
        return browser.send(
                        HttpRequest.newBuilder(uri("/presence/beat"))
                                .header("Content-Type", "application/x-www-form-urlencoded")
                                .POST(HttpRequest.BodyPublishers.ofString("idle=3&_csrf=" + token))
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body();
    }

    @Test
    void the_pages_show_what_is_asked_who_fits_and_the_floor_with_what_a_lead_does_there() throws Exception {
        QueueId id = saved(queue("O", Handing.OFFERS, about("page")));
        TicketNumber number = mail("page", "Help");
        giving.giveOut();
        Viewer first = whoIsAsked();
        signIn(
                first.id().equals(imani().id()) ? "imani@ternpassage.example" : "sefa@ternpassage.example",
                RunningApp.PASSWORD);
        String offer = get("/offer").body();
        assertThat(offer).contains("Can you take this?", number.toString(), "fits best");
        String token = token(get("/floor"));
        assertThat(get("/tickets/" + number + "/fit").body()).contains("of 100", "Hand over 1 to");
        assertThat(beat(token)).contains("\"here\"", "\"offers\":1");
        long asked = handing.asked(first).orElseThrow().id();
        post("/offer/" + asked + "/take", token);
        assertThat(owner(number)).contains(first.id().value());
        assertThat(get("/offer").body()).doesNotContain("Can you take this?");
        assertThat(beat(token)).contains("\"offers\":0");
        assertThat(post("/floor/queues/" + id + "/overflow", token, "by", "OPEN")
                        .statusCode())
                .isEqualTo(403);
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        token = token(get("/floor"));
        assertThat(get("/floor").body())
                .contains("In the last hour 1 came and 1 left")
                .contains("took 1");
        assertThat(post("/floor/queues/" + id + "/overflow", token, "by", "OPEN")
                        .body())
                .contains("The overflow is open");
        assertThat(post("/presence/of/" + imani().id(), token, "presence", "OFF")
                        .body())
                .contains("is off now");
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        token = token(get("/house-rules/handing-out"));
        assertThat(post("/house-rules/handing-out", token, "version", "0", "weight-SKILLS", "many")
                        .body())
                .contains("“many” is no number for skills")
                .contains("value=\"many\"");
    }
}

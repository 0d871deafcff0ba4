package rafter.app.arrival.telephone;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.TICKET;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.FarSide;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Reach;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Worker;
import rafter.core.ticket.Turn;

/** What people do with a call, and what they see of it. */
class CallDeskTest extends CallsAtWork {

    private boolean busy() {
        return bean(Workforce.class).workers().stream()
                .filter(one -> one.id().equals(imani().id()))
                .mapToDouble(Worker::load)
                .anyMatch(load -> load >= 1);
    }

    @Test
    void who_has_a_call_holds_it_has_a_word_and_hands_it_over() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        exchange.asked();
        desk.hold(id, imani());
        exchange.tell(List.of(told("held", 20)));
        desk.word(id, sefa().id(), imani());
        assertThat(call().word()).contains(sefa().id());
        assertThatThrownBy(() -> desk.give(id, sefa())).isInstanceOf(Problem.NoRight.class);
        desk.give(id, imani());
        assertThat(exchange.asked().stream().map(FarSide.Asked::path))
                .containsExactly("/calls/" + call + "/hold", "/calls/" + call + "/word", "/calls/" + call + "/give");
        exchange.tell(List.of(told("taken", 40, "person", sefa().id().toString())));
        assertThat(ticket().owner()).contains(sefa().id());
        assertThat(call().word()).isEmpty();
        exchange.tell(List.of(told("ended", 60)));
        assertThat(entries().getLast())
                .isEqualTo("Waited 0:10. " + imani().name() + ", then " + sefa().name()
                        + " spoke with them for 0:30, on hold for 0:20.");
    }

    @Test
    void an_exchange_that_does_not_answer_is_told_and_nothing_is_changed() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        exchange.answers(500);
        long id = call().id();
        assertThatThrownBy(() -> desk.hold(id, imani()))
                .isInstanceOf(Problem.Invalid.class)
                .extracting(e -> ((Problem) e).words())
                .asString()
                .contains("Nothing was changed");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/calls/" + id).body()).contains("The exchange says no.");
        exchange.answers(200);
        desk.hold(id, imani());
    }

    @Test
    void a_call_goes_on_with_a_ticket_that_was_there_and_what_follows_happens_there() throws Exception {
        Contact ingrid = contact("Ingrid " + unique(), number);
        String first = "f-" + unique();
        exchange.tell(List.of(
                event(first + "1", first, at(-500), "began", "number", number, "line", line.address()),
                event(first + "2", first, at(-400), "ended")));
        TicketNumber earlier = sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CONTACT_ID.eq(ingrid.id()))
                .fetchSingle(TICKET.NUMBER);
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        desk.goOn(id, earlier, imani());
        assertThat(call().ticket()).contains(earlier);
        assertThat(ticket().owner()).contains(imani().id());
        exchange.tell(List.of(told("ended", 60)));
        assertThat(tickets.find(earlier, ravi()).orElseThrow().work().shownCalls())
                .hasSize(1);
        assertThat(ticket().tags()).as("they were called back, as it were").doesNotContain("call back");
        assertThatThrownBy(() -> desk.goOn(id, new TicketNumber(1), imani())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void who_calls_is_chosen_or_written_down_and_is_known_by_the_number_from_then_on() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        desk.callerIsNew(call().id(), "Noor Haddad", Optional.empty(), imani());
        Contact noor = bean(Contacts.class).get(ticket().contact());
        assertThat(noor.name()).isEqualTo("Noor Haddad");
        assertThat(bean(KnownBy.class).ofNumber(number)).extracting(Contact::id).containsExactly(noor.id());
        assertThatThrownBy(() -> desk.callerIsNew(call().id(), " ", Optional.empty(), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void what_is_typed_is_kept_at_once_and_written_down_with_the_call_also_after_its_end() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        assertThat(desk.notes(id, "Wants the evening", 0, imani())).isEqualTo(1);
        assertThatThrownBy(() -> desk.notes(id, "Another window", 0, imani())).isInstanceOf(Problem.Stale.class);
        exchange.tell(List.of(told("ended", 60)));
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Wants the evening");
        desk.notes(id, "Wants the evening crossing", 1, imani());
        desk.finish(id, Optional.of(Turn.CUSTOMER), imani());
        assertThat(ticket().work().shownCalls()).hasSize(1);
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Wants the evening crossing");
        assertThat(ticket().turn()).isEqualTo(Turn.CUSTOMER);
    }

    @Test
    void what_was_typed_and_left_is_written_down_once_whoever_typed_it_is_free() throws Exception {
        exchange.tell(List.of(began(), taken(10), told("ended", 590)));
        desk.notes(call().id(), "Typed after the end", 0, imani());
        assertThat(bean(WrittenDown.class).later()).isZero();
        clock().tick(Duration.ofMinutes(3));
        assertThat(bean(WrittenDown.class).later()).isEqualTo(1);
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Typed after the end");
        assertThat(bean(WrittenDown.class).later()).isZero();
    }

    @Test
    void a_call_takes_all_of_somebody_until_they_are_free_after_it() throws Exception {
        assertThat(busy()).isFalse();
        exchange.tell(List.of(began(), taken(30)));
        assertThat(busy()).isTrue();
        exchange.tell(List.of(told("ended", 590)));
        assertThat(busy()).as("after-call time").isTrue();
        desk.finish(call().id(), Optional.of(Turn.NOBODY), imani());
        assertThat(busy()).isFalse();
    }

    @Test
    void of_two_who_take_a_call_at_once_one_has_it_and_the_exchange_rings_each_once() throws Exception {
        exchange.tell(List.of(began()));
        long id = call().id();
        exchange.asked();
        desk.take(id, imani());
        assertThatThrownBy(() -> desk.take(id, sefa())).isInstanceOf(Problem.Stale.class);
        assertThat(ticket().owner()).contains(imani().id());
        Ringing ringing = bean(Ringing.class);
        assertThat(ringing.ring(call(), imani().id())).isEmpty();
        assertThat(ringing.ring(call(), imani().id())).isEmpty();
        assertThat(exchange.asked()).hasSize(1);
        exchange.answers(409);
        assertThat(ringing.ring(call(), sefa().id())).contains("The exchange says no.");
        assertThat(call().rung()).as("it can be tried again").isEmpty();
    }

    @Test
    void only_who_has_a_call_holds_it_hands_it_over_or_ends_it() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        exchange.asked();
        for (Runnable deed : List.<Runnable>of(
                () -> desk.hold(id, sefa()), () -> desk.word(id, imani().id(), sefa()), () -> desk.end(id, sefa()))) {
            assertThatThrownBy(deed::run).isInstanceOf(Problem.NoRight.class);
        }
        assertThatThrownBy(() -> desk.resume(id, imani())).as("nobody is held").isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> desk.word(id, imani().id(), imani())).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> desk.finish(id, Optional.empty(), imani())).isInstanceOf(Problem.Stale.class);
        assertThat(exchange.asked()).isEmpty();
        exchange.tell(List.of(told("ended", 60)));
        assertThatThrownBy(() -> desk.hold(id, imani())).isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> desk.take(id, imani())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void whoever_may_not_see_its_ticket_does_not_see_a_call() throws Exception {
        exchange.tell(List.of(began()));
        RunningApp.reach(sefa(), new Reach.Teams(Set.of(new rafter.core.id.TeamId(999_999))));
        try {
            assertThatThrownBy(() -> desk.call(call().id(), sefa())).isInstanceOf(Problem.NotFound.class);
            signIn(sefa().person().address(), RunningApp.PASSWORD);
            assertThat(get("/calls").body()).doesNotContain(number);
            assertThat(get("/calls/" + call().id()).statusCode()).isEqualTo(404);
        } finally {
            RunningApp.reach(sefa(), new Reach.Everything());
        }
    }

    @Test
    void what_is_to_be_said_once_is_left_to_the_page_by_one_that_is_open_already() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String at = "/calls/" + call().id();
        var about = form(at + "/about", token(get(at)), "topic", "bicycles", "priority", "P2");
        assertThat(staying().send(about, HttpResponse.BodyHandlers.ofString()).statusCode())
                .isEqualTo(302);
        // The page that was open draws itself anew while the answer is still on its way.
        assertThat(get(at, "X-Anew", "true").body()).doesNotContain("What it is about is saved");
        assertThat(get(at).body()).contains("What it is about is saved");
        assertThat(get(at).body()).doesNotContain("What it is about is saved");
    }

    @Test
    void what_a_call_is_about_is_saved_and_what_cannot_be_is_said() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String at = "/calls/" + call().id();
        String token = token(get(at));
        assertThat(post(at + "/about", token, "topic", "bicycles", "priority", "P2")
                        .body())
                .contains("What it is about is saved");
        assertThat(ticket().topic()).isEqualTo("bicycles");
        assertThat(ticket().priority().name()).isEqualTo("P2");
        assertThat(post(at + "/about", token, "topic", "x".repeat(61), "priority", "P2")
                        .body())
                .contains("at most sixty letters");
        assertThat(post(at + "/go-on", token, "ticket", "seven").body()).contains("is no number of a ticket");
        assertThat(post(at + "/call-back", token, "when", "soon", "why", "the slot")
                        .body())
                .contains("is no date with a time");
        assertThat(get(at + "/companies?asked=zzz").body()).contains("No company is called so");
        assertThat(get(at + "/contacts?name=zzz").body()).contains("Nobody of that name there");
    }

    @Test
    void the_sheet_and_the_list_show_what_was_told() throws Exception {
        Contact ingrid = contact("Ingrid " + unique(), number);
        exchange.tell(answered());
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/calls").body()).contains(ingrid.name()).contains("called, answered by");
        assertThat(get("/calls/" + call().id()).body())
                .contains(ingrid.name())
                .contains("talked 4:10, on hold 0:20, answered");
        assertThat(get("/calls?unanswered=true").body()).doesNotContain(ingrid.name());
        assertThat(get("/calls/of/" + call().ticket().orElseThrow()).uri().getPath())
                .startsWith("/tickets/");
        assertThat(get("/calls/999999999").statusCode()).isEqualTo(404);
        assertThat(get("/calls/out?ticket=" + call().ticket().orElseThrow()).body())
                .contains(number);
    }
}

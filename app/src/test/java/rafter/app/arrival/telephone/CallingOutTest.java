package rafter.app.arrival.telephone;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.platform.Problem;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** We call. */
class CallingOutTest extends CallsAtWork {

    private final CallingOut calling = bean(CallingOut.class);

    private long callOut(String key) {
        return calling.call(new CallingOut.Wanted(Optional.empty(), Optional.empty(), number, line.id(), key), imani());
    }

    @Test
    void we_call_once_however_often_it_is_pressed_and_who_is_not_reached_was_not_answered() throws Exception {
        String key = "press-of-a-button-" + unique();
        long id = callOut(key);
        assertThat(exchange.asked()).hasSize(1);
        exchange.tell(List.of(
                event(key + "1", key, at(601), "began", "outgoing", true, "number", number, "line", line.address()),
                event(key + "2", key, at(620), "ended")));
        assertThat(callOut(key)).isEqualTo(id);
        assertThat(exchange.asked()).isEmpty();
        Ticket ticket = tickets.find(calls.find(id).orElseThrow().ticket().orElseThrow(), ravi())
                .orElseThrow();
        assertThat(ticket.messages()).isZero();
        assertThat(ticket.work().shownCalls().getFirst().said().length()).isZero();
        assertThat(ticket.owner()).contains(imani().id());
    }

    @Test
    void who_is_reached_by_our_call_has_an_answer() throws Exception {
        exchange.tell(List.of(began(), told("ended", 40)));
        TicketNumber about = call().ticket().orElseThrow();
        String key = "press-of-a-button-" + unique();
        calling.call(new CallingOut.Wanted(Optional.of(about), Optional.empty(), number, line.id(), key), imani());
        exchange.tell(List.of(
                event(key + "1", key, at(601), "began", "outgoing", true, "number", number, "line", line.address()),
                event(key + "2", key, at(610), "taken", "person", imani().id().toString()),
                event(key + "3", key, at(640), "ended")));
        Ticket ticket = tickets.find(about, ravi()).orElseThrow();
        assertThat(ticket.tags()).doesNotContain("call back");
        assertThat(sql().select(MESSAGE.TEXT)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(about))
                        .and(MESSAGE.KIND.eq("PUBLIC"))
                        .fetch(MESSAGE.TEXT))
                .containsExactly("Called " + number + ". " + imani().name() + " spoke with them for 0:30.");
    }

    @Test
    void where_the_exchange_does_not_take_it_nobody_is_called_and_no_ticket_stays() {
        exchange.answers(503);
        int before = sql().fetchCount(TICKET, TICKET.DISCARDED.isFalse());
        assertThatThrownBy(() -> callOut("press-of-a-button-" + unique()))
                .isInstanceOf(Problem.Invalid.class)
                .extracting(e -> ((Problem) e).words())
                .asString()
                .contains("Nobody was called");
        assertThat(sql().fetchCount(TICKET, TICKET.DISCARDED.isFalse())).isEqualTo(before);
        var nobody = new CallingOut.Wanted(
                Optional.empty(), Optional.empty(), "ferry", line.id(), "press-of-a-button-" + unique());
        assertThatThrownBy(() -> calling.call(nobody, imani())).isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void to_call_back_is_a_task_with_a_time() throws Exception {
        exchange.tell(List.of(began(), taken(10), told("ended", 60)));
        desk.callBack(call().id(), Optional.of(clock().instant().plusSeconds(3600)), "the slot", imani());
        assertThat(ticket().work().tasks().getFirst().what()).isEqualTo("Call back " + number + ": the slot");
        assertThatThrownBy(() ->
                        desk.callBack(call().id(), Optional.of(clock().instant().minusSeconds(1)), "", imani()))
                .isInstanceOf(Problem.Invalid.class);
    }
}

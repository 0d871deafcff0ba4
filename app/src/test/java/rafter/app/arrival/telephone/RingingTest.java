package rafter.app.arrival.telephone;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.FarSide;
import rafter.app.arrival.providers.ProviderClient;
import rafter.app.arrival.providers.Providers;
import rafter.app.house.access.Persons;
import rafter.app.platform.LiveNews;
import rafter.app.platform.News;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** Whom the exchange is asked to ring, and how often. */
class RingingTest extends CallsAtWork {

    @Test
    void a_call_that_waits_is_wanted_by_the_owner_of_the_ticket_on_which_it_goes_on_until_they_are_rung()
            throws Exception {
        CallBook book = bean(CallBook.class);
        exchange.tell(List.of(began()));
        TicketNumber number = call().ticket().orElseThrow();
        assertThat(wanted()).as("nobody has its ticket").isEmpty();
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        assertThat(wanted()).containsExactly(new CallBook.Wanted(call(), List.of(number, number), imani().id()));
        book.ring(call().id(), imani().id());
        assertThat(wanted()).as("they are rung").isEmpty();
        TicketNumber into = RunningApp.ticketOf(RunningApp.take(mail()).orElseThrow());
        acts.perform(into, new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        acts.perform(number, new Act.Join(into), imani());
        assertThat(wanted()).containsExactly(new CallBook.Wanted(call(), List.of(number, into), sefa().id()));
        exchange.tell(List.of(taken(10)));
        assertThat(wanted()).as("it does not wait any more").isEmpty();
    }

    private List<CallBook.Wanted> wanted() {
        return bean(CallBook.class).wanted().stream()
                .filter(one -> one.call().id() == call().id())
                .toList();
    }

    private static byte[] mail() {
        int nth = unique();
        return ("From: c" + nth + "@post.example\nMessage-ID: <c" + nth + "@post.example>\nSubject: Call\n\nHello")
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void the_exchange_is_asked_once_however_often_a_ticket_is_told_of_and_not_for_others() throws Exception {
        exchange.tell(List.of(began()));
        acts.perform(call().ticket().orElseThrow(), new Act.HandToPerson(Optional.of(imani().id())), imani());
        exchange.asked();
        var ringing = new Ringing(
                bean(CallBook.class),
                bean(Persons.class),
                bean(Providers.class),
                bean(ProviderClient.class),
                bean(LiveNews.class),
                true);
        for (int i = 0; i < 500; i++) {
            ringing.hear(new News("ticket", 1_000_000 + i));
        }
        assertThat(exchange.asked()).as("other tickets changed").isEmpty();
        for (int i = 0; i < 500; i++) {
            ringing.hear(new News("ticket", call().ticket().orElseThrow().value()));
        }
        ringing.end();
        assertThat(exchange.asked()).extracting(FarSide.Asked::path).containsExactly("/calls/" + call + "/ring");
    }
}

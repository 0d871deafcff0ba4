package rafter.app.arrival.telephone;

import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.CALL;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.FarSide;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.arrival.providers.Provider;
import rafter.app.house.people.Contact;
import rafter.app.house.people.KnownBy;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** An exchange with a line, and what it tells of a call. */
@ExtendWith(RunningApp.class)
abstract class CallsAtWork extends Browsing {

    final CallBook calls = bean(CallBook.class);

    final CallDesk desk = bean(CallDesk.class);

    final Tickets tickets = bean(Tickets.class);

    final Acts acts = bean(Acts.class);

    final String number = "+44 20 7" + (100_000_000 + unique());

    final String call = "c-" + unique();

    final List<TicketNumber> opened = new ArrayList<>();

    FarSide exchange;

    OurLine line;

    Instant from;

    @BeforeEach
    void an_exchange_with_a_line() throws IOException {
        from = RunningApp.nextMinute();
        clock().set(from.plusSeconds(600));
        exchange = new FarSide(Provider.Kind.TELEPHONE, uri("/"));
        line = exchange.line(
                "+44 20 5550 " + unique(),
                Set.of(Wish.ABANDONED, Wish.RECORDED),
                Duration.ofSeconds(90),
                Optional.empty());
    }

    @AfterEach
    void as_it_was() {
        sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CHANNEL.eq("telephone"))
                .and(TICKET.OPEN)
                .and(TICKET.JOINED_INTO.isNull())
                .and(TICKET.DISCARDED.isFalse())
                .fetch(TICKET.NUMBER)
                .forEach(opened::add);
        opened.forEach(one -> acts.perform(one, new Act.MoveTo(TicketState.CLOSED.key()), ravi()));
        sql().update(CALL)
                .set(CALL.ENDED_AT, clock().instant())
                .setNull(CALL.AFTER_UNTIL)
                .where(CALL.ENDED_AT.isNull().or(CALL.AFTER_UNTIL.isNotNull()))
                .execute();
        exchange.close();
    }

    Instant at(int seconds) {
        return from.plusSeconds(seconds);
    }

    Map<String, Object> began() {
        return event(call + "-1", call, at(0), "began", "number", number, "line", line.address());
    }

    Map<String, Object> taken(int seconds) {
        return event(
                call + "-t" + seconds,
                call,
                at(seconds),
                "taken",
                "person",
                imani().id().toString());
    }

    Map<String, Object> told(String what, int seconds, Object... more) {
        return event(call + "-" + what + seconds, call, at(seconds), what, more);
    }

    List<Map<String, Object>> answered() {
        return List.of(began(), taken(30), told("held", 90), told("resumed", 110), told("ended", 300));
    }

    CallBook.Call call() {
        return bean(TransactionTemplate.class)
                .execute(status -> calls.hold(exchange.provider().id(), call))
                .orElseThrow();
    }

    Ticket ticket() {
        TicketNumber one = call().ticket().map(calls::goesOn).orElseThrow();
        return tickets.find(one, ravi()).orElseThrow();
    }

    List<String> entries() {
        return sql().select(MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(call().ticket().orElseThrow()))
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.TEXT);
    }

    Contact contact(String name, String phone) {
        KnownBy known = bean(KnownBy.class);
        return bean(TransactionTemplate.class).execute(status -> {
            Contact made = known.make(name, Optional.empty(), clock().instant());
            known.addNumber(made.id(), phone);
            return made;
        });
    }
}

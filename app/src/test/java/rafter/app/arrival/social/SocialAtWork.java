package rafter.app.arrival.social;

import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.ERRAND;
import static rafter.database.Tables.KEPT_SEARCH;
import static rafter.database.Tables.NOISE;
import static rafter.database.Tables.POST;
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
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.FarSide;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.arrival.providers.Provider;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** A network with an account of ours, and what it tells of posts. */
@ExtendWith(RunningApp.class)
abstract class SocialAtWork extends Browsing {

    final Posts posts = bean(Posts.class);

    final SocialDesk desk = bean(SocialDesk.class);

    final SocialRules rules = bean(SocialRules.class);

    final Tickets tickets = bean(Tickets.class);

    final Acts acts = bean(Acts.class);

    final int mark = unique();

    FarSide network;

    OurLine account;

    Instant from;

    @BeforeEach
    void a_network_with_an_account() throws IOException {
        from = RunningApp.MONDAY.plus(Duration.ofDays(20)).plus(Duration.ofMinutes(mark));
        clock().set(from.plusSeconds(600));
        sql().update(KEPT_SEARCH).set(KEPT_SEARCH.REMOVED_AT, from).execute();
        sql().update(NOISE).set(NOISE.REMOVED_AT, from).execute();
        sql().update(POST).set(POST.WRITTEN_AT, RunningApp.MONDAY).execute();
        network = new FarSide(Provider.Kind.SOCIAL, uri("/"));
        account = network.line("@ferries" + mark, Set.of(Wish.PRIVATE), Duration.ZERO, Optional.empty());
    }

    @AfterEach
    void as_it_was() {
        sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CHANNEL.in("post", "private-message"))
                .and(TICKET.OPEN)
                .and(TICKET.JOINED_INTO.isNull())
                .and(TICKET.DISCARDED.isFalse())
                .fetch(TICKET.NUMBER)
                .forEach(one -> acts.perform(one, new Act.MoveTo(TicketState.CLOSED.key()), ravi()));
        sql().update(ERRAND).set(ERRAND.STATE, "SENT").execute();
        network.close();
    }

    Map<String, Object> written(String post, String handle, String text, Object... more) {
        var all = new ArrayList<Object>(List.of("handle", handle, "name", "Marit Sand", "text", text));
        all.addAll(List.of(more));
        return event(post + "-written", post, from, "written", all.toArray());
    }

    Map<String, Object> mention(String post) {
        return written(post, "@marit" + mark, "@ferries" + mark + " the crossing is late again");
    }

    String id(String name) {
        return name + "-" + mark;
    }

    Posts.Post post(String name) {
        return posts.find(network.provider().id(), name).orElseThrow();
    }

    Ticket ticket(String name) {
        return tickets.find(post(name).ticket().orElseThrow(), ravi()).orElseThrow();
    }
}

package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.Ids;
import rafter.app.promises.policies.Histories;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.TicketEvent;

/** Walks through the histories of many tickets without holding them all. */
@Component
class RecordedHistories implements Histories {

    private static final int AT_ONCE = 500;
    /** A ticket comes with fewer events than this, whatever fields are filled by then. */
    private static final int BEGINNING = 24;

    private final DSLContext sql;
    private final CustomerFacts customerFacts;

    RecordedHistories(DSLContext sql, CustomerFacts customerFacts) {
        this.sql = sql;
        this.customerFacts = customerFacts;
    }

    @Override
    public long count(Instant from, Instant to) {
        return sql.fetchCount(TICKET, lived(from, to));
    }

    private static Condition lived(Instant from, Instant to) {
        return TICKET.CHANGED_AT.ge(from).and(TICKET.OPENED_AT.lt(to));
    }

    @Override
    public void walk(
            Instant from, Instant to, int part, int parts, Set<KnownField> asked, Consumer<List<History>> each) {
        walk(from, to, part, parts, asked, Integer.MAX_VALUE, each);
    }

    @Override
    public void walkBeginnings(
            Instant from, Instant to, int part, int parts, Set<KnownField> asked, Consumer<List<History>> each) {
        walk(from, to, part, parts, asked, BEGINNING, each);
    }

    private void walk(
            Instant from,
            Instant to,
            int part,
            int parts,
            Set<KnownField> asked,
            int events,
            Consumer<List<History>> each) {
        var last = new TicketNumber(-1);
        while (true) {
            Map<TicketNumber, TeamId> teams = teams(from, to, part, parts, last);
            List<TicketNumber> numbers = List.copyOf(teams.keySet());
            if (numbers.isEmpty()) {
                return;
            }
            Map<TicketNumber, Facts> customers = customerFacts.customers(numbers, asked);
            Map<TicketNumber, List<TicketEvent>> known = clockEvents(numbers, events);
            each.accept(numbers.stream()
                    .filter(known::containsKey)
                    .map(n -> new History(
                            n,
                            teams.getOrDefault(n, new TeamId(0)),
                            customers.getOrDefault(n, Facts.none()),
                            known.getOrDefault(n, List.of())))
                    .toList());
            last = numbers.getLast();
        }
    }

    /** The next tickets of a part, in the order of their numbers, with their teams. */
    private Map<TicketNumber, TeamId> teams(Instant from, Instant to, int part, int parts, TicketNumber last) {
        var teams = new LinkedHashMap<TicketNumber, TeamId>();
        sql.select(TICKET.NUMBER, TICKET.TEAM_ID)
                .from(TICKET)
                .where(lived(from, to))
                .and(TICKET.NUMBER.gt(last))
                .and(DSL.field("{0} % {1}", Long.class, TICKET.NUMBER, DSL.inline(parts))
                        .eq((long) part))
                .orderBy(TICKET.NUMBER)
                .limit(AT_ONCE)
                .forEach(r -> teams.put(r.value1(), r.value2() == null ? new TeamId(0) : r.value2()));
        return teams;
    }

    /** The events that clocks know of; notes and links change none. */
    private Map<TicketNumber, List<TicketEvent>> clockEvents(List<TicketNumber> numbers, int most) {
        var found = new HashMap<TicketNumber, List<TicketEvent>>();
        var first = TICKET_EVENT.as("first");
        boolean beginnings = most < Integer.MAX_VALUE;
        // Of beginnings what happened at the instant of the first event.
        Condition which = beginnings
                ? Ids.among(first.TICKET, numbers).and(first.SEQ.eq(1)).and(TICKET_EVENT.SEQ.le(most))
                : Ids.among(TICKET_EVENT.TICKET, numbers);
        Table<?> from = beginnings
                ? first.join(TICKET_EVENT)
                        .on(TICKET_EVENT.TICKET.eq(first.TICKET))
                        .and(TICKET_EVENT.AT.eq(first.AT))
                : TICKET_EVENT;
        try (var cursor = sql.select(TicketStore.KEPT)
                .from(from)
                .where(which)
                .and(TICKET_EVENT.KIND.notIn(
                        DSL.inline(EventKind.NOTE.word()),
                        DSL.inline(EventKind.LINKED.word()),
                        DSL.inline(EventKind.BOUNCED.word())))
                .orderBy(TICKET_EVENT.TICKET, TICKET_EVENT.SEQ)
                .fetchLazy()) {
            for (Record r : cursor) {
                found.computeIfAbsent(r.get(TICKET_EVENT.TICKET), n -> new ArrayList<>())
                        .add(TicketStore.event(r));
            }
        }
        return found;
    }
}

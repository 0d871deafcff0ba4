package rafter.app.tickets;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.ticket.TicketEvent;

/** Walks through the histories of many tickets without holding them all. */
@Component
public class Histories {

    private static final int AT_ONCE = 500;

    /** The history of a ticket; {@code team} is the id of its team, or zero. */
    public record History(long ticket, long team, Facts customer, List<TicketEvent> events) {}

    private final DSLContext sql;
    private final TicketStore store;

    Histories(DSLContext sql, TicketStore store) {
        this.sql = sql;
        this.store = store;
    }

    /** How many tickets lived in a period. */
    public long count(Instant from, Instant to) {
        return sql.fetchCount(TICKET, lived(from, to));
    }

    private static Condition lived(Instant from, Instant to) {
        return TICKET.CHANGED_AT.ge(from).and(TICKET.OPENED_AT.lt(to));
    }

    /**
     * Gives the tickets that lived in a period, in parts.
     *
     * @param part which share of the tickets, from zero
     * @param parts into how many shares they are divided
     * @param asked the facts about customers that are wanted
     * @param each is given some hundred at a time
     */
    public void walk(Instant from, Instant to, int part, int parts, Set<KnownField> asked, Consumer<List<History>> each) {
        long last = -1;
        while (true) {
            Map<Long, Long> teams = new HashMap<>();
            List<Long> numbers = new ArrayList<>();
            sql.select(TICKET.NUMBER, TICKET.TEAM_ID)
                    .from(TICKET)
                    .where(lived(from, to))
                    .and(TICKET.NUMBER.gt(last))
                    .and(DSL.field("{0} % {1}", Long.class, TICKET.NUMBER, DSL.inline(parts)).eq((long) part))
                    .orderBy(TICKET.NUMBER)
                    .limit(AT_ONCE)
                    .forEach(r -> {
                        numbers.add(r.value1());
                        teams.put(r.value1(), r.value2() == null ? 0L : r.value2());
                    });
            if (numbers.isEmpty()) {
                return;
            }
            Map<Long, Facts> customers = store.customers(numbers, asked);
            Map<Long, List<TicketEvent>> events = clockEvents(numbers);
            each.accept(numbers.stream()
                    .filter(events::containsKey)
                    .map(n -> new History(n, teams.getOrDefault(n, 0L), customers.getOrDefault(n, Facts.none()), events.getOrDefault(n, List.of())))
                    .toList());
            last = numbers.getLast();
        }
    }

    /** The events that clocks know of; notes and links change none. */
    private Map<Long, List<TicketEvent>> clockEvents(List<Long> numbers) {
        var found = new HashMap<Long, List<TicketEvent>>();
        try (var cursor = sql.select(TICKET_EVENT.TICKET, TICKET_EVENT.AT, TICKET_EVENT.KIND, TICKET_EVENT.ACTOR, TICKET_EVENT.BODY)
                .from(TICKET_EVENT)
                .where(TICKET_EVENT.TICKET.eq(DSL.any(numbers.toArray(new Long[0]))))
                .and(TICKET_EVENT.KIND.notIn(DSL.inline("note"), DSL.inline("linked"), DSL.inline("bounced")))
                .orderBy(TICKET_EVENT.TICKET, TICKET_EVENT.SEQ)
                .fetchLazy()) {
            for (Record r : cursor) {
                found.computeIfAbsent(r.get(TICKET_EVENT.TICKET), n -> new ArrayList<>())
                        .add(EventCodec.read(new EventCodec.Row(
                                r.get(TICKET_EVENT.AT), r.get(TICKET_EVENT.KIND), r.get(TICKET_EVENT.ACTOR), r.get(TICKET_EVENT.BODY))));
            }
        }
        return found;
    }
}

package rafter.app.work.shape;

import static rafter.database.Tables.TICKET;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;

/** Where states are used. */
@Component
class StateUses {

    /**
     * What a state is used by.
     *
     * @param views the titles of lists that ask about it
     * @param macros the names of macros that move tickets into it
     */
    public record Uses(long open, long ended, List<String> views, List<String> macros) {}

    private final DSLContext sql;
    private final Naming naming;

    StateUses(DSLContext sql, Naming naming) {
        this.naming = naming;
        this.sql = sql;
    }

    /** How many tickets are in each state, by its key: those that are open, and all. */
    Map<String, Integer> counts(boolean open, Viewer me) {
        var count = DSL.count();
        return sql
                .select(TICKET.STATE, count)
                .from(me.tickets())
                .where(open ? DSL.condition(TICKET.OPEN) : DSL.not(DSL.condition(TICKET.OPEN)))
                .groupBy(TICKET.STATE)
                .fetch()
                .stream()
                .collect(Collectors.toMap(r -> r.value1(), r -> r.value2()));
    }

    Uses of(String key, Viewer me) {
        return new Uses(
                counts(true, me).getOrDefault(key, 0),
                counts(false, me).getOrDefault(key, 0),
                naming.views(key),
                naming.macros(key));
    }

    /** The tickets that are in a state, as far as a batch takes them. */
    List<TicketNumber> tickets(String key, int most, Viewer me) {
        return sql.select(TICKET.NUMBER)
                .from(me.tickets())
                .where(DSL.condition(TICKET.OPEN))
                .and(TICKET.STATE.eq(key))
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(TICKET.NUMBER);
    }
}

package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.core.id.TicketNumber;

/** Asks at once for all that may be kept about a ticket. */
@Component
public class Traces {

    /** Which of what was asked for there is. */
    public record Found(Map<String, Boolean> there) {

        /** Whether there is something of a kind; also where nobody knows, for it leaves no trace. */
        public boolean may(String key) {
            return there.getOrDefault(key, true);
        }

        /** Whether there is something of a kind. */
        public boolean may(Trace trace) {
            return may(trace.key());
        }
    }

    private final DSLContext sql;
    private final List<Trace> all;

    Traces(DSLContext sql, List<Trace> others) {
        this.sql = sql;
        this.all = new ArrayList<>(others);
        this.all.addAll(List.of(OwnTrace.values()));
    }

    /** What there is about a ticket. */
    public Found of(TicketNumber number) {
        Field<TicketNumber> ticket = DSL.val(number, TICKET.NUMBER.getDataType());
        return sql.select(all.stream().map(trace -> trace.there(ticket)).toList())
                .fetchSingle(row -> {
                    var there = new HashMap<String, Boolean>();
                    for (int i = 0; i < all.size(); i++) {
                        there.put(all.get(i).key(), row.get(i, Boolean.class));
                    }
                    return new Found(there);
                });
    }
}

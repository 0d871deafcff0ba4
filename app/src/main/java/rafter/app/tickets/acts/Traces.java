package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Select;
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

    /**
     * The numbers of a ticket and of those that became parts of it, of which what hangs on them is looked for by its index. Asked for as “this one,
     * or one of those” instead, PostgreSQL reads all that hangs on any ticket.
     */
    public static Select<Record1<TicketNumber>> withParts(Field<TicketNumber> ticket) {
        return DSL.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.eq(ticket).or(TICKET.JOINED_INTO.eq(ticket)));
    }

    /** A number in a query. */
    public static Field<TicketNumber> number(TicketNumber ticket) {
        return DSL.val(ticket, TICKET.NUMBER.getDataType());
    }

    /** All kinds that there are. */
    List<Trace> all() {
        return all;
    }

    /** What there is about a ticket. */
    public Found of(TicketNumber number) {
        return sql.select(all.stream().map(trace -> trace.there(number(number))).toList())
                .fetchSingle(row -> {
                    var there = new HashMap<String, Boolean>();
                    for (int i = 0; i < all.size(); i++) {
                        there.put(all.get(i).key(), row.get(i, Boolean.class));
                    }
                    return new Found(there);
                });
    }
}

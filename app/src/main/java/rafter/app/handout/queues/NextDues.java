package rafter.app.handout.queues;

import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.core.id.TicketNumber;

/** When the next target of a ticket falls due; its callers have asked whether it is seen. */
@Component
class NextDues {

    private final DSLContext sql;

    NextDues(DSLContext sql) {
        this.sql = sql;
    }

    Optional<Instant> of(TicketNumber ticket) {
        return sql.select(TICKET.NEXT_DUE)
                .from(TICKET)
                .where(TICKET.NUMBER.eq(ticket))
                .fetchOptional(TICKET.NEXT_DUE);
    }
}

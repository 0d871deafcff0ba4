package rafter.app.tickets.acts;

import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.DRAFT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OUTSIDE_THREAD;
import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.STEP_FIRED;
import static rafter.database.Tables.TICKET;

import java.util.Locale;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import rafter.core.id.TicketNumber;

/** What tickets themselves may have. */
public enum OwnTrace implements Trace {
    /** Tickets that became parts of it. */
    JOINED(ticket -> any(TICKET, TICKET.JOINED_INTO.eq(ticket))),
    /** Tickets that are linked to it. */
    LINKED(ticket -> any(TICKET, TICKET.LINKED_TO.eq(ticket))),
    /** Tickets beneath it. */
    CHILDREN(ticket -> any(TICKET, TICKET.PARENT.eq(ticket))),
    /** Steps of its clocks that fired. */
    STEPS(ticket -> any(STEP_FIRED, STEP_FIRED.TICKET.eq(ticket))),
    /** Conversations outside. */
    OUTSIDE(ticket -> any(OUTSIDE_THREAD, OUTSIDE_THREAD.TICKET.eq(ticket))),
    /** Why its customer was not asked how they were helped. */
    NOT_ASKED(ticket -> any(RATING_REQUEST, RATING_REQUEST.TICKET.eq(ticket).and(RATING_REQUEST.ASKED_AT.isNull()))),
    /** What anybody is writing on it. */
    DRAFTS(ticket -> any(DRAFT, DRAFT.TICKET.eq(ticket))),
    /** Files of its messages. */
    FILES(ticket -> any(ATTACHMENT.join(MESSAGE).on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID)), MESSAGE.TICKET.eq(ticket)));

    private final Function<Field<TicketNumber>, Condition> there;

    OwnTrace(Function<Field<TicketNumber>, Condition> there) {
        this.there = there;
    }

    private static Condition any(Table<?> table, Condition of) {
        return DSL.exists(DSL.selectOne().from(table).where(of));
    }

    @Override
    public String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    @Override
    public Condition there(Field<TicketNumber> ticket) {
        return there.apply(ticket);
    }
}

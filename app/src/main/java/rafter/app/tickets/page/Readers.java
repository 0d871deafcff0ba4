package rafter.app.tickets.page;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TICKET_READER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.core.id.TicketNumber;
import rafter.database.tables.TicketReader;

/** Who has a ticket open. */
@Component
class Readers {

    /** A page says every minute that it is open; one that has not for so long is gone. */
    private static final Duration OPEN = Duration.ofSeconds(150);

    private static final TicketReader BEFORE = TICKET_READER.as("before");

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Readers(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** A person has a ticket open; others who have it open, too, see that at once. */
    public void reads(TicketNumber number, Viewer me) {
        Instant now = clock.instant();
        Instant open = now.minus(OPEN);
        // What this asks of the table while it writes there is how it was before.
        Field<Boolean> already = DSL.field(DSL.exists(DSL.selectOne()
                .from(BEFORE)
                .where(BEFORE.TICKET.eq(number))
                .and(BEFORE.PERSON_ID.eq(me.id()))
                .and(BEFORE.SEEN_AT.gt(open))));
        boolean since = sql.insertInto(TICKET_READER)
                .set(TICKET_READER.TICKET, number)
                .set(TICKET_READER.PERSON_ID, me.id())
                .set(TICKET_READER.SEEN_AT, now)
                .set(TICKET_READER.SINCE_AT, now)
                .onConflict(TICKET_READER.TICKET, TICKET_READER.PERSON_ID)
                .doUpdate()
                .set(TICKET_READER.SEEN_AT, now)
                .set(
                        TICKET_READER.SINCE_AT,
                        DSL.when(TICKET_READER.SEEN_AT.gt(open), TICKET_READER.SINCE_AT)
                                .otherwise(now))
                .returningResult(already)
                .fetchSingle()
                .value1();
        if (!since) {
            sql.deleteFrom(TICKET_READER)
                    .where(TICKET_READER.SEEN_AT.lt(now.minus(OPEN.multipliedBy(10))))
                    .execute();
            news.writing(number);
        }
    }

    /** The names of the others who have a ticket open. */
    List<String> others(TicketNumber number, Viewer me) {
        return sql.select(PERSON.NAME)
                .from(TICKET_READER)
                .join(PERSON)
                .on(PERSON.ID.eq(TICKET_READER.PERSON_ID))
                .where(TICKET_READER.TICKET.eq(number))
                .and(TICKET_READER.PERSON_ID.ne(me.id()))
                .and(TICKET_READER.SEEN_AT.gt(clock.instant().minus(OPEN)))
                .orderBy(PERSON.NAME)
                .fetch(PERSON.NAME);
    }
}

package rafter.app.tickets.page;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TICKET_READER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.core.id.TicketNumber;

/** Who has a ticket open. */
@Component
class Readers {

    /** A page says every minute that it is open; one that has not for so long is gone. */
    private static final Duration OPEN = Duration.ofSeconds(150);

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Readers(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** A person has a ticket open; others who have it open, too, see that at once. */
    @Transactional
    public void reads(TicketNumber number, Viewer me) {
        Instant now = clock.instant();
        boolean since = sql.fetchExists(
                TICKET_READER,
                TICKET_READER.TICKET.eq(number),
                TICKET_READER.PERSON_ID.eq(me.id()),
                TICKET_READER.SEEN_AT.gt(now.minus(OPEN)));
        sql.insertInto(TICKET_READER)
                .set(TICKET_READER.TICKET, number)
                .set(TICKET_READER.PERSON_ID, me.id())
                .set(TICKET_READER.SEEN_AT, now)
                .set(TICKET_READER.SINCE_AT, now)
                .onConflict(TICKET_READER.TICKET, TICKET_READER.PERSON_ID)
                .doUpdate()
                .set(TICKET_READER.SEEN_AT, now)
                .set(TICKET_READER.SINCE_AT, since ? TICKET_READER.SINCE_AT : DSL.val(now))
                .execute();
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

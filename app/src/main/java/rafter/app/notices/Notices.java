package rafter.app.notices;

import static rafter.database.Tables.NOTICE;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.LiveNews;

/** Keeps what people are told, until they have read it. */
@Component
public class Notices {

    /** Something a person is to be told. */
    public record Told(long person, long ticket, Instant at, String words) {}

    /** A notice as its list shows it. */
    public record Notice(long id, long ticket, String subject, Instant at, String words, boolean unread) {}

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Notices(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** Tells people something, if and when the transaction commits. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(Collection<Told> all) {
        if (all.isEmpty()) {
            return;
        }
        var insert = sql.insertInto(NOTICE, NOTICE.PERSON_ID, NOTICE.TICKET, NOTICE.AT, NOTICE.WORDS);
        for (Told one : all) {
            insert = insert.values(one.person(), one.ticket(), one.at(), one.words());
        }
        insert.execute();
        all.stream().map(Told::person).distinct().forEach(news::noticed);
    }

    /** How many a person has not read. */
    public int unread(long person) {
        return sql.fetchCount(NOTICE, NOTICE.PERSON_ID.eq(person).and(NOTICE.READ_AT.isNull()));
    }

    /** A person's notices before one of them, the newest first. */
    public List<Notice> of(long person, Optional<Long> before, int most) {
        return sql.select(NOTICE.ID, NOTICE.TICKET, TICKET.SUBJECT, NOTICE.AT, NOTICE.WORDS, NOTICE.READ_AT.isNull())
                .from(NOTICE)
                .join(TICKET).on(TICKET.NUMBER.eq(NOTICE.TICKET))
                .where(NOTICE.PERSON_ID.eq(person))
                .and(NOTICE.ID.lt(before.orElse(Long.MAX_VALUE)))
                .orderBy(NOTICE.ID.desc())
                .limit(most)
                .fetch(r -> new Notice(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
    }

    /** Notes that a person has read everything up to a notice. */
    @Transactional
    public void read(long person, long upTo) {
        sql.update(NOTICE)
                .set(NOTICE.READ_AT, clock.instant())
                .where(NOTICE.PERSON_ID.eq(person))
                .and(NOTICE.ID.le(upTo))
                .and(NOTICE.READ_AT.isNull())
                .execute();
        news.noticed(person);
    }
}

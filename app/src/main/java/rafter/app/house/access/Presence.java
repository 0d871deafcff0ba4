package rafter.app.house.access;

import static rafter.database.Tables.PRESENCE;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.ConcurrentHashMap;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.core.id.PersonId;

/** Notes who is here: whoever opened a page, or has one open, within the last minutes. */
@Component
public class Presence {

    private static final Duration AT_MOST_EVERY = Duration.ofMinutes(1);

    private final DSLContext sql;
    private final Clock clock;
    private final ConcurrentHashMap<PersonId, Instant> noted = new ConcurrentHashMap<>();

    Presence(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** A person was seen just now. */
    void seen(PersonId person) {
        Instant now = clock.instant();
        Instant last = noted.getOrDefault(person, Instant.MIN);
        if (!last.isBefore(now.minus(AT_MOST_EVERY)) && !last.isAfter(now)) {
            return;
        }
        noted.put(person, now);
        sql.insertInto(PRESENCE, PRESENCE.PERSON_ID, PRESENCE.SEEN_AT)
                .values(person, now)
                .onConflict(PRESENCE.PERSON_ID)
                .doUpdate()
                .set(PRESENCE.SEEN_AT, now)
                .execute();
    }
}

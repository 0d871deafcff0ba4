package rafter.app.platform;

import static rafter.database.Tables.AUDIT;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.core.id.PersonId;

/** The trail of administrative acts. */
@Component
public class Audit {

    private final DSLContext sql;
    private final Clock clock;

    Audit(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * Notes an act in the transaction that carries it out.
     *
     * @param act what was done, as a short verb phrase
     * @param detail to what; never a secret
     */
    public void note(PersonId person, String act, String detail) {
        notes(person, act, List.of(detail));
    }

    /** Notes the same act, done to each of several. */
    public void notes(PersonId person, String act, List<String> details) {
        Instant now = clock.instant();
        var insert = sql.insertInto(AUDIT, AUDIT.AT, AUDIT.PERSON_ID, AUDIT.ACT, AUDIT.DETAIL);
        for (String detail : details) {
            insert = insert.values(now, person, act, detail);
        }
        if (!details.isEmpty()) {
            insert.execute();
        }
    }
}

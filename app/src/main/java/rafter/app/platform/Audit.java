package rafter.app.platform;

import static rafter.database.Tables.AUDIT;

import java.time.Clock;
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
        sql.insertInto(AUDIT)
                .set(AUDIT.AT, clock.instant())
                .set(AUDIT.PERSON_ID, person)
                .set(AUDIT.ACT, act)
                .set(AUDIT.DETAIL, detail)
                .execute();
    }
}

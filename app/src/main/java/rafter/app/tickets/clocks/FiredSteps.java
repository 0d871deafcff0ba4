package rafter.app.tickets.clocks;

import static rafter.database.Tables.STEP_FIRED;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.platform.Say;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;

/** What steps of clocks have done. */
@Component
public class FiredSteps {

    /** A step that fired, and what it did. */
    public record Fired(Instant at, String words) {}

    private final DSLContext sql;

    FiredSteps(DSLContext sql) {
        this.sql = sql;
    }

    /** What fired on a ticket, oldest first. */
    public List<Fired> of(TicketNumber number) {
        return sql.selectFrom(STEP_FIRED)
                .where(STEP_FIRED.TICKET.eq(number))
                .orderBy(STEP_FIRED.FIRED_AT)
                .fetch(r -> new Fired(r.getFiredAt(), clock(r.getObjective()) + "Rafter " + r.getDone()));
    }

    /** Which clock it belonged to; of an objective that is not promised any more, nothing is said. */
    private static String clock(String objective) {
        return Arrays.stream(Objective.values())
                .filter(one -> one.name().equals(objective))
                .findFirst()
                .map(one -> Say.capital(one.words()) + ": ")
                .orElse("");
    }
}

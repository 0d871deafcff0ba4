package rafter.app.tickets.clocks;

import static rafter.database.Tables.TARGET_EDITION;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.BackgroundWork;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.TicketNumber;

/**
 * Recalculates the clocks of open tickets when an edition of the targets comes into force, by the numbers of the tickets, so that after
 * a crash it goes on where it was, and no ticket is left out or done twice.
 */
@Component
public class Recalculation implements BackgroundWork.InParts {

    private static final int PART = 100;

    private final DSLContext sql;
    private final TicketStore store;
    private final BackgroundWork work;
    private final Clock clock;

    Recalculation(DSLContext sql, TicketStore store, BackgroundWork work, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.work = work;
        this.clock = clock;
    }

    /** Recalculates all that is still to be recalculated for an edition. */
    public void run(long edition) {
        work.run(key(), edition);
    }

    @Override
    public String key() {
        return TargetDrafts.RECALCULATION;
    }

    @Override
    public int size() {
        return PART;
    }

    @Override
    public BackgroundWork.Part part(BackgroundWork.Work work, int most) {
        List<TicketNumber> numbers = left(work, most);
        Instant now = clock.instant();
        for (TicketNumber number : numbers) {
            store.reckonAnew(store.hold(number), Instant.MIN, now);
        }
        return new BackgroundWork.Part(
                numbers.size(),
                numbers.isEmpty() ? work.position() : numbers.getLast().value());
    }

    @Override
    public long failed(BackgroundWork.Work work, String reason) {
        return left(work, 1).stream().findFirst().map(TicketNumber::value).orElse(work.position());
    }

    private List<TicketNumber> left(BackgroundWork.Work work, int most) {
        boolean whole = sql.select(TARGET_EDITION.WHOLE)
                .from(TARGET_EDITION)
                .where(TARGET_EDITION.ID.eq(work.about()))
                .fetchSingle(TARGET_EDITION.WHOLE);
        Condition meant = whole ? DSL.trueCondition() : DSL.condition(TICKET.OPEN);
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.gt(new TicketNumber(work.position())))
                .and(meant)
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(TICKET.NUMBER);
    }
}

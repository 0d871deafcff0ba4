package rafter.app.tickets.clocks;

import static rafter.database.Tables.TARGET_EDITION;
import static rafter.database.Tables.TICKET;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.tickets.acts.TicketStore;

/**
 * Reckons open tickets anew when an edition of the targets comes into force. How far it got is written down with each part, so that
 * after a crash it goes on there, and no ticket is left out or done twice.
 */
@Component
public class ReckonAnew {

    static final TaskDescriptor<Void> TASK = TaskDescriptor.of("reckon-anew");
    private static final int PART = 100;

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final TransactionTemplate transaction;
    private final ObjectProvider<SchedulerClient> scheduler;
    private final Clock clock;

    ReckonAnew(
            DSLContext sql,
            Writes writes,
            TicketStore store,
            TransactionTemplate transaction,
            ObjectProvider<SchedulerClient> scheduler,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.transaction = transaction;
        this.scheduler = scheduler;
        this.clock = clock;
    }

    @EventListener
    void onInForce(TargetDrafts.InForce edition) {
        schedule(edition.edition());
    }

    /** What was left unfinished, such as by an upgrade. */
    @EventListener(ApplicationReadyEvent.class)
    void onReady() {
        sql.select(TARGET_EDITION.ID)
                .from(TARGET_EDITION)
                .where(TARGET_EDITION.FINISHED_AT.isNull())
                .forEach(r -> schedule(r.value1()));
    }

    private void schedule(long edition) {
        scheduler.ifAvailable(client ->
                client.scheduleIfNotExists(TASK.instance(Long.toString(edition)).scheduledTo(clock.instant())));
    }

    /** Reckons all that is still to be reckoned for an edition. */
    public void run(long edition) {
        while (Boolean.TRUE.equals(transaction.execute(status -> writes.gather(() -> part(edition))))) {
            // One more part.
        }
    }

    private boolean part(long edition) {
        var row = sql.selectFrom(TARGET_EDITION)
                .where(TARGET_EDITION.ID.eq(edition))
                .forUpdate()
                .fetchSingle();
        if (row.getFinishedAt() != null) {
            return false;
        }
        List<Long> numbers = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.gt(row.getLastTicket()))
                .and(row.getWhole() ? DSL.trueCondition() : DSL.condition(TICKET.OPEN))
                .orderBy(TICKET.NUMBER)
                .limit(PART)
                .fetch(TICKET.NUMBER);
        Instant now = clock.instant();
        for (long number : numbers) {
            store.reckonAnew(store.hold(number), Instant.MIN, now);
        }
        row.setReckoned(row.getReckoned() + numbers.size());
        row.setTotal(Math.max(row.getTotal(), row.getReckoned()));
        if (numbers.isEmpty()) {
            row.setFinishedAt(now);
            row.setTotal(row.getReckoned());
        } else {
            row.setLastTicket(numbers.getLast());
        }
        row.store();
        return !numbers.isEmpty();
    }

    /** The background task. */
    @Configuration(proxyBeanMethods = false)
    static class Job {
        @Bean
        OneTimeTask<Void> reckonAnewTask(ReckonAnew anew) {
            return Tasks.oneTime(TASK).execute((instance, context) -> anew.run(Long.parseLong(instance.getId())));
        }
    }
}

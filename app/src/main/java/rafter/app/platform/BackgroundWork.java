package rafter.app.platform;

import static rafter.database.Tables.BACKGROUND_WORK;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.core.id.PersonId;
import rafter.database.tables.records.BackgroundWorkRecord;

/**
 * Work that goes on beside everything else, also when whoever began it leaves the page, and after a crash: batches, rehearsals,
 * recalculation. It tells how far it is, can be cancelled, and keeps the reason when it or a part of it failed. A feature says what there
 * is to do as one of the {@link Kind}s.
 */
@Component
public class BackgroundWork {

    /**
     * A piece of work.
     *
     * @param about the id of what it is about, as its feature keeps it
     * @param done how much of the total is done, and {@code failed} how much could not be
     * @param position where it goes on, for work that walks along numbers
     * @param cancelled whether somebody asked for its end; it ends with the part that it is at
     * @param failure why it ended too early, as people read it; blank when it did not
     */
    public record Work(
            long about,
            long total,
            long done,
            long failed,
            long position,
            boolean cancelled,
            String failure,
            Instant startedAt,
            Optional<Instant> finishedAt) {

        /** Whether nothing more comes of it. */
        public boolean finished() {
            return finishedAt.isPresent();
        }

        /** How far it is, of a hundred. */
        public long percent() {
            return total == 0 ? 100 : Math.min(100, 100 * (done + failed) / total);
        }
    }

    /** One sort of work. */
    public sealed interface Kind permits InParts, AtOnce {
        /** Its name in the database, which stays. */
        String key();
    }

    /** Work that is done part by part, each in a transaction of its own; a part that fails is done again one by one. */
    public non-sealed interface InParts extends Kind {
        /** How much is done in one transaction. */
        int size();

        /**
         * Does some more of it.
         *
         * @param most how much at most
         */
        Part part(Work work, int most);

        /**
         * Notes why the first of what is left cannot be done, so that it is not tried again.
         *
         * @return the position behind it
         */
        long failed(Work work, String reason);
    }

    /**
     * What came of a part.
     *
     * @param done how much was done; nothing: there is no more to do
     * @param position where it goes on
     */
    public record Part(int done, long position) {}

    /** Work that is done as a whole, from the beginning again after a crash. */
    public non-sealed interface AtOnce extends Kind {
        /** Does it, and says now and then how much is done. */
        void whole(Work work, Progress progress);
    }

    /** Where work says how far it is. */
    public interface Progress {
        /**
         * So much is done.
         *
         * @throws Cancelled when somebody asked for the end of it
         */
        void done(long done);
    }

    /** Ends work that was cancelled. */
    public static final class Cancelled extends RuntimeException {
        private Cancelled() {
            super("cancelled");
        }
    }

    private static final Logger LOG = LoggerFactory.getLogger(BackgroundWork.class);
    private static final TaskDescriptor<Void> TASK = TaskDescriptor.of("background-work");

    private final DSLContext sql;
    private final Writes writes;
    private final TransactionTemplate transaction;
    private final ObjectProvider<Kind> kinds;
    private final ObjectProvider<SchedulerClient> scheduler;
    private final Clock clock;

    BackgroundWork(
            DSLContext sql,
            Writes writes,
            TransactionTemplate transaction,
            ObjectProvider<Kind> kinds,
            ObjectProvider<SchedulerClient> scheduler,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.transaction = transaction;
        this.kinds = kinds;
        this.scheduler = scheduler;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ asking for it

    /**
     * Begins work, once the caller's transaction is committed.
     *
     * @param kind a {@link Kind#key()}
     * @param about what it is about; there is one work of a kind about it
     * @param by who asked for it
     */
    @Transactional
    public void begin(String kind, long about, long total, Optional<PersonId> by) {
        long id = sql.insertInto(BACKGROUND_WORK)
                .set(BACKGROUND_WORK.KIND, kind)
                .set(BACKGROUND_WORK.ABOUT, about)
                .set(BACKGROUND_WORK.TOTAL, total)
                .set(
                        BACKGROUND_WORK.PERSON_ID,
                        by.filter(person -> !person.equals(Guard.ITSELF)).orElse(null))
                .set(BACKGROUND_WORK.STARTED_AT, clock.instant())
                .returning(BACKGROUND_WORK.ID)
                .fetchSingle(BACKGROUND_WORK.ID);
        schedule(id);
    }

    /** Asks for the end of work; what is done of it stays. Nothing happens when it has ended. */
    public void cancel(String kind, long about) {
        sql.update(BACKGROUND_WORK)
                .set(BACKGROUND_WORK.CANCELLED_AT, clock.instant())
                .where(is(kind, about))
                .and(BACKGROUND_WORK.FINISHED_AT.isNull())
                .and(BACKGROUND_WORK.CANCELLED_AT.isNull())
                .execute();
    }

    /** How work stands, if it was ever begun. */
    public Optional<Work> find(String kind, long about) {
        return sql.selectFrom(BACKGROUND_WORK).where(is(kind, about)).fetchOptional(BackgroundWork::work);
    }

    private static Condition is(String kind, long about) {
        return BACKGROUND_WORK.KIND.eq(kind).and(BACKGROUND_WORK.ABOUT.eq(about));
    }

    private static Work work(BackgroundWorkRecord r) {
        return new Work(
                r.getAbout(),
                r.getTotal(),
                r.getDone(),
                r.getFailed(),
                r.getPosition(),
                r.getCancelledAt() != null,
                r.getFailure(),
                r.getStartedAt(),
                Optional.ofNullable(r.getFinishedAt()));
    }

    private void schedule(long id) {
        scheduler.ifAvailable(client ->
                client.scheduleIfNotExists(TASK.instance(Long.toString(id)).scheduledTo(clock.instant())));
    }

    /** What was left unfinished when the application ended, or by an upgrade. */
    @EventListener(ApplicationReadyEvent.class)
    void onReady() {
        sql.select(BACKGROUND_WORK.ID)
                .from(BACKGROUND_WORK)
                .where(BACKGROUND_WORK.FINISHED_AT.isNull())
                .orderBy(BACKGROUND_WORK.ID)
                .forEach(r -> schedule(r.value1()));
    }

    // ------------------------------------------------------------------ doing it

    /** Does all that is left of a work; a second time nothing. */
    public void run(String kind, long about) {
        sql.select(BACKGROUND_WORK.ID)
                .from(BACKGROUND_WORK)
                .where(is(kind, about))
                .fetchOptional(BACKGROUND_WORK.ID)
                .ifPresent(this::runById);
    }

    /** Not private, for the scheduler calls it through the proxy that transactions are made by. */
    void runById(long id) {
        BackgroundWorkRecord row =
                sql.selectFrom(BACKGROUND_WORK).where(BACKGROUND_WORK.ID.eq(id)).fetchSingle();
        if (row.getFinishedAt() != null) {
            return;
        }
        Kind kind = kinds.stream()
                .filter(one -> one.key().equals(row.getKind()))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("nothing does work of the kind " + row.getKind()));
        switch (kind) {
            case InParts parts -> {
                while (part(id, parts)) {
                    // One more part.
                }
            }
            case AtOnce whole -> whole(id, whole, work(row));
        }
    }

    private boolean part(long id, InParts kind) {
        try {
            return Boolean.TRUE.equals(
                    transaction.execute(status -> writes.gather(() -> doPart(id, kind, kind.size()))));
        } catch (DataAccessResourceFailureException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException oneOfThem) {
            LOG.info("A part of {} {} is done one by one: {}", kind.key(), id, oneOfThem.toString());
            // Whatever it was: each alone, so that one that cannot be done does not keep the others from it.
            boolean more = true;
            for (int i = 0; i < kind.size() && more; i++) {
                more = one(id, kind);
            }
            return more;
        }
    }

    private boolean one(long id, InParts kind) {
        try {
            return Boolean.TRUE.equals(transaction.execute(status -> writes.gather(() -> doPart(id, kind, 1))));
        } catch (Problem e) {
            failed(id, kind, e.words());
        } catch (DataAccessResourceFailureException | TransientDataAccessException databaseIsBusy) {
            throw databaseIsBusy;
        } catch (RuntimeException e) {
            LOG.warn("Work {} of the kind {} could not do a part", id, kind.key(), e);
            failed(id, kind, "It could not be done: " + e.getClass().getSimpleName() + ".");
        }
        return true;
    }

    private boolean doPart(long id, InParts kind, int most) {
        BackgroundWorkRecord row = held(id);
        if (row.getFinishedAt() != null) {
            return false;
        }
        Part part = row.getCancelledAt() != null ? new Part(0, row.getPosition()) : kind.part(work(row), most);
        row.setDone(row.getDone() + part.done());
        row.setPosition(part.position());
        if (part.done() == 0) {
            row.setFinishedAt(clock.instant());
        }
        // What there was to do may have become more or less meanwhile.
        long known = row.getDone() + row.getFailed();
        boolean all = row.getFinishedAt() != null && row.getCancelledAt() == null;
        row.setTotal(all ? known : Math.max(row.getTotal(), known));
        row.store();
        return part.done() > 0;
    }

    /** The first that is left is the one that failed: what was begun was rolled back. */
    private void failed(long id, InParts kind, String reason) {
        transaction.executeWithoutResult(status -> {
            BackgroundWorkRecord row = held(id);
            row.setPosition(kind.failed(work(row), reason));
            row.setFailed(row.getFailed() + 1);
            row.store();
        });
    }

    private BackgroundWorkRecord held(long id) {
        return sql.selectFrom(BACKGROUND_WORK)
                .where(BACKGROUND_WORK.ID.eq(id))
                .forUpdate()
                .fetchSingle();
    }

    private void whole(long id, AtOnce kind, Work work) {
        try {
            if (!work.cancelled()) {
                kind.whole(work, done -> report(id, done));
            }
            ended(id, "");
        } catch (Cancelled cancelled) {
            ended(id, "");
        } catch (DataAccessResourceFailureException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException e) {
            LOG.warn("Work {} of the kind {} failed", id, kind.key(), e);
            ended(id, "It could not be finished: " + e.getMessage());
        }
    }

    private void report(long id, long done) {
        boolean cancelled = sql.update(BACKGROUND_WORK)
                        .set(BACKGROUND_WORK.DONE, done)
                        .where(BACKGROUND_WORK.ID.eq(id))
                        .and(BACKGROUND_WORK.CANCELLED_AT.isNull())
                        .execute()
                == 0;
        if (cancelled) {
            throw new Cancelled();
        }
    }

    private void ended(long id, String failure) {
        sql.update(BACKGROUND_WORK)
                .set(BACKGROUND_WORK.FINISHED_AT, clock.instant())
                .set(BACKGROUND_WORK.FAILURE, failure)
                .where(BACKGROUND_WORK.ID.eq(id))
                .execute();
    }

    /** The task that does it. */
    @Configuration(proxyBeanMethods = false)
    static class Job {
        @Bean
        OneTimeTask<Void> backgroundWorkTask(BackgroundWork work) {
            return Tasks.oneTime(TASK).execute((instance, context) -> work.runById(Long.parseLong(instance.getId())));
        }
    }
}

package rafter.app.promises.targets;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TARGET_DRAFT;
import static rafter.database.Tables.TARGET_EDITION;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.target.BookJson;
import rafter.core.target.PromiseBook;

/** The book as administrators are changing it, and its coming into force. */
@Component
public class TargetDrafts {

    /**
     * The book being changed.
     *
     * @param changed whether it differs from the edition in force
     * @param version rises with every change
     */
    public record Draft(
            PromiseBook book,
            PromiseBook inForce,
            boolean changed,
            int version,
            Optional<Instant> changedAt,
            String changedBy) {}

    /**
     * An edition, and how far the clocks of its open tickets are recalculated.
     *
     * @param work nothing for the first one, which found no tickets
     */
    public record Progress(long edition, Instant from, String by, Optional<BackgroundWork.Work> work) {}

    /** The kind of work that recalculates the tickets of an edition. */
    public static final String RECALCULATION = "recalculation";

    private final DSLContext sql;
    private final Targets targets;
    private final Audit audit;
    private final Clock clock;
    private final BackgroundWork work;
    private final Guard guard;

    TargetDrafts(DSLContext sql, Targets targets, Audit audit, Clock clock, BackgroundWork work, Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.targets = targets;
        this.audit = audit;
        this.clock = clock;
        this.work = work;
    }

    /** The book as it is being changed. */
    public Draft current() {
        return sql.select(TARGET_DRAFT.asterisk(), TARGET_EDITION.DOCUMENT.as("in_force"), PERSON.NAME)
                .from(TARGET_DRAFT)
                .join(TARGET_EDITION)
                .on(TARGET_EDITION.ID.eq(TARGET_DRAFT.EDITION_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(TARGET_DRAFT.CHANGED_BY))
                .fetchSingle(r -> {
                    PromiseBook book =
                            BookJson.read(r.get(TARGET_DRAFT.DOCUMENT).data());
                    PromiseBook inForce =
                            BookJson.read(r.get("in_force", JSONB.class).data());
                    return new Draft(
                            book,
                            inForce,
                            !book.equals(inForce),
                            r.get(TARGET_DRAFT.VERSION),
                            Optional.ofNullable(r.get(TARGET_DRAFT.CHANGED_AT)),
                            Optional.ofNullable(r.get(PERSON.NAME)).orElse(""));
                });
    }

    /**
     * Changes the book; nothing of it is in force by that.
     *
     * @throws Problem.Stale when somebody changed it since {@code version}
     */
    @Transactional
    public void save(PromiseBook book, int version, PersonId by, String what) {
        guard.houseRules(by);
        int changed = sql.update(TARGET_DRAFT)
                .set(TARGET_DRAFT.DOCUMENT, JSONB.valueOf(BookJson.write(book)))
                .set(TARGET_DRAFT.VERSION, TARGET_DRAFT.VERSION.plus(1))
                .set(TARGET_DRAFT.CHANGED_AT, clock.instant())
                .set(TARGET_DRAFT.CHANGED_BY, by)
                .setNull(TARGET_DRAFT.DISCARDED)
                .where(TARGET_DRAFT.VERSION.eq(version))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody else changed hours or targets while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        audit.note(by, what, "not in force yet");
    }

    /** Throws the changes away; they can be brought back until something else is changed. */
    @Transactional
    public void discard(int version, PersonId by) {
        guard.houseRules(by);
        PromiseBook thrown = current().book();
        save(current().inForce(), version, by, "discarded changes of hours and targets");
        sql.update(TARGET_DRAFT)
                .set(TARGET_DRAFT.DISCARDED, JSONB.valueOf(BookJson.write(thrown)))
                .execute();
    }

    /** Whether there are discarded changes that can be brought back. */
    public boolean canBringBack() {
        return sql.fetchExists(TARGET_DRAFT, TARGET_DRAFT.DISCARDED.isNotNull());
    }

    /**
     * Brings the discarded changes back.
     *
     * @throws Problem.Invalid when there are none
     */
    @Transactional
    public void bringBack(int version, PersonId by) {
        guard.houseRules(by);
        JSONB thrown = sql.select(TARGET_DRAFT.DISCARDED)
                .from(TARGET_DRAFT)
                .fetchOptional(TARGET_DRAFT.DISCARDED)
                .orElseThrow(() -> new Problem.Invalid("There are no discarded changes to bring back."));
        save(BookJson.read(thrown.data()), version, by, "brought back discarded changes of hours and targets");
    }

    /**
     * Puts the book into force from now on. Open tickets are recalculated in the background.
     *
     * @return the edition
     * @throws Problem.Invalid when the book has faults, or nothing in it is new
     * @throws Problem.Stale when somebody changed it since {@code version}
     */
    @Transactional
    public long putIntoForce(int version, PersonId by) {
        guard.houseRules(by);
        Draft draft = current();
        if (draft.version() != version) {
            throw new Problem.Stale(
                    "Somebody else changed hours or targets meanwhile. Look at their changes, then put all into force.");
        }
        if (!draft.changed()) {
            throw new Problem.Invalid("Nothing was changed since the last version.");
        }
        List<String> faults = draft.book().faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid("It cannot come into force yet. " + String.join(" ", faults));
        }
        long edition = sql.insertInto(TARGET_EDITION)
                .set(TARGET_EDITION.FROM_AT, clock.instant())
                .set(TARGET_EDITION.DOCUMENT, JSONB.valueOf(BookJson.write(draft.book())))
                .set(TARGET_EDITION.PERSON_ID, by)
                .returning(TARGET_EDITION.ID)
                .fetchSingle(TARGET_EDITION.ID);
        sql.update(TARGET_DRAFT)
                .set(TARGET_DRAFT.EDITION_ID, edition)
                .set(TARGET_DRAFT.VERSION, TARGET_DRAFT.VERSION.plus(1))
                .execute();
        audit.note(by, "put hours and targets into force", "version " + edition);
        targets.forget();
        work.begin(RECALCULATION, edition, sql.fetchCount(TICKET, DSL.condition(TICKET.OPEN)), Optional.of(by));
        return edition;
    }

    /** The last editions, the newest first. */
    public List<Progress> editions(int most) {
        return sql.select(TARGET_EDITION.ID, TARGET_EDITION.FROM_AT, PERSON.NAME)
                .from(TARGET_EDITION)
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(TARGET_EDITION.PERSON_ID))
                .orderBy(TARGET_EDITION.ID.desc())
                .limit(most)
                .fetch(r -> new Progress(
                        r.value1(),
                        r.value2(),
                        Optional.ofNullable(r.value3()).orElse(""),
                        work.find(RECALCULATION, r.value1())));
    }
}

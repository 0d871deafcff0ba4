package rafter.app.arrival.sorting;

import static rafter.database.Tables.ARRIVAL_EDITION;
import static rafter.database.Tables.PERSON;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.arrival.ArrivalBook;
import rafter.core.arrival.ArrivalBookJson;
import rafter.core.arrival.ArrivalRule;
import rafter.core.criteria.KnownField;
import rafter.core.id.PersonId;

/** The rules of arriving mail in force, and as they were. */
@Component
public class ArrivalBooks {

    /**
     * What is in force.
     *
     * @param version by which a change says what it was made from
     * @param asked what its rules ask of a mail and its sender
     */
    public record InForce(long version, ArrivalBook book, Set<KnownField> asked) {

        static InForce of(long version, ArrivalBook book) {
            var asked = EnumSet.noneOf(KnownField.class);
            book.rules().stream()
                    .filter(ArrivalRule::on)
                    .forEach(rule -> asked.addAll(KnownField.askedBy(rule.criteria())));
            if (book.junk()) {
                asked.add(KnownField.JUNK_SCORE);
            }
            return new InForce(version, book, asked);
        }

        /** Whether anything is looked at before a mail opens a ticket. */
        boolean any() {
            return !asked.isEmpty();
        }
    }

    /** A version; {@code by} is blank for the first. */
    public record Edition(long id, Instant from, String what, String by) {}

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;
    private final BrieflyCached<InForce> current = new BrieflyCached<>(Duration.ofSeconds(1), this::newest);

    ArrivalBooks(DSLContext sql, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    /** What is in force; a change of another node's is seen within a second. */
    public InForce current() {
        return current.get();
    }

    /** What is in force, looked up now. */
    public InForce newest() {
        return sql.select(ARRIVAL_EDITION.ID, ARRIVAL_EDITION.DOCUMENT)
                .from(ARRIVAL_EDITION)
                .orderBy(ARRIVAL_EDITION.ID.desc())
                .limit(1)
                .fetchSingle(r ->
                        InForce.of(r.value1(), ArrivalBookJson.read(r.value2().data())));
    }

    /** The last versions, the newest first. */
    List<Edition> editions(int most) {
        return sql.select(ARRIVAL_EDITION.ID, ARRIVAL_EDITION.FROM_AT, ARRIVAL_EDITION.WHAT, PERSON.NAME)
                .from(ARRIVAL_EDITION)
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(ARRIVAL_EDITION.PERSON_ID))
                .orderBy(ARRIVAL_EDITION.ID.desc())
                .limit(most)
                .fetch(r -> new Edition(
                        r.value1(),
                        r.value2(),
                        r.value3(),
                        Optional.ofNullable(r.value4()).orElse("")));
    }

    /**
     * Puts a changed book into force.
     *
     * @param version what it was made from
     * @param what what was changed, in words
     * @throws Problem.Stale when somebody changed it since
     * @throws Problem.Invalid when something is wrong with it
     */
    @Transactional
    public void save(ArrivalBook book, long version, PersonId by, String what) {
        guard.houseRules(by);
        List<String> faults = book.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        sql.execute("select pg_advisory_xact_lock(7411)");
        if (newest().version() != version) {
            throw new Problem.Stale(
                    "Somebody else changed the rules of arriving mail while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        sql.insertInto(ARRIVAL_EDITION)
                .set(ARRIVAL_EDITION.FROM_AT, clock.instant())
                .set(ARRIVAL_EDITION.DOCUMENT, JSONB.valueOf(ArrivalBookJson.write(book)))
                .set(ARRIVAL_EDITION.WHAT, what)
                .set(ARRIVAL_EDITION.PERSON_ID, by)
                .execute();
        audit.note(by, "changed what becomes of arriving mail", what);
        current.forget();
    }

    /** Puts an earlier version into force again. */
    @Transactional
    public void restore(long edition, PersonId by) {
        ArrivalBook book = sql.select(ARRIVAL_EDITION.DOCUMENT)
                .from(ARRIVAL_EDITION)
                .where(ARRIVAL_EDITION.ID.eq(edition))
                .fetchOptional(r -> ArrivalBookJson.read(r.value1().data()))
                .orElseThrow(() -> new Problem.NotFound("There is no such version."));
        save(book, newest().version(), by, "went back to an earlier version");
    }
}

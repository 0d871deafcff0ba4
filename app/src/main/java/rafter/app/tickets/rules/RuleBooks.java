package rafter.app.tickets.rules;

import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.RULE_DRAFT;
import static rafter.database.Tables.RULE_EDITION;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Audit;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Causes;
import rafter.app.tickets.wording.TemplateUse;
import rafter.core.criteria.KnownField;
import rafter.core.id.PersonId;
import rafter.core.notice.NoticeChoice;
import rafter.core.rule.PhraseScan;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleBookJson;

/** The book of rules in force, as it is being changed, and as it was. */
@Component
class RuleBooks implements Causes.Reader, TemplateUse {

    /**
     * The book in force, ready for reading.
     *
     * @param asked the facts that any rule asks about
     */
    public record InForce(long edition, RuleBook book, PhraseScan scan, Set<KnownField> asked) {

        static InForce of(long edition, RuleBook book) {
            List<Rule> read = book.rules().stream().filter(Rule::on).toList();
            var asked = EnumSet.noneOf(KnownField.class);
            read.forEach(rule -> asked.addAll(KnownField.askedBy(rule.criteria())));
            return new InForce(
                    edition,
                    book,
                    PhraseScan.of(read.stream().map(Rule::criteria).toList()),
                    asked);
        }

        boolean any() {
            return book.rules().stream().anyMatch(Rule::on);
        }
    }

    /**
     * The book being changed.
     *
     * @param version rises with every change
     */
    public record Draft(
            RuleBook book,
            RuleBook inForce,
            boolean changed,
            int version,
            Optional<Instant> changedAt,
            String changedBy,
            boolean canBringBack) {}

    /** A version that came into force; {@code by} is blank for the first. */
    public record Edition(long id, Instant from, String by) {}

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final BackgroundWork work;
    private final Clock clock;
    private volatile @Nullable InForce compiled;
    private final BrieflyCached<InForce> current = new BrieflyCached<>(Duration.ofSeconds(1), this::newest);
    /** Versions never change, and those of a day's explanations are few. */
    private final Map<Long, InForce> earlier = new ConcurrentHashMap<>();

    private static final int MOST_EARLIER = 50;

    RuleBooks(DSLContext sql, Audit audit, Guard guard, BackgroundWork work, Clock clock) {
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
        this.work = work;
        this.clock = clock;
    }

    /** The book in force; a change of another node's is seen within a second. */
    InForce current() {
        return current.get();
    }

    @Override
    public boolean reads() {
        return current().any();
    }

    @Override
    public boolean uses(long template) {
        String id = Long.toString(template);
        Draft draft = draft();
        return Stream.of(draft.book(), draft.inForce())
                .flatMap(book -> book.rules().stream())
                .flatMap(rule -> rule.deeds().stream())
                .anyMatch(deed -> deed.typed("template").equals(id));
    }

    /** The book in force, looked up now. */
    InForce newest() {
        long latest = sql.select(DSL.max(RULE_EDITION.ID)).from(RULE_EDITION).fetchSingle(r -> r.value1());
        InForce known = compiled;
        if (known == null || known.edition() != latest) {
            known = read(latest);
            compiled = known;
        }
        return known;
    }

    private InForce read(long edition) {
        return sql.select(RULE_EDITION.DOCUMENT)
                .from(RULE_EDITION)
                .where(RULE_EDITION.ID.eq(edition))
                .fetchOptional(
                        r -> InForce.of(edition, RuleBookJson.read(r.value1().data())))
                .orElseThrow(() -> new Problem.NotFound("There is no such version of the rules."));
    }

    /** A version that was in force. */
    InForce edition(long edition) {
        if (earlier.size() > MOST_EARLIER) {
            earlier.clear();
        }
        return earlier.computeIfAbsent(edition, this::read);
    }

    /** The last versions, the newest first. */
    List<Edition> editions(int most) {
        return sql.select(RULE_EDITION.ID, RULE_EDITION.FROM_AT, PERSON.NAME)
                .from(RULE_EDITION)
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(RULE_EDITION.PERSON_ID))
                .orderBy(RULE_EDITION.ID.desc())
                .limit(most)
                .fetch(r -> new Edition(
                        r.value1(), r.value2(), Optional.ofNullable(r.value3()).orElse("")));
    }

    /** The book as it is being changed. */
    Draft draft() {
        return sql.select(RULE_DRAFT.asterisk(), RULE_EDITION.DOCUMENT.as("in_force"), PERSON.NAME)
                .from(RULE_DRAFT)
                .join(RULE_EDITION)
                .on(RULE_EDITION.ID.eq(RULE_DRAFT.EDITION_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(RULE_DRAFT.CHANGED_BY))
                .fetchSingle(r -> {
                    RuleBook book = RuleBookJson.read(r.get(RULE_DRAFT.DOCUMENT).data());
                    RuleBook inForce =
                            RuleBookJson.read(r.get("in_force", JSONB.class).data());
                    return new Draft(
                            book,
                            inForce,
                            !book.asWritten().equals(inForce.asWritten()),
                            r.get(RULE_DRAFT.VERSION),
                            Optional.ofNullable(r.get(RULE_DRAFT.CHANGED_AT)),
                            Optional.ofNullable(r.get(PERSON.NAME)).orElse(""),
                            r.get(RULE_DRAFT.DISCARDED) != null);
                });
    }

    /**
     * Changes the book; nothing of it is in force by that.
     *
     * @param what what was changed, for the audit trail
     * @throws Problem.Stale when somebody changed it since {@code version}
     */
    @Transactional
    void save(RuleBook book, int version, PersonId by, String what) {
        guard.houseRules(by);
        int changed = sql.update(RULE_DRAFT)
                .set(RULE_DRAFT.DOCUMENT, JSONB.valueOf(RuleBookJson.write(book)))
                .set(RULE_DRAFT.VERSION, RULE_DRAFT.VERSION.plus(1))
                .set(RULE_DRAFT.CHANGED_AT, clock.instant())
                .set(RULE_DRAFT.CHANGED_BY, by)
                .setNull(RULE_DRAFT.DISCARDED)
                .where(RULE_DRAFT.VERSION.eq(version))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody else changed the rules while you were editing. Nothing of yours was saved; it is still in the form.");
        }
        audit.note(by, what, "not in force yet");
    }

    /** Throws the changes away; they can be brought back until something else is changed. */
    @Transactional
    void discard(int version, PersonId by) {
        Draft draft = draft();
        save(draft.inForce(), version, by, "discarded changes of rules");
        sql.update(RULE_DRAFT)
                .set(RULE_DRAFT.DISCARDED, JSONB.valueOf(RuleBookJson.write(draft.book())))
                .execute();
    }

    /**
     * Brings the discarded changes back.
     *
     * @throws Problem.Invalid when there are none
     */
    @Transactional
    void bringBack(int version, PersonId by) {
        guard.houseRules(by);
        JSONB thrown = sql.select(RULE_DRAFT.DISCARDED)
                .from(RULE_DRAFT)
                .fetchOptional(RULE_DRAFT.DISCARDED)
                .orElseThrow(() -> new Problem.Invalid("There are no discarded changes to bring back."));
        save(RuleBookJson.read(thrown.data()), version, by, "brought back discarded changes of rules");
    }

    /**
     * Puts the book into force from now on; the timers of open tickets are set anew in the background.
     *
     * @param faults what of it cannot be done in this workspace
     * @throws Problem.Invalid when the book has faults, or nothing in it is new
     * @throws Problem.Stale when somebody changed it since {@code version}
     */
    @Transactional
    long putIntoForce(int version, List<String> faults, PersonId by) {
        guard.houseRules(by);
        Draft draft = draft();
        if (draft.version() != version) {
            throw new Problem.Stale(
                    "Somebody else changed the rules meanwhile. Look at their changes, then put all into force.");
        }
        if (!draft.changed()) {
            throw new Problem.Invalid("Nothing was changed since the last version.");
        }
        if (!faults.isEmpty()) {
            throw new Problem.Invalid("It cannot come into force yet. " + String.join(" ", faults));
        }
        RuleBook book = draft.book().comingIntoForce(draft.inForce(), clock.instant());
        long edition = newEdition(book, book, by);
        audit.note(by, "put rules into force", "version " + edition);
        return edition;
    }

    /**
     * Puts the choice who is told of something into force at once; other changes go on waiting.
     *
     * @param seen the version that it was chosen from
     * @throws Problem.Stale when another one came into force since
     */
    @Transactional
    public void choose(NoticeChoice choice, long seen, PersonId by) {
        guard.houseRules(by);
        sql.execute("select pg_advisory_xact_lock(7413)");
        if (newest().edition() != seen) {
            throw new Problem.Stale(
                    "Somebody else put rules into force meanwhile. Nothing of yours was saved; choose again.");
        }
        Draft draft = draft();
        RuleBook inForce = choice.in(draft.inForce()).comingIntoForce(draft.inForce(), clock.instant());
        newEdition(inForce, draft.changed() ? choice.in(draft.book()) : inForce, by);
        audit.note(
                by,
                "changed a notice",
                choice.event().words() + ", " + choice.audience().words());
    }

    private long newEdition(RuleBook inForce, RuleBook goesOn, PersonId by) {
        long edition = sql.insertInto(RULE_EDITION)
                .set(RULE_EDITION.FROM_AT, clock.instant())
                .set(RULE_EDITION.DOCUMENT, JSONB.valueOf(RuleBookJson.write(inForce)))
                .set(RULE_EDITION.PERSON_ID, by)
                .returning(RULE_EDITION.ID)
                .fetchSingle(RULE_EDITION.ID);
        sql.update(RULE_DRAFT)
                .set(RULE_DRAFT.EDITION_ID, edition)
                .set(RULE_DRAFT.DOCUMENT, JSONB.valueOf(RuleBookJson.write(goesOn)))
                .set(RULE_DRAFT.VERSION, RULE_DRAFT.VERSION.plus(1))
                .setNull(RULE_DRAFT.DISCARDED)
                .execute();
        current.forget();
        work.begin(RuleTimers.KIND, edition, sql.fetchCount(TICKET, DSL.condition(TICKET.OPEN)), Optional.of(by));
        return edition;
    }
}

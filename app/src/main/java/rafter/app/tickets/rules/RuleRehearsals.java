package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_REHEARSAL;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.SideBySide;
import rafter.app.promises.policies.Histories;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Field;
import rafter.core.id.PersonId;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleBookJson;
import rafter.core.rule.RuleChecks;
import rafter.core.rule.RuleRehearsal;
import rafter.core.rule.RuleTrial;
import tools.jackson.databind.json.JsonMapper;

/** Reads a changed book, or one rule of it, for recorded tickets, in the background; nothing is changed or sent. */
@Component
class RuleRehearsals implements BackgroundWork.AtOnce {

    private static final String KIND = "rule-rehearsal";
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int PARTS = 2;
    private static final Duration USUAL = Duration.ofDays(90);

    /**
     * What came of a rehearsal, as it is kept.
     *
     * @param otherForms by field and phrase, the form that stands in tickets where the phrase itself does not
     */
    public record Kept(RuleRehearsal.Result result, Map<String, String> otherForms) {}

    /** A rehearsal, and how far it got; {@code rule} is blank for the whole book. */
    public record Run(
            long id,
            String rule,
            Instant from,
            Instant to,
            int version,
            RuleBook book,
            BackgroundWork.Work work,
            Optional<Kept> kept) {}

    private final DSLContext sql;
    private final RuleBooks books;
    private final RuleWalks walks;
    private final OtherForms forms;
    private final Targets targets;
    private final Histories histories;
    private final BackgroundWork work;
    private final Guard guard;
    private final Clock clock;

    RuleRehearsals(
            DSLContext sql,
            RuleBooks books,
            RuleWalks walks,
            OtherForms forms,
            Targets targets,
            Histories histories,
            BackgroundWork work,
            Guard guard,
            Clock clock) {
        this.sql = sql;
        this.books = books;
        this.walks = walks;
        this.forms = forms;
        this.targets = targets;
        this.histories = histories;
        this.work = work;
        this.guard = guard;
        this.clock = clock;
    }

    /**
     * Starts a rehearsal of the book as it is being changed, against the 90 days to now.
     *
     * @param rule the rule alone; blank: the whole book
     */
    @Transactional
    public long start(String rule, PersonId by) {
        guard.houseRules(by);
        RuleBooks.Draft draft = books.draft();
        if (!rule.isBlank() && draft.book().rule(rule).isEmpty()) {
            throw new Problem.Invalid("There is no such rule any more.");
        }
        Instant to = clock.instant();
        Instant from = to.minus(USUAL);
        long id = sql.insertInto(RULE_REHEARSAL)
                .set(RULE_REHEARSAL.PERSON_ID, by)
                .set(RULE_REHEARSAL.STARTED_AT, to)
                .set(RULE_REHEARSAL.FROM_AT, from)
                .set(RULE_REHEARSAL.TO_AT, to)
                .set(RULE_REHEARSAL.RULE_ID, rule)
                .set(RULE_REHEARSAL.DRAFT_VERSION, draft.version())
                .set(RULE_REHEARSAL.DOCUMENT, JSONB.valueOf(RuleBookJson.write(draft.book())))
                .returning(RULE_REHEARSAL.ID)
                .fetchSingle(RULE_REHEARSAL.ID);
        work.begin(KIND, id, histories.count(from, to), Optional.of(by));
        return id;
    }

    /** A rehearsal. */
    Run find(long id) {
        return sql.selectFrom(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.ID.eq(id))
                .fetchOptional(r -> new Run(
                        r.getId(),
                        r.getRuleId(),
                        r.getFromAt(),
                        r.getToAt(),
                        r.getDraftVersion(),
                        RuleBookJson.read(r.getDocument().data()),
                        work.find(KIND, id).orElseThrow(),
                        Optional.ofNullable(r.getResult()).map(json -> JSON.readValue(json.data(), Kept.class))))
                .orElseThrow(() -> new Problem.NotFound("There is no such rehearsal."));
    }

    /** The latest rehearsal of the book as it is now, if there is one. */
    Optional<Long> latest(int version) {
        return sql.select(RULE_REHEARSAL.ID)
                .from(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.DRAFT_VERSION.eq(version))
                .orderBy(RULE_REHEARSAL.ID.desc())
                .limit(1)
                .fetchOptional(RULE_REHEARSAL.ID);
    }

    /** Runs a rehearsal from its beginning; a second time changes nothing once it has finished. */
    void run(long id) {
        work.run(KIND, id);
    }

    /** Ends a rehearsal without a result. */
    void cancel(long id, PersonId by) {
        guard.houseRules(by);
        work.cancel(KIND, id);
    }

    @Override
    public String key() {
        return KIND;
    }

    // ------------------------------------------------------------------ what is wrong with a book

    /** The last rehearsal of a whole book that came to an end. */
    private Optional<Run> lastWhole() {
        return sql.select(RULE_REHEARSAL.ID)
                .from(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.RULE_ID.eq(""))
                .and(RULE_REHEARSAL.RESULT.isNotNull())
                .orderBy(RULE_REHEARSAL.ID.desc())
                .limit(1)
                .fetchOptional(RULE_REHEARSAL.ID)
                .map(this::find);
    }

    /** When the book was last read for recorded tickets, in words; blank when it never was. */
    String lastWords() {
        return lastWhole()
                .map(run -> "Looked for in "
                        + Say.number(run.kept().orElseThrow().result().tickets())
                        + " tickets of the 90 days to "
                        + Say.when(run.to(), clock.instant(), targets.zone()) + ".")
                .orElse("");
    }

    /** What is wrong with the rules of a book among each other, by logic, and as far as history was looked at, by that. */
    List<RuleChecks.Finding> findings(RuleBook book) {
        Optional<Run> last = lastWhole();
        return RuleChecks.of(
                book, last.<RuleChecks.History>map(run -> new Told(run, book)).orElse(Told.NOTHING));
    }

    /** What a rehearsal tells of a book; of one that was changed since, only what does not depend on its order. */
    private record Told(long tickets, boolean same, Optional<Kept> kept) implements RuleChecks.History {

        static final Told NOTHING = new Told(0, false, Optional.empty());

        Told(Run run, RuleBook book) {
            this(
                    run.kept().map(kept -> kept.result().tickets()).orElse(0L),
                    run.book().asWritten().equals(book.asWritten()),
                    run.kept());
        }

        @Override
        public Optional<Long> matched(String rule) {
            return same
                    ? kept.map(one -> Optional.ofNullable(one.result().byRule().get(rule))
                            .map(RuleRehearsal.Tally::then)
                            .orElse(0L))
                    : Optional.empty();
        }

        @Override
        public Map<String, Long> takenBy(String rule) {
            return same
                    ? kept.map(one -> one.result().takenBy().getOrDefault(rule, Map.of()))
                            .orElse(Map.of())
                    : Map.of();
        }

        @Override
        public boolean has(Field field, String phrase) {
            return otherForm(field, phrase).isEmpty();
        }

        @Override
        public Optional<String> otherForm(Field field, String phrase) {
            return kept.flatMap(one -> Optional.ofNullable(one.otherForms().get(OtherForms.key(field, phrase))));
        }
    }

    // ------------------------------------------------------------------ doing it

    @Override
    public void whole(BackgroundWork.Work work, BackgroundWork.Progress progress) {
        Run run = find(work.about());
        RuleRehearsal.Result result = rehearse(run, progress);
        var kept = new Kept(result, run.rule().isBlank() ? forms.of(run.book(), run.from()) : Map.of());
        sql.update(RULE_REHEARSAL)
                .set(RULE_REHEARSAL.RESULT, JSONB.valueOf(JSON.writeValueAsString(kept)))
                .where(RULE_REHEARSAL.ID.eq(run.id()))
                .execute();
        progress.done(result.tickets());
    }

    private RuleRehearsal.Result rehearse(Run run, BackgroundWork.Progress progress) {
        var now = RuleTrial.Tried.of(only(books.current().book(), run.rule()));
        var then = RuleTrial.Tried.of(only(run.book(), run.rule()));
        var done = new AtomicLong();
        return SideBySide.sum(
                        PARTS,
                        which -> () -> {
                            RuleWalk walk = walks.begin(now, then, run.from(), run.to());
                            walk.go(which, PARTS, some -> progress.done(done.addAndGet(some)));
                            return walk.sums();
                        },
                        RuleRehearsal::add)
                .result();
    }

    private static RuleBook only(RuleBook book, String rule) {
        return rule.isBlank()
                ? book
                : new RuleBook(book.sections().stream()
                        .map(section -> new RuleBook.Section(
                                section.id(),
                                section.name(),
                                section.rules().stream()
                                        .filter(one -> one.id().equals(rule))
                                        .toList()))
                        .toList());
    }
}

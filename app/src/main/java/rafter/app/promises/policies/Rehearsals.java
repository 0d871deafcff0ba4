package rafter.app.promises.policies;

import static rafter.database.Tables.REHEARSAL;

import java.time.Clock;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.SideBySide;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.KnownField;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.target.BookJson;
import rafter.core.target.Editions;
import rafter.core.target.Rehearsal;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.KeyDeserializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;

/** Runs a changed book over recorded history, in the background. */
@Component
public class Rehearsals implements BackgroundWork.AtOnce {

    private static final String KIND = "rehearsal";
    private static final JsonMapper JSON = JsonMapper.builder()
            .addModule(new SimpleModule().addKeyDeserializer(TeamId.class, new TeamKey()))
            .build();
    private static final int PARTS = 2;

    /** Results are kept by team, and keys of JSON are text. */
    private static final class TeamKey extends KeyDeserializer {
        @Override
        public TeamId deserializeKey(String key, DeserializationContext context) {
            return new TeamId(Long.parseLong(key));
        }
    }

    /** A rehearsal, and how far it got. */
    public record Run(
            long id,
            Instant from,
            Instant to,
            Instant startedAt,
            BackgroundWork.Work work,
            Optional<Rehearsal.Result> result) {}

    private final DSLContext sql;
    private final TargetDrafts drafts;
    private final Targets targets;
    private final Histories histories;
    private final BackgroundWork work;
    private final Clock clock;
    private final Guard guard;

    Rehearsals(
            DSLContext sql,
            TargetDrafts drafts,
            Targets targets,
            Histories histories,
            BackgroundWork work,
            Clock clock,
            Guard guard) {
        this.guard = guard;
        this.sql = sql;
        this.drafts = drafts;
        this.targets = targets;
        this.histories = histories;
        this.work = work;
        this.clock = clock;
    }

    /**
     * Starts a rehearsal of the draft as it is now.
     *
     * @throws Problem.Invalid when the draft has faults, or the period is empty
     */
    @Transactional
    public long start(Instant from, Instant to, PersonId by) {
        guard.houseRules(by);
        if (!from.isBefore(to)) {
            throw new Problem.Invalid("The period ends before it begins.");
        }
        TargetDrafts.Draft draft = drafts.current();
        List<String> faults = draft.book().faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid("It cannot be rehearsed yet. " + String.join(" ", faults));
        }
        long id = sql.insertInto(REHEARSAL)
                .set(REHEARSAL.PERSON_ID, by)
                .set(REHEARSAL.STARTED_AT, clock.instant())
                .set(REHEARSAL.FROM_AT, from)
                .set(REHEARSAL.TO_AT, to)
                .set(REHEARSAL.DOCUMENT, JSONB.valueOf(BookJson.write(draft.book())))
                .returning(REHEARSAL.ID)
                .fetchSingle(REHEARSAL.ID);
        work.begin(KIND, id, histories.count(from, to), Optional.of(by));
        return id;
    }

    /** A rehearsal. */
    public Run find(long id) {
        return sql.selectFrom(REHEARSAL)
                .where(REHEARSAL.ID.eq(id))
                .fetchOptional(r -> new Run(
                        r.getId(),
                        r.getFromAt(),
                        r.getToAt(),
                        r.getStartedAt(),
                        work.find(KIND, id).orElseThrow(),
                        Optional.ofNullable(r.getResult())
                                .map(json -> JSON.readValue(json.data(), Rehearsal.Result.class))))
                .orElseThrow(() -> new Problem.NotFound("There is no such rehearsal."));
    }

    /** The latest rehearsal of the draft as it is now, if it was rehearsed since it was changed. */
    public Optional<Long> latest(Instant since) {
        return sql.select(REHEARSAL.ID)
                .from(REHEARSAL)
                .where(REHEARSAL.STARTED_AT.ge(since))
                .orderBy(REHEARSAL.ID.desc())
                .limit(1)
                .fetchOptional(REHEARSAL.ID);
    }

    /** Runs a rehearsal from its beginning; a second time changes nothing once it has finished. */
    public void run(long id) {
        work.run(KIND, id);
    }

    /** Ends a rehearsal without a result. */
    public void cancel(long id, PersonId by) {
        guard.houseRules(by);
        work.cancel(KIND, id);
    }

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public void whole(BackgroundWork.Work work, BackgroundWork.Progress progress) {
        Rehearsal.Result result = rehearse(find(work.about()), progress);
        sql.update(REHEARSAL)
                .set(REHEARSAL.RESULT, JSONB.valueOf(JSON.writeValueAsString(result)))
                .where(REHEARSAL.ID.eq(work.about()))
                .execute();
        progress.done(result.tickets());
    }

    private Rehearsal.Result rehearse(Run run, BackgroundWork.Progress progress) {
        var book = BookJson.read(sql.select(REHEARSAL.DOCUMENT)
                .from(REHEARSAL)
                .where(REHEARSAL.ID.eq(run.id()))
                .fetchSingle(REHEARSAL.DOCUMENT)
                .data());
        Editions then = Editions.always(book);
        Editions now = targets.terms().editions();
        Set<KnownField> asked = EnumSet.noneOf(KnownField.class);
        asked.addAll(Targets.asked(book));
        asked.addAll(targets.asked());
        var done = new AtomicLong();
        return SideBySide.sum(
                        PARTS,
                        which -> () -> {
                            var sums = new Rehearsal(now, then, run.from(), run.to());
                            histories.walk(run.from(), run.to(), which, PARTS, asked, some -> {
                                some.forEach(h -> sums.take(h.ticket(), h.team(), h.customer(), h.events()));
                                progress.done(done.addAndGet(some.size()));
                            });
                            return sums;
                        },
                        Rehearsal::add)
                .result();
    }
}

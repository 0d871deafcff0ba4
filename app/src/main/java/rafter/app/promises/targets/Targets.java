package rafter.app.promises.targets;

import static rafter.database.Tables.STEP_FIRED;
import static rafter.database.Tables.STEP_TIMER;
import static rafter.database.Tables.TARGET_DRAFT;
import static rafter.database.Tables.TARGET_EDITION;
import static rafter.database.Tables.TICKET_CLOCK;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.HomeZone;
import rafter.app.platform.Writes;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TicketNumber;
import rafter.core.target.BookJson;
import rafter.core.target.ClockState;
import rafter.core.target.Editions;
import rafter.core.target.PromiseBook;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.TicketEvent;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;
import rafter.database.tables.records.StepTimerRecord;
import rafter.database.tables.records.TicketClockRecord;

/** The promises in force, and the clocks of tickets under them. */
@Component
public class Targets implements HomeZone {

    /** @param asked the facts about customers that any policy ever asked about */
    private record Compiled(long latest, Terms terms, Set<KnownField> asked, boolean steps) {}

    /** What the timers of a ticket are called among writes that wait. */
    private record TimersOf(TicketNumber ticket) {}

    private static final Writes.Form CLOCK = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> Writes.rowOf(sql, TICKET_CLOCK, TICKET_CLOCK.fields())
                    .onConflict(TICKET_CLOCK.TICKET, TICKET_CLOCK.OBJECTIVE, TICKET_CLOCK.STARTED_AT)
                    .doUpdate()
                    .setAllToExcluded());
    private static final Writes.Form NO_TIMERS = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> sql.deleteFrom(STEP_TIMER).where(STEP_TIMER.TICKET.eq(DSL.val(null, STEP_TIMER.TICKET))));
    private static final Writes.Form TIMER = Writes.insert(Writes.Stage.DEPENDENTS, STEP_TIMER, STEP_TIMER.fields());
    /** What has fired for a clock does not fire again for it. */
    private static final Writes.Form BUT_FIRED = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> sql.deleteFrom(STEP_TIMER)
                    .using(STEP_FIRED)
                    .where(STEP_TIMER.TICKET.eq(DSL.val(null, STEP_TIMER.TICKET)))
                    .and(STEP_FIRED.TICKET.eq(STEP_TIMER.TICKET))
                    .and(STEP_FIRED.OBJECTIVE.eq(STEP_TIMER.OBJECTIVE))
                    .and(STEP_FIRED.RUN_STARTED.eq(STEP_TIMER.RUN_STARTED))
                    .and(STEP_FIRED.STEP.eq(STEP_TIMER.STEP)));

    private final DSLContext sql;
    private final Writes writes;
    /** Compiling calendars is dear, so the last ones are kept until there is another edition. */
    private volatile @Nullable Compiled compiled;

    private final BrieflyCached<Compiled> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    Targets(DSLContext sql, Writes writes) {
        this.sql = sql;
        this.writes = writes;
    }

    /** The terms in force now; a change of another node's is seen within a second. */
    public Terms terms() {
        return current.get().terms();
    }

    @Override
    public ZoneId zone() {
        return terms().zone();
    }

    /** The facts that any policy of a book asks about. */
    public static Set<KnownField> asked(PromiseBook book) {
        var asked = EnumSet.noneOf(KnownField.class);
        book.policies().forEach(policy -> asked.addAll(KnownField.askedBy(policy.criteria())));
        return asked;
    }

    /** The facts that any policy asks about or asked about. */
    public Set<KnownField> asked() {
        return Set.copyOf(current.get().asked());
    }

    /** Whether a book was ever written down. */
    public boolean any() {
        return sql.fetchExists(TARGET_EDITION);
    }

    private Compiled read() {
        long latest =
                sql.select(DSL.max(TARGET_EDITION.ID)).from(TARGET_EDITION).fetchSingle(r -> r.value1());
        Compiled known = compiled;
        if (known == null || known.latest() != latest) {
            known = compile(latest);
            compiled = known;
        }
        return known;
    }

    private Compiled compile(long latest) {
        List<Editions.Edition> all = sql.selectFrom(TARGET_EDITION)
                .orderBy(TARGET_EDITION.FROM_AT, TARGET_EDITION.ID)
                .fetch(r -> new Editions.Edition(
                        r.getFromAt(), BookJson.read(r.getDocument().data())));
        Editions editions = Editions.of(all);
        PromiseBook book = editions.latest().book();
        WorkCalendar usual = book.plan(book.defaultCalendar())
                .map(book::calendar)
                .orElseGet(() -> WorkCalendar.aroundTheClock("Around the clock", book.zone()));
        var asked = EnumSet.noneOf(KnownField.class);
        boolean steps = false;
        for (Editions.Edition edition : all) {
            edition.book().policies().forEach(policy -> asked.addAll(KnownField.askedBy(policy.criteria())));
            steps |= edition.book().policies().stream()
                    .anyMatch(policy -> !policy.steps().isEmpty());
        }
        return new Compiled(latest, new Terms(editions, WorkingTime.of(usual), book.zone()), asked, steps);
    }

    /** All clocks of a ticket as of an instant. */
    public List<TargetClock> reckon(List<TicketEvent> events, Facts customer, Instant now) {
        return reckon(events, customer, now, terms());
    }

    /** All clocks of a ticket under terms that were read before. */
    public List<TargetClock> reckon(List<TicketEvent> events, Facts customer, Instant now, Terms terms) {
        return Reckoning.reckon(events, customer, terms.editions(), now);
    }

    /**
     * Writes down how the clocks of a ticket stand, for lists and figures to read, and when their steps are due.
     *
     * @param since runs that ended before it are written down already
     */
    public void note(TicketNumber ticket, List<TargetClock> clocks, Instant since) {
        clocks.stream()
                .filter(clock -> clock.ended().map(at -> !at.isBefore(since)).orElse(true))
                .forEach(clock -> writes.write(CLOCK, row(ticket, clock).intoArray()));
        if (current.get().steps()) {
            noteSteps(ticket, clocks);
        }
    }

    /** Takes the timers of tickets that have come, for good; they are the caller's to fire. */
    public List<StepTimerRecord> takeTimers(Collection<TicketNumber> tickets, Instant now) {
        return sql.deleteFrom(STEP_TIMER)
                .where(STEP_TIMER.TICKET.in(tickets))
                .and(STEP_TIMER.DUE_AT.le(now))
                .returning()
                .fetch();
    }

    private void noteSteps(TicketNumber ticket, List<TargetClock> clocks) {
        // Those that were set before within the same gathered work go first, so that they are there to be taken away.
        writes.settle(List.of(new TimersOf(ticket)));
        writes.pendingFor(new TimersOf(ticket));
        writes.write(NO_TIMERS, ticket);
        boolean any = false;
        for (TargetClock clock : clocks) {
            if (clock.state() instanceof ClockState.Running) {
                for (TargetClock.StepTime time : clock.steps()) {
                    any = true;
                    writes.write(
                            TIMER,
                            new StepTimerRecord(
                                            ticket,
                                            clock.objective().name(),
                                            clock.started(),
                                            time.step().id(),
                                            time.at())
                                    .intoArray());
                }
            }
        }
        if (any) {
            writes.write(BUT_FIRED, ticket);
        }
    }

    private static TicketClockRecord row(TicketNumber ticket, TargetClock clock) {
        var record = new TicketClockRecord();
        record.setTicket(ticket);
        record.setObjective(clock.objective().name());
        record.setState(stateName(clock.state()));
        record.setLate(clock.late());
        record.setStartedAt(clock.started());
        record.setDueAt(clock.dueMark().orElse(null));
        record.setUsedSeconds(clock.used().toSeconds());
        record.setAllowedSeconds(clock.allowed().toSeconds());
        record.setPolicy(clock.policy().map(p -> p.policy().id()).orElse(""));
        record.setEndedAt(clock.ended().orElse(null));
        record.setOwnerId(clock.owner().isPresent() ? clock.owner().orElseThrow() : null);
        record.setReachedLate(clock.reachedLate());
        record.setRiskAt(clock.riskFrom().orElse(null));
        return record;
    }

    private static String stateName(ClockState state) {
        return switch (state) {
            case ClockState.Running r -> "RUNNING";
            case ClockState.Held h -> "HELD";
            case ClockState.Met m -> "MET";
            case ClockState.Lifted l -> "LIFTED";
            case ClockState.Joined j -> "JOINED";
            case ClockState.Void v -> "VOID";
        };
    }

    /** Writes down the first book, in force since ever. */
    @Transactional
    public void begin(PromiseBook book) {
        JSONB document = JSONB.valueOf(BookJson.write(book));
        long id = sql.insertInto(TARGET_EDITION)
                .set(TARGET_EDITION.FROM_AT, Instant.EPOCH)
                .set(TARGET_EDITION.DOCUMENT, document)
                .returning(TARGET_EDITION.ID)
                .fetchSingle(TARGET_EDITION.ID);
        sql.insertInto(TARGET_DRAFT)
                .set(TARGET_DRAFT.ID, (short) 1)
                .set(TARGET_DRAFT.DOCUMENT, document)
                .set(TARGET_DRAFT.EDITION_ID, id)
                .execute();
        current.forget();
    }

    /** Lets a new edition of this node's be seen at once. */
    void forget() {
        current.forget();
    }
}

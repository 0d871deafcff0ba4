package rafter.app.targets;

import static rafter.database.Tables.CALENDAR;
import static rafter.database.Tables.CALENDAR_HOLIDAY;
import static rafter.database.Tables.CALENDAR_OPENING;
import static rafter.database.Tables.POLICY;
import static rafter.database.Tables.POLICY_GOAL;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.WORKSPACE;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.Brief;
import rafter.core.target.ClockState;
import rafter.core.target.Objective;
import rafter.core.target.Promise;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.time.Holiday;
import rafter.core.time.WeeklyOpening;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;
import rafter.database.tables.records.TicketClockRecord;

/** The promises in force, and the clocks of tickets under them. */
@Component
public class Targets {

    private record Version(long policy, int policyVersion, int calendarVersion) {}

    private record Compiled(Version version, Terms terms) {}

    private final DSLContext sql;
    /** Compiling a calendar is dear, so the last one is kept until its version changes. */
    private volatile @Nullable Compiled compiled;

    private final Brief<Terms> terms = new Brief<>(Duration.ofSeconds(1), this::current);

    Targets(DSLContext sql) {
        this.sql = sql;
    }

    /** The terms in force now; a change of another node's is seen within a second. */
    public Terms terms() {
        return terms.get();
    }

    private Terms current() {
        Version now = sql.select(POLICY.ID, POLICY.VERSION, CALENDAR.VERSION)
                .from(WORKSPACE)
                .join(POLICY).on(POLICY.ID.eq(WORKSPACE.POLICY_ID))
                .join(CALENDAR).on(CALENDAR.ID.eq(POLICY.CALENDAR_ID))
                .fetchSingle(r -> new Version(r.value1(), r.value2(), r.value3()));
        Compiled known = compiled;
        if (known == null || !known.version().equals(now)) {
            known = new Compiled(now, load(now.policy()));
            compiled = known;
        }
        return known.terms();
    }

    private Terms load(long policy) {
        var durations = new EnumMap<Objective, Map<Priority, Duration>>(Objective.class);
        sql.selectFrom(POLICY_GOAL).where(POLICY_GOAL.POLICY_ID.eq(policy)).forEach(goal -> durations
                .computeIfAbsent(Objective.valueOf(goal.getObjective()), o -> new EnumMap<>(Priority.class))
                .put(Priority.valueOf(goal.getPriority()), Duration.ofMinutes(goal.getMinutes())));
        long calendar = sql.select(POLICY.CALENDAR_ID).from(POLICY).where(POLICY.ID.eq(policy)).fetchSingle(POLICY.CALENDAR_ID);
        return new Terms(new Promise(durations), WorkingTime.of(calendar(calendar)));
    }

    private WorkCalendar calendar(long id) {
        var row = sql.selectFrom(CALENDAR).where(CALENDAR.ID.eq(id)).fetchSingle();
        List<WeeklyOpening> openings = sql.selectFrom(CALENDAR_OPENING)
                .where(CALENDAR_OPENING.CALENDAR_ID.eq(id))
                .fetch(o -> new WeeklyOpening(DayOfWeek.of(o.getWeekday()), o.getOpens(), o.getCloses()));
        List<Holiday> holidays = sql.selectFrom(CALENDAR_HOLIDAY)
                .where(CALENDAR_HOLIDAY.CALENDAR_ID.eq(id))
                .fetch(h -> new Holiday(h.getDay(), h.getName()));
        return new WorkCalendar(row.getName(), ZoneId.of(row.getZone()), row.getAroundTheClock(), openings, holidays);
    }

    /** All clocks of a ticket as of an instant. */
    public List<TargetClock> reckon(List<TicketEvent> events, Instant now) {
        return reckon(events, now, terms());
    }

    /** All clocks of a ticket under terms that were read before. */
    public List<TargetClock> reckon(List<TicketEvent> events, Instant now, Terms terms) {
        return Reckoning.reckon(events, terms.promise(), terms.hours(), now);
    }

    /**
     * Writes down how the clocks of a ticket stand, for lists to read.
     *
     * @return the clock that falls due first, if any runs
     */
    public Optional<TargetClock> note(long ticket, List<TargetClock> clocks) {
        List<TicketClockRecord> rows = Reckoning.latest(clocks).values().stream().map(clock -> row(ticket, clock)).toList();
        if (!rows.isEmpty()) {
            var insert = sql.insertInto(TICKET_CLOCK).columns(TICKET_CLOCK.fields());
            for (TicketClockRecord row : rows) {
                insert = insert.values(row.intoArray());
            }
            insert.onConflict(TICKET_CLOCK.TICKET, TICKET_CLOCK.OBJECTIVE).doUpdate().setAllToExcluded().execute();
        }
        return Reckoning.nextDue(clocks);
    }

    private static TicketClockRecord row(long ticket, TargetClock clock) {
        var record = new TicketClockRecord();
        record.setTicket(ticket);
        record.setObjective(clock.objective().name());
        record.setState(stateName(clock.state()));
        record.setLate(clock.late());
        record.setStartedAt(clock.started());
        record.setDueAt(clock.dueMark().orElse(null));
        record.setUsedSeconds(clock.used().toSeconds());
        record.setAllowedSeconds(clock.allowed().toSeconds());
        return record;
    }

    private static String stateName(ClockState state) {
        return switch (state) {
            case ClockState.Running r -> "RUNNING";
            case ClockState.Held h -> "HELD";
            case ClockState.Met m -> "MET";
            case ClockState.Lifted l -> "LIFTED";
        };
    }

    /** Adds a calendar. */
    @Transactional
    public long addCalendar(WorkCalendar calendar) {
        long id = sql.insertInto(CALENDAR)
                .set(CALENDAR.NAME, calendar.name())
                .set(CALENDAR.ZONE, calendar.zone().getId())
                .set(CALENDAR.AROUND_THE_CLOCK, calendar.aroundTheClock())
                .returning(CALENDAR.ID)
                .fetchSingle(CALENDAR.ID);
        terms.forget();
        calendar.openings().forEach(o -> sql.insertInto(CALENDAR_OPENING)
                .values(id, (short) o.day().getValue(), o.opens(), o.closes())
                .execute());
        calendar.holidays().forEach(h ->
                sql.insertInto(CALENDAR_HOLIDAY).values(id, h.date(), h.name()).execute());
        return id;
    }

    /** Adds a policy that counts in the hours of a calendar. */
    @Transactional
    public long addPolicy(String name, long calendar, Promise promise) {
        long id = sql.insertInto(POLICY)
                .set(POLICY.NAME, name)
                .set(POLICY.CALENDAR_ID, calendar)
                .returning(POLICY.ID)
                .fetchSingle(POLICY.ID);
        promise.durations().forEach((objective, byPriority) -> byPriority.forEach((priority, duration) -> sql.insertInto(POLICY_GOAL)
                .values(id, objective.name(), priority.name(), (int) duration.toMinutes())
                .execute()));
        return id;
    }
}

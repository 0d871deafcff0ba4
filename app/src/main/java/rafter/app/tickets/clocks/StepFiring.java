package rafter.app.tickets.clocks;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.STEP_FIRED;
import static rafter.database.Tables.STEP_TIMER;
import static rafter.database.Tables.TEAM_MEMBER;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jooq.SelectConditionStep;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Causes;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.RafterNotes;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.criteria.Facts;
import rafter.core.id.TicketNumber;
import rafter.core.target.ClockState;
import rafter.core.target.TargetClock;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.database.tables.records.StepFiredRecord;
import rafter.database.tables.records.StepTimerRecord;

/**
 * Fires the steps of clocks that are due. A step fires in one transaction with the note that it did, so it fires once, with any number of
 * nodes and through crashes; and only if its clock still runs and its instant has not moved.
 */
@Component
public class StepFiring {

    /** Later than this, nobody was there to fire it in time. */
    private static final Duration OUTAGE = Duration.ofMinutes(5);

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final RafterNotes notes;
    private final Causes causes;
    private final Acts acts;
    private final Targets targets;
    private final Persons persons;
    private final Notices notices;
    private final StepTelling telling;
    private final Clock clock;

    StepFiring(
            DSLContext sql,
            Writes writes,
            TicketStore store,
            CustomerFacts customerFacts,
            RafterNotes notes,
            Causes causes,
            Acts acts,
            Targets targets,
            Persons persons,
            Notices notices,
            StepTelling telling,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.customerFacts = customerFacts;
        this.notes = notes;
        this.causes = causes;
        this.acts = acts;
        this.targets = targets;
        this.persons = persons;
        this.notices = notices;
        this.telling = telling;
        this.clock = clock;
    }

    /** When the next step is due, if any is. */
    public Optional<Instant> nextDue() {
        return understood().orderBy(STEP_TIMER.DUE_AT).limit(1).fetchOptional(STEP_TIMER.DUE_AT);
    }

    /**
     * Fires what is due, on so many tickets at most.
     *
     * @return how many timers were dealt with; zero when nothing was due that nobody else works on
     */
    @Transactional
    public int fireDue(int mostTickets) {
        Instant now = clock.instant();
        // The tickets are held before their timers, as in every other transaction that touches both.
        List<TicketNumber> due = understood()
                .and(STEP_TIMER.DUE_AT.le(now))
                .orderBy(STEP_TIMER.DUE_AT)
                .limit(mostTickets)
                .fetch(STEP_TIMER.TICKET);
        if (due.isEmpty()) {
            return 0;
        }
        List<TicketNumber> held = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.in(new HashSet<>(due)))
                .orderBy(TICKET.NUMBER)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
        List<StepTimerRecord> timers = targets.takeTimers(held, now);
        if (timers.isEmpty()) {
            return 0;
        }
        FiringRound round = round(held, now);
        return writes.gather(() -> {
            fire(latestOfEachKind(stillRunning(timers, round)), round);
            return timers.size();
        });
    }

    /** Timers of tickets that this version understands; the others are left to a newer node. */
    private SelectConditionStep<Record2<TicketNumber, Instant>> understood() {
        return sql.select(STEP_TIMER.TICKET, STEP_TIMER.DUE_AT)
                .from(STEP_TIMER)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(STEP_TIMER.TICKET))
                .where(TicketStore.understood());
    }

    private FiringRound round(List<TicketNumber> held, Instant now) {
        Map<TicketNumber, String> names = sql.select(TICKET.NUMBER, CONTACT.NAME)
                .from(TICKET)
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(TICKET.NUMBER.in(held))
                .fetchMap(TICKET.NUMBER, CONTACT.NAME);
        return new FiringRound(
                now,
                targets.terms(),
                store.events(held),
                customerFacts.customers(held),
                names,
                persons.active().stream().collect(Collectors.toMap(Person::id, Function.identity())),
                sql.selectFrom(TEAM_MEMBER).fetchGroups(TEAM_MEMBER.TEAM_ID, TEAM_MEMBER.PERSON_ID));
    }

    /** Those whose clock runs, and whose instant is still the one the timer was set for. */
    private List<FiringRound.Firing> stillRunning(List<StepTimerRecord> timers, FiringRound round) {
        var clocks = new HashMap<TicketNumber, List<TargetClock>>();
        var firing = new ArrayList<FiringRound.Firing>();
        for (StepTimerRecord timer : timers) {
            List<TargetClock> all = clocks.computeIfAbsent(
                    timer.getTicket(),
                    number -> targets.reckon(
                            round.events().getOrDefault(number, List.of()),
                            round.customers().getOrDefault(number, Facts.none()),
                            round.now(),
                            round.terms()));
            for (TargetClock one : all) {
                boolean its = one.objective().name().equals(timer.getObjective())
                        && one.started().equals(timer.getRunStarted());
                if (its && one.state() instanceof ClockState.Running) {
                    boolean tardy = timer.getDueAt().isBefore(round.now().minus(OUTAGE));
                    one.steps().stream()
                            .filter(time -> time.step().id().equals(timer.getStep())
                                    && time.at().equals(timer.getDueAt()))
                            .forEach(time -> firing.add(new FiringRound.Firing(timer, one, time.step(), tardy)));
                }
            }
        }
        return firing;
    }

    /** Of steps that come late after an outage, the latest of each kind on each clock is enough; the others are noted as passed over. */
    private List<FiringRound.Firing> latestOfEachKind(List<FiringRound.Firing> firing) {
        var latest = new LinkedHashMap<List<Object>, FiringRound.Firing>();
        var kept = new ArrayList<FiringRound.Firing>();
        for (FiringRound.Firing one : firing) {
            if (!one.tardy()) {
                kept.add(one);
                continue;
            }
            List<Object> kind = List.of(
                    one.timer().getTicket(),
                    one.timer().getObjective(),
                    one.timer().getRunStarted(),
                    one.step().acts().stream()
                            .map(act -> act.getClass().getSimpleName())
                            .sorted()
                            .toList());
            FiringRound.Firing other = latest.get(kind);
            if (other == null || other.timer().getDueAt().isBefore(one.timer().getDueAt())) {
                latest.put(kind, one);
            }
        }
        Set<FiringRound.Firing> wanted = new HashSet<>(latest.values());
        List<FiringRound.Firing> passed = firing.stream()
                .filter(one -> one.tardy() && !wanted.contains(one))
                .toList();
        note(passed.stream()
                .map(one -> fired(one, "passed over: a later step of the same kind fired after an outage"))
                .toList());
        kept.addAll(wanted);
        return kept;
    }

    private StepFiredRecord fired(FiringRound.Firing one, String done) {
        StepTimerRecord t = one.timer();
        return new StepFiredRecord(
                t.getTicket(), t.getObjective(), t.getRunStarted(), t.getStep(), t.getDueAt(), clock.instant(), done);
    }

    /** Writes down what fired; gives those that had not before. */
    private Set<List<Object>> note(List<StepFiredRecord> all) {
        if (all.isEmpty()) {
            return Set.of();
        }
        var insert = sql.insertInto(STEP_FIRED).columns(STEP_FIRED.fields());
        for (StepFiredRecord one : all) {
            insert = insert.values(one.intoArray());
        }
        return insert.onConflictDoNothing().returning().fetch().stream()
                .map(StepFiring::key)
                .collect(Collectors.toSet());
    }

    private static List<Object> key(StepFiredRecord r) {
        return List.of(r.getTicket(), r.getObjective(), r.getRunStarted(), r.getStep());
    }

    private void fire(List<FiringRound.Firing> firing, FiringRound round) {
        List<StepFiredRecord> records = firing.stream()
                .map(one -> fired(one, telling.words(one, round)))
                .toList();
        Set<List<Object>> fresh = note(records);
        var told = new ArrayList<Notices.Told>();
        var changes = new LinkedHashMap<TicketNumber, List<FiringRound.Firing>>();
        for (int i = 0; i < firing.size(); i++) {
            FiringRound.Firing one = firing.get(i);
            if (!fresh.contains(key(records.get(i)))) {
                continue;
            }
            causes.stepFired(one.timer().getTicket(), round.now());
            for (Act.Automatic act : one.step().acts()) {
                if (act instanceof Act.Notify notify) {
                    telling.tell(one, notify, round, told);
                }
            }
            if (one.step().acts().stream().anyMatch(act -> !(act instanceof Act.Notify))) {
                changes.computeIfAbsent(one.timer().getTicket(), n -> new ArrayList<>())
                        .add(one);
            }
        }
        notices.tell(told);
        changes.forEach((number, all) -> change(number, all, round));
    }

    private void change(TicketNumber number, List<FiringRound.Firing> all, FiringRound round) {
        TicketStore.Held held = store.hold(number);
        for (FiringRound.Firing one : all) {
            for (Act.Automatic act : one.step().acts()) {
                held = act instanceof Act.Note note
                        ? note(held, note, one, round)
                        : acts.perform(held, act, round.now());
            }
        }
    }

    private TicketStore.Held note(TicketStore.Held held, Act.Note act, FiringRound.Firing one, FiringRound round) {
        String text = Placeholders.fill(act.text(), telling.values(one, round)) + StepTelling.tardiness(one, round);
        return notes.add(held, text, round.now());
    }
}

package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_TIMER;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleFacts;
import rafter.core.target.TargetClock;
import rafter.core.time.WorkingTime;

/** When rules on the clock are due on tickets: one row a ticket, for the next time of any of them. */
@Component
class RuleTimers implements BackgroundWork.InParts {

    static final String KIND = "rule-timers";

    private static final int PART = 50;

    /** A time of a rule on a ticket. */
    public record Time(Instant at, Rule rule, RuleLog.Due due) {}

    private static final Writes.Form SET = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> Writes.rowOf(sql, RULE_TIMER, RULE_TIMER.TICKET, RULE_TIMER.DUE_AT)
                    .onConflict(RULE_TIMER.TICKET)
                    .doUpdate()
                    .setAllToExcluded());
    private static final Writes.Form TAKE_AWAY = Writes.form(
            Writes.Stage.DEPENDENTS,
            sql -> sql.deleteFrom(RULE_TIMER).where(RULE_TIMER.TICKET.eq(DSL.val(null, RULE_TIMER.TICKET))));

    private final DSLContext sql;
    private final Writes writes;
    private final TicketStore store;
    private final CustomerFacts customers;
    private final Targets targets;
    private final RuleBooks books;
    private final RuleLog log;
    private final Clock clock;

    RuleTimers(
            DSLContext sql,
            Writes writes,
            TicketStore store,
            CustomerFacts customers,
            Targets targets,
            RuleBooks books,
            RuleLog log,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.store = store;
        this.customers = customers;
        this.targets = targets;
        this.books = books;
        this.log = log;
        this.clock = clock;
    }

    /**
     * The times of a ticket that are not dealt with, in their order; none of what was due before its rule was in force.
     *
     * @param dealt those that are dealt with
     */
    List<Time> times(TicketStore.Held held, RuleBook book, Supplier<List<TargetClock>> clocks, Set<RuleLog.Due> dealt) {
        List<Rule> rules = book.onTheClock();
        if (rules.isEmpty() || !RuleFacts.readFor(held.ticket())) {
            return List.of();
        }
        WorkingTime hours = targets.terms().hours();
        var times = new ArrayList<Time>();
        for (Rule rule : rules) {
            if (rule.occasion() instanceof Occasion.Clock occasion) {
                List<TargetClock> known = occasion.moment() == Moment.DUE ? clocks.get() : List.of();
                occasion.moment()
                        .on(held.ticket(), held.events(), known)
                        .ifPresent(base -> add(rule, occasion, base, hours, dealt, times));
            }
        }
        times.sort(Comparator.comparing(Time::at));
        return times;
    }

    private static void add(
            Rule rule,
            Occasion.Clock occasion,
            Instant base,
            WorkingTime hours,
            Set<RuleLog.Due> dealt,
            List<Time> times) {
        List<Instant> instants = occasion.instants(base, hours);
        for (int nth = 0; nth < instants.size(); nth++) {
            var due = new RuleLog.Due(rule.id(), base, nth);
            if (!instants.get(nth).isBefore(rule.since()) && !dealt.contains(due)) {
                times.add(new Time(instants.get(nth), rule, due));
            }
        }
    }

    /** Sets the timer of a ticket that is held for its next time, or takes it away. */
    void set(TicketStore.Held held, RuleBook book, Supplier<List<TargetClock>> clocks, Set<RuleLog.Due> dealt) {
        Optional<Instant> next =
                times(held, book, clocks, dealt).stream().findFirst().map(Time::at);
        if (next.isPresent()) {
            writes.write(SET, held.number(), next.get());
            return;
        }
        writes.write(TAKE_AWAY, held.number());
        if (!RuleFacts.readFor(held.ticket())) {
            log.forgetPassed(held.number());
        }
    }

    /** When the next timer is due, if any is set. */
    Optional<Instant> next() {
        return sql.select(RULE_TIMER.DUE_AT)
                .from(RULE_TIMER)
                .where(ofUnderstood())
                .orderBy(RULE_TIMER.DUE_AT)
                .limit(1)
                .fetchOptional(RULE_TIMER.DUE_AT);
    }

    /** Those of tickets that a newer version wrote to are left to a newer node. */
    private static Condition ofUnderstood() {
        return DSL.exists(DSL.selectOne()
                .from(TICKET)
                .where(TICKET.NUMBER.eq(RULE_TIMER.TICKET))
                .and(TicketStore.understood()));
    }

    /** The tickets whose timers have come, the earliest first. */
    List<TicketNumber> come(Instant now, int most) {
        return sql.select(RULE_TIMER.TICKET)
                .from(RULE_TIMER)
                .where(RULE_TIMER.DUE_AT.le(now))
                .and(ofUnderstood())
                .orderBy(RULE_TIMER.DUE_AT)
                .limit(most)
                .fetch(RULE_TIMER.TICKET);
    }

    /** Has a ticket's timer wait, for its rules could not be read. */
    void later(TicketNumber number, Instant until) {
        sql.update(RULE_TIMER)
                .set(RULE_TIMER.DUE_AT, until)
                .where(RULE_TIMER.TICKET.eq(number))
                .and(RULE_TIMER.DUE_AT.lt(until))
                .execute();
    }

    // ------------------------------------------------------------------ after a new version

    @Override
    public String key() {
        return KIND;
    }

    @Override
    public int size() {
        return PART;
    }

    @Override
    public BackgroundWork.Part part(BackgroundWork.Work work, int most) {
        Instant now = clock.instant();
        RuleBook book = books.current().book();
        List<TicketNumber> numbers = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.gt(new TicketNumber(work.position())))
                .and(TICKET.OPEN)
                .and(TicketStore.understood())
                .orderBy(TICKET.NUMBER)
                .limit(most)
                .fetch(TICKET.NUMBER);
        Map<TicketNumber, Set<RuleLog.Due>> dealt = log.dealtWith(numbers);
        for (TicketNumber number : numbers) {
            TicketStore.Held held = store.hold(number);
            set(
                    held,
                    book,
                    () -> targets.reckon(held.events(), customers.customer(number), now),
                    dealt.getOrDefault(number, Set.of()));
        }
        return new BackgroundWork.Part(
                numbers.size(),
                numbers.isEmpty() ? work.position() : numbers.getLast().value());
    }

    @Override
    public long failed(BackgroundWork.Work work, String reason) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.gt(new TicketNumber(work.position())))
                .and(TICKET.OPEN)
                .and(TicketStore.understood())
                .orderBy(TICKET.NUMBER)
                .limit(1)
                .fetchSingle(TICKET.NUMBER)
                .value();
    }
}

package rafter.app.tickets.rules;

import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import java.util.stream.Stream;
import rafter.app.promises.policies.Histories;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleFacts;
import rafter.core.rule.RuleRehearsal;
import rafter.core.rule.RuleTrial;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.time.WorkingTime;

/** Walks through recorded tickets and reads two books for what happened to them, as they stood then. Not safe for several threads. */
final class RuleWalk {

    private final RuleWalks tools;
    private final RuleTrial.Tried now;
    private final RuleTrial.Tried then;
    private final Instant from;
    private final Instant to;
    private final RuleRehearsal sums;
    private final RuleTrial.Effects effects;
    private final Set<KnownField> asked = EnumSet.noneOf(KnownField.class);
    private final List<Rule> clockRules;
    private final boolean changes;
    private final boolean same;

    RuleWalk(RuleWalks tools, RuleTrial.Tried now, RuleTrial.Tried then, Instant from, Instant to) {
        this.tools = tools;
        this.now = now;
        this.then = then;
        this.from = from;
        this.to = to;
        this.sums = new RuleRehearsal(from);
        this.effects = tools.deeds().effects();
        List<Rule> all = rules().filter(Rule::on).toList();
        all.forEach(rule -> asked.addAll(KnownField.askedBy(rule.criteria())));
        this.changes = all.stream().anyMatch(rule -> rule.occasion() instanceof Occasion.Change);
        this.clockRules = all.stream()
                .filter(rule -> rule.occasion() instanceof Occasion.Clock)
                .toList();
        this.same = now.book().asWritten().equals(then.book().asWritten());
    }

    private Stream<Rule> rules() {
        return Stream.concat(now.book().rules().stream(), then.book().rules().stream());
    }

    /** What came of it so far. */
    RuleRehearsal sums() {
        return sums;
    }

    /**
     * Walks through a share of the tickets.
     *
     * @param progress is told of each some tickets that were looked at
     */
    void go(int part, int parts, IntConsumer progress) {
        Consumer<List<Histories.History>> each = some -> {
            take(some);
            progress.accept(some.size());
        };
        if (ofArrivals()) {
            tools.histories().walkBeginnings(from, to, part, parts, wanted(), each);
        } else {
            tools.histories().walk(from, to, part, parts, wanted(), each);
        }
    }

    /** Whether nothing is asked about what happened after tickets came. */
    private boolean ofArrivals() {
        return !changes && clockRules.isEmpty();
    }

    /** What is asked about customers; what promises ask, too, where clocks are reckoned. */
    private Set<KnownField> wanted() {
        var wanted = EnumSet.noneOf(KnownField.class);
        wanted.addAll(asked);
        if (!ofArrivals() || RulePast.asksClocks(asked)) {
            wanted.addAll(tools.targets().asked());
        }
        return wanted;
    }

    private void take(List<Histories.History> some) {
        Map<TicketNumber, List<RulePast.Said>> said = asked.contains(KnownField.ANY_MESSAGE)
                ? tools.past().said(some.stream().map(Histories.History::ticket).toList())
                : Map.of();
        for (Histories.History history : some) {
            sums.ticket(one(history, said.getOrDefault(history.ticket(), List.of())));
        }
    }

    private boolean one(Histories.History history, List<RulePast.Said> said) {
        List<TicketEvent> events = history.events();
        boolean differs = false;
        List<TicketEvent> arrival = RulePast.arrival(events);
        if (within(arrival.getFirst().at())) {
            differs |= read(
                    history,
                    new Reading.Trigger.Came(),
                    arrival,
                    said,
                    arrival.getLast().at());
        }
        for (int i = arrival.size(); changes && i < events.size(); i++) {
            TicketEvent event = events.get(i);
            if (!within(event.at()) || event.actor().equals(Actor.system())) {
                continue;
            }
            Ticket before = Ticket.replay(events.subList(0, i));
            Optional<Reading.Trigger> trigger = Reading.Trigger.of(before, event);
            if (trigger.isPresent()) {
                differs |= read(history, trigger.get(), events.subList(0, i + 1), said, event.at());
            }
        }
        boolean timed = times(history, said);
        return differs || timed;
    }

    private boolean within(Instant at) {
        return !at.isBefore(from) && at.isBefore(to);
    }

    /** The times of rules on the clock that lie between each event and the next. */
    private boolean times(Histories.History history, List<RulePast.Said> said) {
        boolean differs = false;
        List<TicketEvent> events = history.events();
        var dealt = new HashSet<RuleLog.Due>();
        WorkingTime hours = tools.targets().terms().hours();
        for (int i = 1; !clockRules.isEmpty() && i <= events.size(); i++) {
            List<TicketEvent> so = events.subList(0, i);
            Instant until = i < events.size() ? events.get(i).at() : to;
            Ticket ticket = Ticket.replay(so);
            for (Rule rule : clockRules) {
                differs |= times(history, said, rule, so, ticket, until, hours, dealt);
            }
        }
        return differs;
    }

    private boolean times(
            Histories.History history,
            List<RulePast.Said> said,
            Rule rule,
            List<TicketEvent> so,
            Ticket ticket,
            Instant until,
            WorkingTime hours,
            Set<RuleLog.Due> dealt) {
        if (!(rule.occasion() instanceof Occasion.Clock occasion)) {
            return false;
        }
        Instant last = so.getLast().at();
        List<TargetClock> clocks =
                occasion.moment() == Moment.DUE ? tools.targets().reckon(so, history.customer(), last) : List.of();
        Optional<Instant> base = occasion.moment().on(ticket, so, clocks);
        boolean differs = false;
        if (base.isPresent()) {
            List<Instant> instants = occasion.instants(base.get(), hours);
            for (int nth = 0; nth < instants.size(); nth++) {
                Instant at = instants.get(nth);
                boolean due = at.isBefore(until) && !at.isBefore(last) && within(at);
                if (due && dealt.add(new RuleLog.Due(rule.id(), base.get(), nth))) {
                    differs |= read(history, new Reading.Trigger.Time(rule.id()), so, said, at);
                }
            }
        }
        return differs;
    }

    private boolean read(
            Histories.History history,
            Reading.Trigger trigger,
            List<TicketEvent> events,
            List<RulePast.Said> said,
            Instant at) {
        boolean nobody = rules().noneMatch(trigger::reads);
        if (nobody || !RuleFacts.readFor(Ticket.replay(events))) {
            return false;
        }
        Facts customer = history.customer();
        RuleTrial.Stood stood = tools.past().stood(customer, events, said, at, asked);
        RuleTrial.Outcome changed = RuleTrial.read(then, trigger, stood, effects, at);
        Set<String> before = same
                ? changed.matched()
                : RuleTrial.read(now, trigger, stood, effects, at).matched();
        Facts facts = changed.reads().stream().anyMatch(read -> read.result() == Reading.Result.NOT_REACHED)
                ? RuleFacts.of(
                        stood.customer(),
                        events,
                        Ticket.replay(events),
                        stood.clocks().apply(events))
                : Facts.none();
        return sums.take(
                history.ticket(), at, before, changed.matched(), RuleTrial.taken(then.book(), changed, facts, at));
    }
}

package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.MessageId;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Folding;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.time.WorkingTime;

/**
 * Reckons the clocks of a ticket: a pure function of its events, what is known of its customer, the editions of the promises and the
 * instant up to which time has passed. Costs O(e log n) for e events and n openings of the calendar, and one matching of the policies
 * for each event that changes a fact which some policy asks about.
 *
 * <p>First reply runs from creation until a person of ours writes to the customer. Next reply runs from the first message of the
 * customer's since our last one, and only once we have answered at all: until then the first reply is what they wait for. Resolution
 * runs from creation until an ending state; when the ticket is taken up again it goes on from what had been used. Pick-up runs while
 * nobody owns the ticket. Regular update runs from our last word to the customer until the next one. Each is held in the turns that the
 * policy names. What still waits when a ticket is closed ends as lifted, and begins anew when it is reopened. Automatic messages of either side start nothing, and meet
 * nothing unless the policy says so. A time agreed with the customer takes the place of what the policy allows for the resolution.
 */
public final class Reckoning {

    private final Editions editions;
    private final WorkingTime plain;
    private final Map<Objective, Stopwatch> running = new EnumMap<>(Objective.class);
    private final List<TargetClock> ended = new ArrayList<>();
    private Optional<Stopwatch> resolved = Optional.empty();
    private Facts facts;
    private int edition = -1;
    private Optional<Editions.InForce> policy = Optional.empty();
    private final Folding ticket;
    private final TicketFacts.Seen seen;
    /** What is promised while neither policy nor priority changes. */
    private final Map<Objective, Stopwatch.Terms> known = new EnumMap<>(Objective.class);
    /** The working time for the resolution up to the instant agreed with the customer. */
    private Optional<Duration> agreed = Optional.empty();

    private boolean answeredOnce;
    /** Whether we wrote first. */
    private boolean ours;

    private boolean closed;
    private Instant last = Instant.MIN;
    private final Readings readings = new Readings(PLAIN);

    private Reckoning(Editions editions, Facts customer, TicketEvent.Opened opened) {
        this.editions = editions;
        this.plain = PLAIN;
        this.ticket = new Folding(opened);
        this.seen = new TicketFacts.Seen(ticket);
        this.facts = TicketFacts.of(customer, ticket.ticket());
    }

    private static final WorkingTime PLAIN =
            WorkingTime.of(rafter.core.time.WorkCalendar.aroundTheClock("Around the clock", java.time.ZoneOffset.UTC));

    /**
     * All runs of all clocks of a ticket: those that ended, in order of their ending, then those that are live, in order of
     * their objective.
     *
     * @param events the ticket's events, oldest first
     * @param customer what is known of the customer and the first message; a fact that an event tells of is taken from there
     * @param now the instant up to which time has passed; events after it have not happened
     */
    public static List<TargetClock> reckon(List<TicketEvent> events, Facts customer, Editions editions, Instant now) {
        List<TicketEvent> happened = withoutTakenBack(happened(events, now));
        if (happened.isEmpty()) {
            return List.of();
        }
        if (!(happened.getFirst() instanceof TicketEvent.Opened opened)) {
            throw new IllegalArgumentException("a ticket's events begin with its opening");
        }
        var reckoning = new Reckoning(editions, TicketFacts.begin(customer, events), opened);
        happened.forEach(reckoning::walk);
        return reckoning.asOf(now);
    }

    private static List<TicketEvent> happened(List<TicketEvent> events, Instant now) {
        int count = 0;
        while (count < events.size() && !events.get(count).at().isAfter(now)) {
            count++;
        }
        return events.subList(0, count);
    }

    /**
     * A ticket that was restored goes on as though it had never been discarded, and one that was parted as though it had never been
     * joined: its customer waited all the while. A message that was split off begins its clocks on the ticket that it became.
     */
    private static List<TicketEvent> withoutTakenBack(List<TicketEvent> events) {
        int restored = last(TicketEvent.Restored.class, events);
        int parted = last(TicketEvent.Parted.class, events);
        Set<MessageId> split = Conduct.splits(events).keySet();
        if (restored < 0 && parted < 0 && split.isEmpty()) {
            return events;
        }
        var left = new ArrayList<TicketEvent>();
        for (int i = 0; i < events.size(); i++) {
            TicketEvent event = events.get(i);
            boolean takenBack = (i < restored && event instanceof TicketEvent.Discarded)
                    || (i < parted && event instanceof TicketEvent.Joined)
                    || (event instanceof TicketEvent.CustomerWrote wrote && split.contains(wrote.message()));
            if (!takenBack) {
                left.add(event);
            }
        }
        return left;
    }

    private static int last(Class<? extends TicketEvent> kind, List<TicketEvent> events) {
        int i = events.size() - 1;
        while (i >= 0 && !kind.isInstance(events.get(i))) {
            i--;
        }
        return i;
    }

    /** Of the live clocks, the one that falls due first; held ones have no due instant and are left out. */
    public static Optional<TargetClock> nextDue(List<TargetClock> clocks) {
        return clocks.stream()
                .filter(clock -> clock.state() instanceof ClockState.Running(Optional<Instant> due) && due.isPresent())
                .min(Comparator.comparing(clock -> clock.dueMark().orElse(Instant.MAX)));
    }

    /** The latest run of each objective. */
    public static Map<Objective, TargetClock> latest(List<TargetClock> clocks) {
        var latest = new EnumMap<Objective, TargetClock>(Objective.class);
        clocks.forEach(clock -> latest.put(clock.objective(), clock));
        return latest;
    }

    private void walk(TicketEvent event) {
        // A clock of the machine set back a little must not make time run backwards.
        Instant at = event.at().isBefore(last) ? last : event.at();
        bringEditions(at);
        last = at;
        Turn before = ticket.turn();
        learn(event, at);
        switch (event) {
            case TicketEvent.Opened e -> opened(e, at);
            case TicketEvent.CustomerWrote e -> customerWrote(e, at);
            case TicketEvent.WeWrote e when !e.automatic() && e.actor() instanceof Actor.Person -> answered(at);
            case TicketEvent.WeWrote e -> toldByMachine(at);
            case TicketEvent.StateChanged e -> moved(e.state(), before, at);
            case TicketEvent.OwnerChanged e -> owned(at);
            case TicketEvent.Joined e -> over(new ClockState.Joined(at), at);
            case TicketEvent.Discarded e -> voided(at);
            case TicketEvent.TimeAgreed e -> agreed(e.due(), at);
            // What these say about the ticket is learned; no clock begins or ends by them.
            case TicketEvent.PriorityChanged e -> {}
            case TicketEvent.TeamChanged e -> {}
            case TicketEvent.TopicChanged e -> {}
            case TicketEvent.TagsChanged e -> {}
            case TicketEvent.FieldSet e -> {}
            case TicketEvent.CustomerChanged e -> {}
            case TicketEvent.NoteAdded e -> {}
            // Nobody is told of it, so it answers nobody.
            case TicketEvent.PublicNoteAdded e -> {}
            case TicketEvent.NoteTakenBack e -> {}
            case TicketEvent.Bounced e -> {}
            case TicketEvent.Linked e -> {}
            case TicketEvent.Unlinked e -> {}
            case TicketEvent.Continued e -> {}
            case TicketEvent.BringBackSet e -> {}
            case TicketEvent.BroughtBack e -> {}
            case TicketEvent.WroteOutside e -> {}
            case TicketEvent.CustomerIs e -> {}
            case TicketEvent.WayChanged e -> {}
            case TicketEvent.OutsideWrote e -> {}
            case TicketEvent.OfWork e -> {}
            case TicketEvent.OfSteering e -> {}
            case TicketEvent.SplitOff e -> {}
            // What they took back was left out before the walk began.
            case TicketEvent.Restored e -> {}
            case TicketEvent.Parted e -> {}
            case TicketEvent.SplitBack e -> {}
        }
    }

    /** Editions that came into force since the last event, each at its own instant. */
    private void bringEditions(Instant until) {
        if (edition < 0) {
            edition = editions.index(until);
            return;
        }
        while (edition + 1 < editions.size()
                && !editions.compiled(edition + 1).from().isAfter(until)) {
            edition++;
            match(editions.compiled(edition).from(), ClockChange.Why.EDITION);
        }
    }

    /** Takes in what an event says about the ticket, and finds the policy anew when one asks about it. */
    private void learn(TicketEvent event, Instant at) {
        if (event instanceof TicketEvent.Opened) {
            match(at, ClockChange.Why.FACTS);
            return;
        }
        ticket.take(event);
        if (event instanceof TicketEvent.PolicyPut) {
            match(at, ClockChange.Why.FACTS);
            return;
        }
        List<KnownField> changed = seen.changed(event);
        facts = TicketFacts.ofCustomer(facts, event);
        for (KnownField field : changed) {
            // What no edition ever asked about need not be known.
            if (!(event instanceof TicketEvent.CustomerChanged) && editions.everAsks(field)) {
                facts = TicketFacts.with(facts, field, ticket);
            }
        }
        ClockChange.Why why =
                event instanceof TicketEvent.PriorityChanged ? ClockChange.Why.PRIORITY : ClockChange.Why.FACTS;
        if (changed.isEmpty()) {
            return;
        }
        if (editions.compiled(edition).asksAny(changed)) {
            match(at, why);
        } else if (changed.contains(KnownField.PRIORITY)) {
            promise(at, why);
        }
    }

    private void match(Instant at, ClockChange.Why why) {
        Optional<Editions.InForce> next =
                editions.compiled(edition).match(facts, ticket.steering().policy());
        keepTheTimeAgreed(at, next);
        policy = next;
        promise(at, why);
    }

    /** A time agreed with the customer is an instant: other hours do not move it. */
    private void keepTheTimeAgreed(Instant at, Optional<Editions.InForce> next) {
        Stopwatch watch = running.get(Objective.RESOLUTION);
        if (agreed.isPresent()
                && watch != null
                && next.isPresent()
                && policy.map(p -> p.hours() != next.get().hours()).orElse(true)) {
            agreed = watch.dueIfCounting(at)
                    .map(due -> watch.allowedIn(next.get().hours(), at, due))
                    .or(() -> agreed);
        }
    }

    private void promise(Instant at, ClockChange.Why why) {
        known.clear();
        running.values().forEach(watch -> watch.promise(at, terms(watch.objective()), why));
    }

    private Stopwatch.Terms terms(Objective objective) {
        return known.computeIfAbsent(objective, this::termsOf);
    }

    private Stopwatch.Terms termsOf(Objective objective) {
        Optional<Goal> goal =
                policy.flatMap(p -> Optional.ofNullable(p.policy().goals().get(objective)));
        Optional<Duration> promised = goal.flatMap(g -> g.of(ticket.priority()));
        boolean byAgreement = objective == Objective.RESOLUTION && agreed.isPresent();
        return new Stopwatch.Terms(policy, goal, byAgreement ? agreed : promised, byAgreement);
    }

    private void opened(TicketEvent.Opened event, Instant at) {
        ours = event.origin() == TicketEvent.Origin.OURS;
        if (event.origin() == TicketEvent.Origin.CUSTOMER) {
            start(Objective.FIRST_REPLY, at);
        }
        start(Objective.RESOLUTION, at);
        start(Objective.PICK_UP, at);
        start(Objective.REGULAR_UPDATE, at);
    }

    private void start(Objective objective, Instant at) {
        running.computeIfAbsent(
                objective, o -> new Stopwatch(o, at, ticket.turn(), terms(o), plain, ticket.owner(), readings));
    }

    private void customerWrote(TicketEvent.CustomerWrote event, Instant at) {
        if (!event.automatic() && answeredOnce) {
            start(Objective.NEXT_REPLY, at);
        }
    }

    private void answered(Instant at) {
        if (ours && !answeredOnce) {
            // Our own opening message is where a regular update begins; it is not one that was kept.
            running.remove(Objective.REGULAR_UPDATE);
            start(Objective.REGULAR_UPDATE, at);
            answeredOnce = true;
            return;
        }
        answeredOnce = true;
        meet(Objective.FIRST_REPLY, at);
        meet(Objective.NEXT_REPLY, at);
        updated(at);
    }

    /** Our last word was just now, so the next one is awaited from here. */
    private void updated(Instant at) {
        if (running.containsKey(Objective.REGULAR_UPDATE)) {
            meet(Objective.REGULAR_UPDATE, at);
            start(Objective.REGULAR_UPDATE, at);
        }
    }

    private void toldByMachine(Instant at) {
        Stopwatch first = running.get(Objective.FIRST_REPLY);
        if (first != null && first.metByAutomatic()) {
            answeredOnce = true;
            meet(Objective.FIRST_REPLY, at);
        }
    }

    /**
     * What was used stays used, and from here on there is as much time as lies between now and the instant agreed. All rules of the
     * clock go on: it is held as before, and then moves on. Outlasts a change of priority or policy.
     */
    private void agreed(Optional<Instant> due, Instant at) {
        Stopwatch watch = running.get(Objective.RESOLUTION);
        if (watch != null) {
            agreed = due.map(instant -> watch.allowedUntil(at, instant));
            known.clear();
            watch.promise(
                    at,
                    terms(Objective.RESOLUTION),
                    due.isPresent() ? ClockChange.Why.AGREED : ClockChange.Why.AS_PROMISED);
        }
    }

    private void meet(Objective objective, Instant at) {
        Stopwatch watch = running.remove(objective);
        if (watch != null) {
            watch.ended(at, new ClockState.Met(at)).ifPresent(ended::add);
            if (objective == Objective.RESOLUTION) {
                resolved = Optional.of(watch);
            }
        }
    }

    private void lift(Objective objective, Instant at) {
        Stopwatch watch = running.remove(objective);
        if (watch != null) {
            watch.ended(at, new ClockState.Lifted(at)).ifPresent(ended::add);
        }
    }

    private void moved(TicketState state, Turn before, Instant at) {
        if (state.ending()) {
            meet(Objective.RESOLUTION, at);
            // Nobody waits for these on a ticket that is done; when it is taken up again they begin anew.
            lift(Objective.REGULAR_UPDATE, at);
            lift(Objective.PICK_UP, at);
        } else {
            resolved.ifPresent(watch -> takeUpAgain(watch, at, before));
        }
        boolean reopened = !state.ending() && closed;
        running.values().forEach(watch -> watch.turn(at, state.turn()));
        closed = state.equals(TicketState.CLOSED);
        if (closed) {
            over(new ClockState.Lifted(at), at);
        }
        if (reopened && !ours && !answeredOnce) {
            // What they waited for when it was closed they wait for again; a next reply begins with their next message.
            start(Objective.FIRST_REPLY, at);
        }
    }

    private void over(ClockState how, Instant at) {
        running.values().forEach(watch -> watch.ended(at, how).ifPresent(ended::add));
        running.clear();
        if (!(how instanceof ClockState.Lifted)) {
            resolved = Optional.empty();
        }
    }

    /** A ticket that was no request leaves all figures, also those of its clocks that ended before. */
    private void voided(Instant at) {
        over(new ClockState.Void(at), at);
        ended.replaceAll(clock -> new TargetClock(
                clock.objective(),
                clock.policy(),
                clock.started(),
                clock.segments(),
                clock.changes(),
                clock.used(),
                clock.allowed(),
                new ClockState.Void(at),
                clock.late(),
                clock.dueMark(),
                clock.owner(),
                clock.reachedLate(),
                List.of(),
                Optional.empty(),
                false));
    }

    /** That it was met does not count any more; its history goes on in the same run. */
    private void takeUpAgain(Stopwatch watch, Instant at, Turn between) {
        ended.removeIf(clock -> clock.objective() == Objective.RESOLUTION);
        watch.resume(at, between);
        watch.promise(at, terms(Objective.RESOLUTION), ClockChange.Why.FACTS);
        running.put(Objective.RESOLUTION, watch);
        resolved = Optional.empty();
        start(Objective.REGULAR_UPDATE, at);
        if (ticket.owner().isEmpty()) {
            start(Objective.PICK_UP, at);
        }
    }

    private void owned(Instant at) {
        running.values().forEach(watch -> watch.owner(at, ticket.owner()));
        if (ticket.owner().isPresent()) {
            meet(Objective.PICK_UP, at);
        } else if (ticket.open()) {
            start(Objective.PICK_UP, at);
        }
    }

    private List<TargetClock> asOf(Instant now) {
        if (edition >= 0) {
            bringEditions(now);
        }
        var all = new ArrayList<>(ended);
        Risk risk = edition < 0 ? Risk.USUAL : editions.compiled(edition).risk();
        running.values().forEach(watch -> watch.asOf(now, risk).ifPresent(all::add));
        return List.copyOf(all);
    }
}

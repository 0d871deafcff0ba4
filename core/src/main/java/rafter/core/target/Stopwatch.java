package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.ticket.Turn;
import rafter.core.time.WorkingTime;

/** One run of one clock while the events of a ticket are walked. Confined to one reckoning. */
final class Stopwatch {

    /**
     * What is promised at a time.
     *
     * @param allowed the working time; nothing when the objective is not promised
     * @param agreed whether that is what was agreed with the customer
     */
    record Terms(Optional<Editions.InForce> policy, Optional<Goal> goal, Optional<Duration> allowed, boolean agreed) {

        boolean counts(Turn turn) {
            return goal.isPresent() ? goal.get().countsIn(turn) : turn == Turn.OURS;
        }
    }

    /** What makes a promise the same one, whatever else its policy says and in whatever hours it counts. */
    private record Key(Optional<Duration> allowed, Optional<Goal> goal, boolean agreed) {}

    /** What had been used when terms were left, since when it was late then, since when nothing was promised, and how many moments were known. */
    private record Left(Key key, long used, Optional<Instant> lateFrom, Optional<Instant> liftedAt, int moments) {}

    /** A step and how much is used when it comes. */
    private record Moment(Step step, long target) {}

    /** When a moment was first promised, and whether by a new edition. */
    private record Introduced(Instant at, boolean byEdition) {}

    private final Objective objective;
    private final Instant started;
    private final WorkingTime fallback;
    private final Readings readings;
    private final List<Segment> segments = new ArrayList<>();
    private List<ClockChange> changes = List.of();
    private Instant since;
    /** What the present hours read at that instant. */
    private long sinceReading;

    private Turn turn;
    /** In nanoseconds, as are the other amounts here: they are added up for every event. */
    private long usedBefore;

    private Terms terms;
    /** What follows from the terms and the turn, and is asked for every event. */
    private WorkingTime hours;

    private boolean counts;
    private long allowed;
    /** What was promised last; stays when the promise is lifted. */
    private Optional<Terms> lastPromised;

    private Optional<Instant> liftedAt = Optional.empty();
    /** In which hours each segment was counted. */
    private final List<WorkingTime> hoursOfSegments = new ArrayList<>();
    /** Since when it is late without a break, be it by a change or by the passing of time. */
    private Optional<Instant> lateFrom = Optional.empty();
    /** Since when it is late by the passing of time: it stays so. */
    private Optional<Instant> lateSince = Optional.empty();
    /** How it stood when terms were left, for they may come back; what was promised in between is then as though it had never been. */
    private List<Left> left = List.of();
    /** When each moment of a step was first promised. */
    private Map<Moment, Introduced> introduced = Map.of();

    private int segmentsAtLift;
    private Optional<Instant> riskFrom = Optional.empty();
    private boolean atRisk;
    private Optional<PersonId> owner = Optional.empty();
    private boolean reachedLate;

    Stopwatch(
            Objective objective,
            Instant started,
            Turn turn,
            Terms terms,
            WorkingTime fallback,
            Optional<PersonId> owner,
            Readings readings) {
        this.objective = objective;
        this.started = started;
        this.fallback = fallback;
        this.readings = readings;
        this.since = started;
        this.turn = turn;
        this.terms = terms;
        this.lastPromised = terms.allowed().map(a -> terms);
        this.owner = owner;
        this.hours = hoursOf();
        this.counts = terms.counts(turn);
        this.allowed = terms.allowed().map(Duration::toNanos).orElse(0L);
        this.sinceReading = readings.at(hours, started);
        introduce(started, false);
    }

    Objective objective() {
        return objective;
    }

    /** Whether an automatic message of ours meets it. */
    boolean metByAutomatic() {
        return terms.goal().filter(Goal::automaticMeets).isPresent();
    }

    /** From here on another side has the turn. */
    void turn(Instant at, Turn next) {
        if (next != turn) {
            countUntil(at);
            turn = next;
            counts = terms.counts(turn);
        }
    }

    /** From here on somebody else owns the ticket. */
    void owner(Instant at, Optional<PersonId> next) {
        if (next.equals(owner)) {
            return;
        }
        owner = next;
        reachedLate = next.isPresent() && lastPromised.isPresent() && TargetClock.mostlyUsed(usedBy(at), allowed);
    }

    private long usedBy(Instant at) {
        return counts ? usedBefore + readings.at(hours, at) - sinceReading : usedBefore;
    }

    /** The working time that would have been used at a later instant if everything from now on counted. */
    Duration allowedUntil(Instant at, Instant later) {
        return Duration.ofNanos(usedBy(at)).plus(hours.between(at, later));
    }

    /** The instant at which it would be due if everything from now on counted; nothing when it is late or never due. */
    Optional<Instant> dueIfCounting(Instant at) {
        long left = allowed - usedBy(at);
        return left > 0 ? hours.add(at, Duration.ofNanos(left)) : Optional.empty();
    }

    /** What would have to be allowed in other hours for it to be due at an instant. */
    Duration allowedIn(WorkingTime others, Instant at, Instant due) {
        return Duration.ofNanos(usedBy(at)).plus(others.between(at, due));
    }

    /**
     * From here on something else is promised, or nothing; what was used stays used. Terms that come back find the clock as though they had
     * never been left.
     */
    void promise(Instant at, Terms next, ClockChange.Why why) {
        if (next.equals(terms)) {
            return;
        }
        if (!concerns(next)) {
            terms = next;
            lastPromised = next.allowed().isPresent() ? Optional.of(next) : lastPromised;
            return;
        }
        countUntil(at);
        settleLateness();
        Optional<Instant> dueBefore = dueMark();
        Optional<Left> before = leave(next);
        boolean first = lastPromised.isEmpty();
        boolean back = terms.allowed().isEmpty() && !first;
        long allowedBefore = allowed;
        boolean promisedBefore = terms.allowed().isPresent();
        take(next);
        if (next.allowed().isPresent()) {
            if (first || back) {
                measureAnew(first ? 0 : segmentsAtLift);
            }
            liftedAt = Optional.empty();
            enter(at, before);
        } else if (!first) {
            lift(at, before);
        }
        introduce(at, why == ClockChange.Why.EDITION);
        if (!dueMark().equals(dueBefore) || promisedBefore != next.allowed().isPresent() || allowed != allowedBefore) {
            note(at, why, dueBefore);
        }
    }

    /** Nothing is promised from here on, unless that was so already. */
    private void lift(Instant at, Optional<Left> before) {
        if (liftedAt.isEmpty()) {
            liftedAt = before.flatMap(Left::liftedAt).or(() -> Optional.of(at));
            lateFrom = Optional.empty();
        }
    }

    /** Counts by other terms from here on. */
    private void take(Terms next) {
        if (terms.allowed().isPresent() && next.allowed().isEmpty()) {
            segmentsAtLift = segments.size();
        }
        terms = next;
        counts = terms.counts(turn);
        if (next.allowed().isPresent()) {
            lastPromised = Optional.of(next);
            allowed = next.allowed().get().toNanos();
        }
        hours = hoursOf();
        sinceReading = readings.at(hours, since);
    }

    /** Whether other terms differ in anything that this clock depends on. */
    private boolean concerns(Terms next) {
        return !key(next).equals(key(terms))
                || hoursOf(next) != hours
                || !stepsOf(next).equals(stepsOf(terms));
    }

    private Key key(Terms some) {
        return new Key(
                some.allowed(),
                some.goal().map(goal -> new Goal(Map.of(), goal.held(), 100, goal.automaticMeets())),
                some.agreed());
    }

    private List<Step> stepsOf(Terms some) {
        List<Step> all = some.policy().map(p -> p.policy().steps()).orElse(List.of());
        // Most policies have none, and this is asked whenever a clock begins.
        return all.isEmpty()
                ? all
                : all.stream().filter(step -> step.objective() == objective).toList();
    }

    /** Leaves the present terms for others; gives how it stood when those were left, if they are coming back. */
    private Optional<Left> leave(Terms next) {
        if (left.isEmpty()) {
            left = new ArrayList<>();
        }
        left.add(new Left(key(terms), usedBefore, lateFrom, liftedAt, introduced.size()));
        Key wanted = key(next);
        for (int i = 0; i < left.size(); i++) {
            Left one = left.get(i);
            if (one.key().equals(wanted)) {
                left.subList(i, left.size()).clear();
                forgetMoments(one.moments());
                return Optional.of(one);
            }
        }
        return Optional.empty();
    }

    private void forgetMoments(int known) {
        if (introduced.size() > known) {
            var kept = new LinkedHashMap<Moment, Introduced>();
            introduced.entrySet().stream().limit(known).forEach(entry -> kept.put(entry.getKey(), entry.getValue()));
            introduced = kept;
        }
    }

    /** Takes in terms that promise something: it may be late at once, or late since a time at which they did not hold. */
    private void enter(Instant at, Optional<Left> before) {
        if (usedBefore < allowed) {
            lateFrom = Optional.empty();
            return;
        }
        if (before.isPresent()) {
            // As though they had never been left.
            boolean lateBefore = before.get().used() >= allowed;
            lateFrom = lateBefore ? before.get().lateFrom() : Optional.empty();
            settleLateness();
            return;
        }
        if (lateFrom.isEmpty()) {
            lateFrom = Optional.of(at);
        } else if (!terms.agreed() && lateSince.isEmpty()) {
            // A stricter promise had made it late before; this one would have by the passing of time.
            crossing(allowed).filter(c -> c.isAfter(lateFrom.orElse(c))).ifPresent(c -> lateSince = Optional.of(c));
        }
    }

    /** Notes that it has become late by the passing of time, if it has. */
    private void settleLateness() {
        if (terms.allowed().isEmpty() || usedBefore < allowed || lateFrom.isPresent()) {
            return;
        }
        lateFrom = crossing(allowed);
        if (lateSince.isEmpty() && !terms.agreed()) {
            lateSince = lateFrom;
        }
    }

    /** A time agreed with the customer makes good for a lateness before it. */
    private boolean staysLate() {
        return lateSince.isPresent() && !terms.agreed();
    }

    private boolean late() {
        return staysLate() || usedBefore >= allowed;
    }

    /** Where the due time lies or lay, were it known. */
    private Optional<Instant> dueMark() {
        if (terms.allowed().isEmpty()) {
            return Optional.empty();
        }
        if (staysLate()) {
            return lateSince;
        }
        return usedBefore >= allowed ? lateFrom.or(() -> crossing(allowed)) : crossing(allowed);
    }

    private void note(Instant at, ClockChange.Why why, Optional<Instant> dueBefore) {
        if (at.isAfter(started)) {
            if (changes.isEmpty()) {
                changes = new ArrayList<>();
            }
            changes.add(new ClockChange(
                    at,
                    why,
                    terms.policy().map(p -> p.policy().name()),
                    terms.allowed(),
                    dueBefore,
                    counts || late() ? dueMark() : Optional.empty()));
        }
    }

    /** Time in which nothing was promised counts by the hours and turns of the promise that comes, from a segment on. */
    private void measureAnew(int from) {
        usedBefore = 0;
        for (int i = 0; i < segments.size(); i++) {
            if (i >= from) {
                Segment old = segments.get(i);
                segments.set(
                        i,
                        new Segment(
                                old.from(),
                                old.to(),
                                old.turn(),
                                terms.counts(old.turn()),
                                hours.between(old.from(), old.to())));
                hoursOfSegments.set(i, hours);
            }
            usedBefore += segments.get(i).counts() ? segments.get(i).working().toNanos() : 0;
        }
    }

    /** Goes on after it had been met: the time since then was held while {@code between} had the turn. */
    void resume(Instant at, Turn between) {
        turn = between;
        counts = terms.counts(turn);
        countUntil(at);
        note(at, ClockChange.Why.REOPENED, dueMark());
    }

    /** The clock as it ended with this, unless nothing was ever promised. */
    Optional<TargetClock> ended(Instant at, ClockState how) {
        countUntil(at);
        settleLateness();
        return clock(how);
    }

    /** The clock as it stands, unless nothing was ever promised. */
    Optional<TargetClock> asOf(Instant now, Risk risk) {
        countUntil(now);
        settleLateness();
        riskFrom = counts && terms.allowed().isPresent() && !late() ? crossing(risk.usedAt(allowed)) : Optional.empty();
        atRisk = riskFrom.filter(from -> !from.isAfter(now)).isPresent();
        return clock(
                counts
                        ? new ClockState.Running(dueMark())
                        : new ClockState.Held(Duration.ofNanos(allowed - usedBefore)));
    }

    private WorkingTime hoursOf() {
        return hoursOf(terms);
    }

    private WorkingTime hoursOf(Terms some) {
        return some.policy()
                .or(() -> lastPromised.flatMap(Terms::policy))
                .map(Editions.InForce::hours)
                .orElse(fallback);
    }

    private void countUntil(Instant at) {
        if (!at.isAfter(since)) {
            return;
        }
        long reading = readings.at(hours, at);
        long working = reading - sinceReading;
        segments.add(new Segment(since, at, turn, counts, Duration.ofNanos(working)));
        hoursOfSegments.add(hours);
        usedBefore = counts ? usedBefore + working : usedBefore;
        since = at;
        sinceReading = reading;
    }

    /**
     * The first instant at which so much has been used, whatever was promised then; known for the past, and ahead while time counts. O(s)
     * for s segments when it lies in the past.
     */
    private Optional<Instant> crossing(long target) {
        if (target <= 0) {
            return Optional.of(started);
        }
        if (usedBefore >= target) {
            long used = 0;
            for (int i = 0; i < segments.size(); i++) {
                Segment segment = segments.get(i);
                long after = segment.counts() ? used + segment.working().toNanos() : used;
                if (after >= target) {
                    return hoursOfSegments.get(i).add(segment.from(), Duration.ofNanos(target - used));
                }
                used = after;
            }
        }
        return counts ? readings.when(hours, since, sinceReading + target - usedBefore) : Optional.empty();
    }

    private long targetOf(Step step) {
        return step.usedAt(Duration.ofNanos(allowed)).toNanos();
    }

    private void introduce(Instant at, boolean byEdition) {
        List<Step> steps = terms.allowed().isEmpty() ? List.of() : stepsOf(terms);
        if (steps.isEmpty()) {
            return;
        }
        if (introduced.isEmpty()) {
            introduced = new LinkedHashMap<>();
        }
        steps.forEach(step -> introduced.putIfAbsent(new Moment(step, targetOf(step)), new Introduced(at, byEdition)));
    }

    /** A step that a change finds past comes at the change; one that a new edition finds past was nobody's promise at the time and never comes. */
    private List<TargetClock.StepTime> steps() {
        var times = new ArrayList<TargetClock.StepTime>();
        for (Step step : stepsOf(terms)) {
            Introduced since =
                    introduced.getOrDefault(new Moment(step, targetOf(step)), new Introduced(started, false));
            crossing(targetOf(step)).ifPresent(at -> {
                if (!at.isBefore(since.at())) {
                    times.add(new TargetClock.StepTime(step, at));
                } else if (!since.byEdition()) {
                    times.add(new TargetClock.StepTime(step, since.at()));
                }
            });
        }
        return times;
    }

    private Optional<TargetClock> clock(ClockState how) {
        if (lastPromised.isEmpty()) {
            return Optional.empty();
        }
        boolean lifted = terms.allowed().isEmpty();
        boolean late = !lifted && late();
        boolean unknown = lifted || (how instanceof ClockState.Held && !late);
        ClockState state =
                lifted && !(how instanceof ClockState.Void) ? new ClockState.Lifted(liftedAt.orElse(since)) : how;
        boolean live = !lifted && (how instanceof ClockState.Running || how instanceof ClockState.Held);
        return Optional.of(new TargetClock(
                objective,
                lastPromised.flatMap(Terms::policy),
                started,
                segments,
                changes,
                Duration.ofNanos(usedBefore),
                Duration.ofNanos(allowed),
                state,
                late,
                unknown ? Optional.empty() : dueMark(),
                owner,
                reachedLate,
                live ? steps() : List.of(),
                live ? riskFrom : Optional.empty(),
                live && atRisk));
    }
}

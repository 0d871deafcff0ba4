package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import rafter.core.ticket.Turn;
import rafter.core.time.WorkingTime;

/** One run of one clock while the events of a ticket are walked. Confined to one reckoning. */
final class Stopwatch {

    /**
     * What is promised at a time.
     *
     * @param allowed the working time; nothing when the objective is not promised
     */
    record Terms(Optional<Editions.InForce> policy, Optional<Goal> goal, Optional<Duration> allowed) {

        boolean counts(Turn turn) {
            return goal.isPresent() ? goal.get().countsIn(turn) : turn == Turn.OURS;
        }
    }

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
    /** Since when the present terms hold, and what had been used and walked by then. */
    private Instant termsSince;
    private long usedAtTerms;
    private int segmentsAtTerms;
    private boolean byEdition;
    private OptionalLong owner = OptionalLong.empty();
    private boolean reachedLate;

    Stopwatch(Objective objective, Instant started, Turn turn, Terms terms, WorkingTime fallback, OptionalLong owner, Readings readings) {
        this.objective = objective;
        this.started = started;
        this.fallback = fallback;
        this.readings = readings;
        this.since = started;
        this.termsSince = started;
        this.turn = turn;
        this.terms = terms;
        this.lastPromised = terms.allowed().map(a -> terms);
        this.owner = owner;
        this.hours = hoursOf();
        this.counts = terms.counts(turn);
        this.allowed = terms.allowed().map(Duration::toNanos).orElse(0L);
        this.sinceReading = readings.at(hours, started);
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
    void owner(Instant at, OptionalLong next) {
        if (next.equals(owner)) {
            return;
        }
        owner = next;
        reachedLate = next.isPresent()
                && lastPromised.isPresent()
                && TargetClock.mostlyUsed(usedBy(at), allowed);
    }

    private long usedBy(Instant at) {
        return counts ? usedBefore + readings.at(hours, at) - sinceReading : usedBefore;
    }

    /** The working time that would have been used at a later instant if everything from now on counted. */
    Duration allowedUntil(Instant at, Instant later) {
        return Duration.ofNanos(usedBy(at)).plus(hours.between(at, later));
    }

    /** From here on something else is promised, or nothing; what was used stays used. */
    void promise(Instant at, Terms next, ClockChange.Why why) {
        boolean same = next.allowed().equals(terms.allowed()) && next.policy().equals(terms.policy());
        if (same) {
            return;
        }
        countUntil(at);
        boolean first = lastPromised.isEmpty();
        terms = next;
        counts = terms.counts(turn);
        if (next.allowed().isPresent()) {
            lastPromised = Optional.of(next);
            allowed = next.allowed().get().toNanos();
        }
        hours = hoursOf();
        sinceReading = readings.at(hours, since);
        if (next.allowed().isPresent()) {
            if (first) {
                measureAnew();
            }
            liftedAt = Optional.empty();
        } else if (!first && liftedAt.isEmpty()) {
            liftedAt = Optional.of(at);
        }
        note(at, why);
        termsSince = at;
        usedAtTerms = usedBefore;
        segmentsAtTerms = segments.size();
        byEdition = why == ClockChange.Why.EDITION;
    }

    private void note(Instant at, ClockChange.Why why) {
        if (at.isAfter(started)) {
            if (changes.isEmpty()) {
                changes = new ArrayList<>();
            }
            changes.add(new ClockChange(at, why, terms.policy().map(p -> p.policy().name()), terms.allowed()));
        }
    }

    /** Time before the first promise counts from the objective's own start, in the hours and turns of that promise. */
    private void measureAnew() {
        usedBefore = 0;
        for (int i = 0; i < segments.size(); i++) {
            Segment old = segments.get(i);
            boolean counts = terms.counts(old.turn());
            Duration working = hours.between(old.from(), old.to());
            segments.set(i, new Segment(old.from(), old.to(), old.turn(), counts, working));
            usedBefore = counts ? usedBefore + working.toNanos() : usedBefore;
        }
    }

    /** Goes on after it had been met: the time since then was held while {@code between} had the turn. */
    void resume(Instant at, Turn between) {
        turn = between;
        counts = terms.counts(turn);
        countUntil(at);
        note(at, ClockChange.Why.REOPENED);
    }

    /** The clock as it ended with this, unless nothing was ever promised. */
    Optional<TargetClock> ended(Instant at, ClockState how) {
        countUntil(at);
        return clock(how, crossing(allowed));
    }

    /** The clock as it stands, unless nothing was ever promised. */
    Optional<TargetClock> asOf(Instant now) {
        countUntil(now);
        Optional<Instant> due = crossing(allowed);
        if (!counts) {
            return clock(new ClockState.Held(Duration.ofNanos(allowed - usedBefore)), due);
        }
        return clock(new ClockState.Running(due), due);
    }

    private WorkingTime hoursOf() {
        return terms.policy().or(() -> lastPromised.flatMap(Terms::policy)).map(Editions.InForce::hours).orElse(fallback);
    }

    private void countUntil(Instant at) {
        if (!at.isAfter(since)) {
            return;
        }
        long reading = readings.at(hours, at);
        long working = reading - sinceReading;
        segments.add(new Segment(since, at, turn, counts, Duration.ofNanos(working)));
        usedBefore = counts ? usedBefore + working : usedBefore;
        since = at;
        sinceReading = reading;
    }

    /**
     * The first instant under the present terms at which so much has been used: their beginning when it had been by then. Known for
     * the past, and ahead while time counts. O(s) for s segments under these terms.
     */
    private Optional<Instant> crossing(long target) {
        if (usedAtTerms >= target) {
            return Optional.of(termsSince);
        }
        long used = usedAtTerms;
        if (usedBefore >= target) {
            for (Segment segment : segments.subList(segmentsAtTerms, segments.size())) {
                long after = segment.counts() ? used + segment.working().toNanos() : used;
                if (after >= target) {
                    return hours.add(segment.from(), Duration.ofNanos(target - used));
                }
                used = after;
            }
        }
        return counts ? readings.when(hours, since, sinceReading + target - usedBefore) : Optional.empty();
    }

    private List<TargetClock.StepTime> steps() {
        var times = new ArrayList<TargetClock.StepTime>();
        List<Step> all = terms.policy().map(p -> p.policy().steps()).orElse(List.of());
        for (Step step : all) {
            long target = step.usedAt(Duration.ofNanos(allowed)).toNanos();
            // What a new edition finds past was nobody's promise at the time.
            boolean past = usedAtTerms >= target && byEdition;
            if (step.objective() == objective && !past) {
                crossing(target).ifPresent(at -> times.add(new TargetClock.StepTime(step, at)));
            }
        }
        return times;
    }

    private Optional<TargetClock> clock(ClockState how, Optional<Instant> due) {
        if (lastPromised.isEmpty()) {
            return Optional.empty();
        }
        boolean lifted = terms.allowed().isEmpty();
        boolean late = !lifted && usedBefore >= allowed;
        boolean unknown = lifted || how instanceof ClockState.Held && !late;
        ClockState state = lifted && !(how instanceof ClockState.Void) && !(how instanceof ClockState.Joined)
                ? new ClockState.Lifted(liftedAt.orElse(since))
                : how;
        boolean live = !lifted && (how instanceof ClockState.Running || how instanceof ClockState.Held);
        return Optional.of(new TargetClock(
                objective, lastPromised.flatMap(Terms::policy), started, segments, changes, Duration.ofNanos(usedBefore), Duration.ofNanos(allowed), state, late,
                unknown ? Optional.empty() : due, owner, reachedLate, live ? steps() : List.of()));
    }
}

package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import rafter.core.ticket.Turn;
import rafter.core.time.WorkingTime;

/** One run of one clock while the events of a ticket are walked. Confined to one reckoning. */
final class Stopwatch {

    private final Objective objective;
    private final WorkingTime hours;
    private final Instant started;
    private final List<Segment> segments = new ArrayList<>();
    private Instant since;
    private Turn turn;
    private Duration usedBefore = Duration.ZERO;
    /** What is promised now; nothing when the promise does not hold at present. */
    private Optional<Duration> allowed;
    /** What was promised last; stays when the promise is lifted. */
    private Duration lastAllowed;
    private Optional<Instant> liftedAt = Optional.empty();
    /** Where the time allowed ran out, while it is out. */
    private Optional<Instant> ranOut = Optional.empty();

    Stopwatch(Objective objective, WorkingTime hours, Instant started, Turn turn, Optional<Duration> allowed) {
        this.objective = objective;
        this.hours = hours;
        this.started = started;
        this.since = started;
        this.turn = turn;
        this.allowed = allowed;
        this.lastAllowed = allowed.orElse(Duration.ZERO);
    }

    Objective objective() {
        return objective;
    }

    /** From here on another side has the turn. */
    void turn(Instant at, Turn next) {
        if (next != turn) {
            countUntil(at);
            turn = next;
        }
    }

    /** From here on another duration is promised, or none; what was used stays used. */
    void allow(Instant at, Optional<Duration> next) {
        if (next.equals(allowed)) {
            return;
        }
        countUntil(at);
        if (next.isEmpty()) {
            liftedAt = Optional.of(at);
        }
        allowed = next;
        lastAllowed = next.orElse(lastAllowed);
        ranOut = next.filter(promised -> usedBefore.compareTo(promised) >= 0).map(over -> at);
    }

    /** Goes on after it had been met: the time since then was held while {@code between} had the turn. */
    void resume(Turn between) {
        turn = between;
    }

    /** The clock as it ended, unless nothing was ever promised. */
    Optional<TargetClock> met(Instant at) {
        countUntil(at);
        return clock(new ClockState.Met(at), ranOut.or(() -> mark()));
    }

    /** The clock as it ended without being met, for the ticket is closed; it is late when it was late by then. */
    Optional<TargetClock> lifted(Instant at) {
        countUntil(at);
        return clock(new ClockState.Lifted(at), ranOut);
    }

    /** The clock as it stands, unless nothing was ever promised. */
    Optional<TargetClock> asOf(Instant now) {
        countUntil(now);
        if (!counts()) {
            return clock(new ClockState.Held(lastAllowed.minus(usedBefore)), ranOut);
        }
        Optional<Instant> due = ranOut.or(() -> mark());
        return clock(new ClockState.Running(due), due);
    }

    private boolean counts() {
        return turn == Turn.OURS;
    }

    private Optional<Instant> mark() {
        return allowed.flatMap(promised -> hours.add(since, promised.minus(usedBefore)));
    }

    private void countUntil(Instant at) {
        if (!at.isAfter(since)) {
            return;
        }
        Duration working = hours.between(since, at);
        segments.add(new Segment(since, at, turn, counts(), working));
        if (counts()) {
            noteRunningOut(working);
            usedBefore = usedBefore.plus(working);
        }
        since = at;
    }

    private void noteRunningOut(Duration working) {
        if (ranOut.isEmpty() && allowed.isPresent() && usedBefore.plus(working).compareTo(allowed.get()) >= 0) {
            ranOut = hours.add(since, allowed.get().minus(usedBefore));
        }
    }

    private Optional<TargetClock> clock(ClockState state, Optional<Instant> dueMark) {
        if (allowed.isPresent()) {
            boolean late = usedBefore.compareTo(lastAllowed) >= 0;
            return Optional.of(new TargetClock(
                    objective, started, segments, usedBefore, lastAllowed, state, late, dueMark));
        }
        return liftedAt.map(at -> new TargetClock(
                objective, started, segments, usedBefore, lastAllowed, new ClockState.Lifted(at), false, Optional.empty()));
    }
}

package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import rafter.core.time.WorkingTime;

/**
 * What a list shows of a live clock, as small as it can be kept with its ticket: from it and the hours of its policy follows how the clock
 * stands at any later instant, as long as nothing happens to the ticket and no other edition comes into force.
 *
 * @param policy the key of the policy that promises
 * @param asOf the instant up to which it is told
 * @param running whether time counts; otherwise it is held
 * @param due the instant from which it is or was late; nothing while held in time, or when it never comes
 * @param riskFrom where it comes to be at risk; nothing when it is late, held, or never due
 * @param used the working time that counted
 * @param allowed the working time promised
 * @param parts what its life was made of, in order; neighbours differ
 */
public record ClockOutline(
        Objective objective,
        String policy,
        Instant asOf,
        boolean running,
        Optional<Instant> due,
        Optional<Instant> riskFrom,
        Duration used,
        Duration allowed,
        boolean late,
        List<Part> parts) {

    /**
     * A part of its life.
     *
     * @param counts whether working time in it counted
     * @param working the working time in it; a part that did not count has some
     */
    public record Part(boolean counts, Duration working) {}

    public ClockOutline {
        parts = List.copyOf(parts);
    }

    /**
     * The outline of the clock that matters most: the one that falls due first, else the one with the least time left. Nothing when none is
     * live.
     *
     * @param asOf the instant up to which the clocks were reckoned
     */
    public static Optional<ClockOutline> pressing(List<TargetClock> clocks, Instant asOf) {
        return Reckoning.nextDue(clocks)
                .or(() -> clocks.stream().filter(TargetClock::live).min(Comparator.comparing(TargetClock::left)))
                .map(clock -> of(clock, asOf));
    }

    private static ClockOutline of(TargetClock clock, Instant asOf) {
        return new ClockOutline(
                clock.objective(),
                clock.policy().map(p -> p.policy().id()).orElse(""),
                asOf,
                clock.state() instanceof ClockState.Running,
                clock.dueMark(),
                clock.riskFrom(),
                clock.used(),
                clock.allowed(),
                clock.late(),
                parts(clock.segments()));
    }

    /** Neighbours of one kind as one; held time in which the team was closed anyway is left out. */
    public static List<Part> parts(List<Segment> segments) {
        var parts = new ArrayList<Part>();
        for (Segment next : segments) {
            add(parts, new Part(next.counts(), next.working()));
        }
        return parts;
    }

    private static void add(List<Part> parts, Part next) {
        if (!next.counts() && next.working().isZero()) {
            return;
        }
        if (!parts.isEmpty() && parts.getLast().counts() == next.counts()) {
            Part last = parts.removeLast();
            parts.add(new Part(last.counts(), last.working().plus(next.working())));
        } else {
            parts.add(next);
        }
    }

    /**
     * How the clock stands at a later instant; at an earlier one it is told as it was written.
     *
     * @param hours the hours of its policy
     */
    public ClockOutline at(Instant now, WorkingTime hours) {
        if (!now.isAfter(asOf)) {
            return this;
        }
        Duration since = hours.between(asOf, now);
        var longer = new ArrayList<>(parts);
        add(longer, new Part(running, since));
        boolean lateThen =
                late || (running && due.filter(at -> !at.isAfter(now)).isPresent());
        return new ClockOutline(
                objective,
                policy,
                now,
                running,
                due,
                lateThen ? Optional.empty() : riskFrom,
                running ? used.plus(since) : used,
                allowed,
                lateThen,
                longer);
    }

    /** The working time that is left; negative by what it is over. */
    public Duration left() {
        return allowed.minus(used);
    }

    /** Whether it runs, is not late, and comes to be at risk no later than this. */
    public boolean atRisk() {
        return !late && riskFrom.filter(from -> !from.isAfter(asOf)).isPresent();
    }
}

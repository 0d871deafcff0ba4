package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.time.Interval;
import rafter.core.time.WorkingTime;

/**
 * What is known of where somebody is. From it follows where they are at a moment: what is planned comes before what they said, and what they
 * said counts until their hours next begin or end.
 *
 * @param said what they said last, or somebody for them
 * @param reason why they are away, as they said
 * @param since since when they say so; empty: they never said anything
 * @param idle whether they were set away for touching nothing, and come back by touching something
 * @param seen until when a page of theirs counts as open: it renews that again and again
 * @param absences what is planned
 * @param hours their own hours, or those of their team; empty: they come and go as they say
 */
public record Attendance(
        Presence said,
        String reason,
        Optional<Instant> since,
        boolean idle,
        Optional<Instant> seen,
        List<Absence> absences,
        Optional<WorkingTime> hours) {

    /** Hours further back than this say nothing about today. */
    private static final Duration LOOKED_BACK = Duration.ofDays(8);

    private static final Duration DAY = Duration.ofDays(1);

    public Attendance {
        absences = List.copyOf(absences);
    }

    /** Somebody is not there for a time. */
    public record Absence(long id, Instant from, Instant to, String reason) {
        /** Whether it is now. */
        public boolean at(Instant now) {
            return !now.isBefore(from) && now.isBefore(to);
        }
    }

    /** Where somebody is, and why; the reason may be blank. */
    public record Where(Presence presence, String reason) {}

    /** Where they are. */
    public Where at(Instant now) {
        Optional<Absence> absence = absences.stream().filter(one -> one.at(now)).findFirst();
        if (absence.isPresent()) {
            String why = absence.get().reason();
            return new Where(Presence.AWAY, why.isBlank() ? "planned" : why);
        }
        Where where = saidOrPlanned(now);
        boolean open = seen.filter(until -> now.isBefore(until)).isPresent();
        return where.presence() == Presence.HERE && !open ? new Where(Presence.AWAY, "no page is open") : where;
    }

    private Where saidOrPlanned(Instant now) {
        Where byThemselves = new Where(said, said == Presence.AWAY ? idle ? "touched nothing" : reason : "");
        if (hours.isEmpty()) {
            return byThemselves;
        }
        boolean open = hours.get().isOpen(now);
        Optional<Instant> turned = hours.get().openings(now.minus(LOOKED_BACK), now.plusSeconds(1)).stream()
                .reduce((a, b) -> b)
                .map(last -> open ? last.startInclusive() : last.endExclusive());
        boolean saidSince = since.filter(at -> turned.isEmpty() || !at.isBefore(turned.get()))
                .isPresent();
        if (saidSince) {
            return byThemselves;
        }
        return open ? new Where(Presence.HERE, "") : new Where(Presence.OFF, "outside of their hours");
    }

    /**
     * How much of their day is left: until their hours end, or an absence begins that is planned.
     *
     * @param unplanned what is left of somebody who has no hours
     */
    public Duration left(Instant now, Duration unplanned) {
        Instant end = hours.map(open -> open.openings(now, now.plus(DAY)).stream()
                        .findFirst()
                        .filter(opening -> opening.startInclusive().equals(now))
                        .map(Interval::endExclusive)
                        .orElse(now))
                .orElse(now.plus(unplanned));
        Instant until = absences.stream()
                .map(Absence::from)
                .filter(from -> from.isAfter(now) && from.isBefore(end))
                .min(Instant::compareTo)
                .orElse(end);
        return Duration.between(now, until);
    }

    /** When they are next at work by what is planned, after now; nothing when nothing is planned, or they are at work. */
    public Optional<Instant> back(Instant now) {
        if (at(now).presence() == Presence.HERE) {
            return Optional.empty();
        }
        Instant from = absences.stream()
                .filter(one -> one.at(now))
                .map(Absence::to)
                .max(Instant::compareTo)
                .orElse(now);
        return hours.isEmpty()
                ? absences.stream().filter(one -> one.at(now)).map(Absence::to).max(Instant::compareTo)
                : hours.get().nextOpen(from);
    }
}

package rafter.core.target;

import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import rafter.core.criteria.Facts;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.TicketEvent;

/**
 * Runs a changed book over recorded history and compares: how each clock that began in a period ended under the promises of the time, and
 * how it would have ended had the changed book always been in force. Takes tickets one by one and keeps only sums, so its memory does not
 * grow with their number. Not safe for use by several threads; {@link #add} joins the sums of several.
 */
public final class Rehearsal {

    /** So many changed tickets are kept by name. */
    private static final int MOST_CHANGED = 300;

    /** How a clock ended. */
    public enum Ending {
        MET("met"),
        MISSED("missed"),
        /** It says nothing: it still runs in time, was lifted, or was never promised. */
        NONE("not promised, or open");

        private final String words;

        Ending(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Met and missed, under the promises of the time and under the changed ones. */
    public record Tally(long metNow, long missedNow, long metThen, long missedThen) {
        static final Tally NONE = new Tally(0, 0, 0, 0);

        Tally with(Ending now, Ending then) {
            return new Tally(
                    metNow + (now == Ending.MET ? 1 : 0),
                    missedNow + (now == Ending.MISSED ? 1 : 0),
                    metThen + (then == Ending.MET ? 1 : 0),
                    missedThen + (then == Ending.MISSED ? 1 : 0));
        }

        Tally plus(Tally o) {
            return new Tally(
                    metNow + o.metNow, missedNow + o.missedNow, metThen + o.metThen, missedThen + o.missedThen);
        }
    }

    /** A clock that would have ended otherwise. */
    public record Changed(TicketNumber ticket, Objective objective, Instant started, Ending now, Ending then) {}

    /** Names a run of a clock, whatever was promised for it. */
    private record Started(Objective objective, Instant at) {}

    private final Editions now;
    private final Editions then;
    private final Instant from;
    private final Instant to;
    private final ZoneId zone;
    private final Map<Objective, Tally> byObjective = new EnumMap<>(Objective.class);
    private final Map<TeamId, Tally> byTeam = new TreeMap<>();
    private final Map<Integer, Tally> byHour = new TreeMap<>();
    private final List<Changed> changed = new ArrayList<>();
    private long changedTotal;
    private long tickets;

    /**
     * @param now what was in force
     * @param book what is rehearsed
     * @param from clocks that began before are left out
     * @param to as of this instant
     */
    public Rehearsal(Editions now, Editions book, Instant from, Instant to) {
        this.now = now;
        this.then = book;
        this.from = from;
        this.to = to;
        this.zone = book.latest().book().zone();
    }

    /** Takes one ticket; {@code team} is the id of its team, or zero. */
    public void take(TicketNumber ticket, TeamId team, Facts customer, List<TicketEvent> events) {
        Map<Started, Ending> before = endings(Reckoning.reckon(events, customer, now, to));
        Map<Started, Ending> after = endings(Reckoning.reckon(events, customer, then, to));
        var all = new ArrayList<>(before.keySet());
        after.keySet().stream().filter(key -> !before.containsKey(key)).forEach(all::add);
        for (Started key : all) {
            if (!key.at().isBefore(from)) {
                count(ticket, team, key, before.getOrDefault(key, Ending.NONE), after.getOrDefault(key, Ending.NONE));
            }
        }
        tickets++;
    }

    private void count(TicketNumber ticket, TeamId team, Started key, Ending before, Ending after) {
        byObjective.merge(key.objective(), Tally.NONE.with(before, after), Tally::plus);
        byTeam.merge(team, Tally.NONE.with(before, after), Tally::plus);
        ZonedDateTime local = key.at().atZone(zone);
        byHour.merge(
                (local.getDayOfWeek().getValue() - 1) * 24 + local.getHour(),
                Tally.NONE.with(before, after),
                Tally::plus);
        if (before != after) {
            changedTotal++;
            if (changed.size() < MOST_CHANGED) {
                changed.add(new Changed(ticket, key.objective(), key.at(), before, after));
            }
        }
    }

    private static Map<Started, Ending> endings(List<TargetClock> clocks) {
        var endings = new HashMap<Started, Ending>();
        for (TargetClock clock : clocks) {
            Ending ending = !clock.counts() ? Ending.NONE : clock.late() ? Ending.MISSED : Ending.MET;
            endings.put(new Started(clock.objective(), clock.started()), ending);
        }
        return endings;
    }

    /** Adds the sums of another part of the same rehearsal. */
    public void add(Rehearsal other) {
        other.byObjective.forEach((key, tally) -> byObjective.merge(key, tally, Tally::plus));
        other.byTeam.forEach((key, tally) -> byTeam.merge(key, tally, Tally::plus));
        other.byHour.forEach((key, tally) -> byHour.merge(key, tally, Tally::plus));
        changedTotal += other.changedTotal;
        tickets += other.tickets;
        changed.addAll(other.changed);
        changed.sort(Comparator.comparing(Changed::ticket).thenComparing(Changed::started));
        if (changed.size() > MOST_CHANGED) {
            changed.subList(MOST_CHANGED, changed.size()).clear();
        }
    }

    /**
     * What came of it.
     *
     * @param byHour by hour of the week, Monday's first hour being zero
     * @param changed the first of the clocks that would have ended otherwise
     */
    public record Result(
            long tickets,
            Map<Objective, Tally> byObjective,
            Map<TeamId, Tally> byTeam,
            Map<Integer, Tally> byHour,
            List<Changed> changed,
            long changedTotal) {}

    public Result result() {
        return new Result(
                tickets,
                new EnumMap<>(byObjective),
                new TreeMap<>(byTeam),
                new TreeMap<>(byHour),
                List.copyOf(changed),
                changedTotal);
    }
}

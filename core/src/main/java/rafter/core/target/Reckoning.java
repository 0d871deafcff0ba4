package rafter.core.target;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.time.WorkingTime;

/**
 * Reckons the clocks of a ticket: a pure function of its events, the promise, the opening hours and the instant up to which
 * time has passed. Costs O(e log n) for e events and n openings of the calendar.
 *
 * <p>First reply runs from creation in our turn until a person of ours writes to the customer. Next reply runs from the
 * first message of the customer's since our last one, and only once we have answered at all: until then the first reply is
 * what they wait for. Resolution runs from creation until an ending state; when the ticket is taken up again it goes on from
 * what had been used. All are held while the turn is not ours. What still waits for a reply when a ticket is closed ends as lifted. Automatic messages of either side start and meet nothing.
 */
public final class Reckoning {

    private final Promise promise;
    private final WorkingTime hours;
    private final Map<Objective, Stopwatch> running = new EnumMap<>(Objective.class);
    private final List<TargetClock> ended = new ArrayList<>();
    private Optional<Stopwatch> resolved = Optional.empty();
    private Turn turn = Turn.OURS;
    private Priority priority = Priority.P3;
    private boolean answeredOnce;
    private Instant last = Instant.MIN;

    private Reckoning(Promise promise, WorkingTime hours) {
        this.promise = promise;
        this.hours = hours;
    }

    /**
     * All runs of all clocks of a ticket: those that ended, in order of their ending, then those that are live, in order of
     * their objective.
     *
     * @param events the ticket's events, oldest first
     * @param now the instant up to which time has passed; events after it have not happened
     */
    public static List<TargetClock> reckon(List<TicketEvent> events, Promise promise, WorkingTime hours, Instant now) {
        var reckoning = new Reckoning(promise, hours);
        for (TicketEvent event : events) {
            if (event.at().isAfter(now)) {
                break;
            }
            reckoning.walk(event);
        }
        return reckoning.asOf(now);
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
        last = at;
        switch (event) {
            case TicketEvent.Opened e -> opened(e, at);
            case TicketEvent.CustomerWrote e when !e.automatic() && answeredOnce -> start(Objective.NEXT_REPLY, at);
            case TicketEvent.WeWrote e when !e.automatic() && e.actor() instanceof Actor.Person -> answered(at);
            case TicketEvent.StateChanged e -> moved(e, at);
            case TicketEvent.PriorityChanged e -> prioritised(e.priority(), at);
            default -> {}
        }
    }

    private void opened(TicketEvent.Opened event, Instant at) {
        priority = event.priority();
        if (event.origin() == TicketEvent.Origin.CUSTOMER) {
            start(Objective.FIRST_REPLY, at);
        }
        start(Objective.RESOLUTION, at);
    }

    private void start(Objective objective, Instant at) {
        running.computeIfAbsent(
                objective, o -> new Stopwatch(o, hours, at, turn, promise.of(o, priority)));
    }

    private void answered(Instant at) {
        answeredOnce = true;
        meet(Objective.FIRST_REPLY, at);
        meet(Objective.NEXT_REPLY, at);
    }

    private void meet(Objective objective, Instant at) {
        Stopwatch watch = running.remove(objective);
        if (watch != null) {
            watch.met(at).ifPresent(ended::add);
            if (objective == Objective.RESOLUTION) {
                resolved = Optional.of(watch);
            }
        }
    }

    private void moved(TicketEvent.StateChanged event, Instant at) {
        Turn before = turn;
        turn = event.state().turn();
        if (event.state().ending()) {
            meet(Objective.RESOLUTION, at);
        } else {
            resolved.ifPresent(watch -> takeUpAgain(watch, at, before));
        }
        running.values().forEach(watch -> watch.turn(at, turn));
        if (event.state().equals(TicketState.CLOSED)) {
            running.values().forEach(watch -> watch.lifted(at).ifPresent(ended::add));
            running.clear();
        }
    }

    /** That it was met does not count any more; its history goes on in the same run. */
    private void takeUpAgain(Stopwatch watch, Instant at, Turn between) {
        ended.removeIf(clock -> clock.objective() == Objective.RESOLUTION);
        watch.resume(between);
        watch.allow(at, promise.of(Objective.RESOLUTION, priority));
        running.put(Objective.RESOLUTION, watch);
        resolved = Optional.empty();
    }

    private void prioritised(Priority next, Instant at) {
        priority = next;
        running.values().forEach(watch -> watch.allow(at, promise.of(watch.objective(), next)));
    }

    private List<TargetClock> asOf(Instant now) {
        var all = new ArrayList<>(ended);
        running.values().forEach(watch -> watch.asOf(now).ifPresent(all::add));
        return List.copyOf(all);
    }
}

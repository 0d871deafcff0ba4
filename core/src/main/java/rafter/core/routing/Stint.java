package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;

/**
 * A time during which somebody had a ticket and it was our turn: what counts as load.
 *
 * @param to empty: they have it still
 */
public record Stint(PersonId person, Instant from, Optional<Instant> to) {

    /** Those of one ticket, in the order of time; none is empty. O(n) for n events. */
    public static List<Stint> of(List<TicketEvent> events) {
        var stints = new ArrayList<Stint>();
        Optional<Stint> open = Optional.empty();
        Optional<Ticket> ticket = Optional.empty();
        for (TicketEvent event : events) {
            Ticket after = ticket.map(one -> one.after(event)).orElseGet(() -> Ticket.replay(List.of(event)));
            ticket = Optional.of(after);
            Optional<PersonId> has = has(after);
            if (has.equals(open.map(Stint::person))) {
                continue;
            }
            open.filter(one -> one.from().isBefore(event.at()))
                    .ifPresent(one -> stints.add(new Stint(one.person(), one.from(), Optional.of(event.at()))));
            open = has.map(person -> new Stint(person, event.at(), Optional.empty()));
        }
        open.ifPresent(stints::add);
        return stints;
    }

    private static Optional<PersonId> has(Ticket ticket) {
        boolean counts = ticket.open()
                && ticket.turn() == Turn.OURS
                && !ticket.discarded()
                && ticket.joinedInto().isEmpty();
        return counts ? ticket.owner() : Optional.empty();
    }

    /** Whether it is at an instant. */
    public boolean at(Instant instant) {
        return !instant.isBefore(from)
                && to.filter(end -> !instant.isBefore(end)).isEmpty();
    }

    /**
     * How many tickets each had, at an instant and then at every step. O(n + frames · people) for n stints.
     *
     * @param many how many frames, the beginning among them
     */
    public static List<Map<PersonId, Integer>> loads(Collection<Stint> stints, Instant from, Duration step, int many) {
        List<Map<PersonId, Integer>> changes = new ArrayList<>();
        for (int i = 0; i < many; i++) {
            changes.add(new HashMap<>());
        }
        for (Stint one : stints) {
            change(changes, one.person(), frame(one.from(), from, step), 1);
            one.to().ifPresent(end -> change(changes, one.person(), frame(end, from, step), -1));
        }
        var now = new HashMap<PersonId, Integer>();
        return changes.stream()
                .map(change -> {
                    change.forEach((person, by) -> now.merge(person, by, Integer::sum));
                    return Map.copyOf(now);
                })
                .toList();
    }

    /** The first frame in which something that happened then is seen. */
    private static long frame(Instant at, Instant from, Duration step) {
        long passed = Duration.between(from, at).toMillis();
        return passed <= 0 ? 0 : (passed + step.toMillis() - 1) / step.toMillis();
    }

    private static void change(List<Map<PersonId, Integer>> changes, PersonId person, long frame, int by) {
        if (frame < changes.size()) {
            changes.get((int) frame).merge(person, by, Integer::sum);
        }
    }
}

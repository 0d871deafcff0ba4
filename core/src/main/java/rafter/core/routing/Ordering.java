package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import rafter.core.ticket.Priority;

/** In which order tickets of a queue come. */
public sealed interface Ordering {

    /** What comes first is least. Those alike come by their numbers, so that an order is one. */
    Comparator<Waiting> comparator(Instant now);

    /** It, as people read it. */
    String words();

    /** What falls due next; what has no target comes last. */
    record Due() implements Ordering {
        @Override
        public Comparator<Waiting> comparator(Instant now) {
            return Comparator.comparing((Waiting one) -> one.due().orElse(Instant.MAX))
                    .thenComparing(Waiting::since)
                    .thenComparing(Waiting::number);
        }

        @Override
        public String words() {
            return "what falls due next";
        }
    }

    /** What has waited longest. */
    record Oldest() implements Ordering {
        @Override
        public Comparator<Waiting> comparator(Instant now) {
            return Comparator.comparing(Waiting::since).thenComparing(Waiting::number);
        }

        @Override
        public String words() {
            return "what has waited longest";
        }
    }

    /**
     * By points: so many for each step of priority, for a plan, and for each hour that it waits.
     *
     * @param priority for each step above P4
     * @param plan when the customer has a plan
     * @param hour for each hour of waiting
     */
    record Weighted(int priority, int plan, int hour) implements Ordering {

        public static final int MOST = 1_000;

        @Override
        public Comparator<Waiting> comparator(Instant now) {
            return Comparator.comparingDouble((Waiting one) -> -points(one, now))
                    .thenComparing(Waiting::since)
                    .thenComparing(Waiting::number);
        }

        /** The points of a ticket. */
        public double points(Waiting one, Instant now) {
            double waited = Math.max(0, Duration.between(one.since(), now).toSeconds() / 3600.0);
            return priority * (Priority.P4.ordinal() - one.priority().ordinal())
                    + (one.plan().isBlank() ? 0 : plan)
                    + hour * waited;
        }

        @Override
        public String words() {
            return priority + " points for each step of priority, " + plan + " for a plan, " + hour
                    + " for each hour of waiting";
        }
    }

    /** These in order. O(n log n). */
    default List<Waiting> sorted(List<Waiting> waiting, Instant now) {
        return waiting.stream().sorted(comparator(now)).toList();
    }
}

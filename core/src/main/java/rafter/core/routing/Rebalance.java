package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;

/**
 * Hands everything out anew: who should have which ticket, as an optimum over all people who are here, what they can, what they take at once,
 * what falls due, and what it costs that a ticket changes hands. The optimum is a minimum-cost flow from the tickets through the people, see
 * {@link HandOutFlow}; that it is one, or how far from one, is told by a bound that holds for every other way to hand out.
 */
public final class Rebalance {

    /** What one ticket takes of somebody's time, on average. */
    public static final Duration EACH = Duration.ofMinutes(20);

    /** What it costs, in points, that a ticket goes from somebody who is here to somebody else. */
    static final int CHANGES_HANDS = 25;
    /** The same, when who has it is not here. */
    static final int TAKEN_OVER = 5;
    /** To who lacks the ease of an expert, and does not write the language. */
    static final int MISFIT = 20;

    static final int OTHER_LANGUAGE = 5;
    /** To who will come to it when it is late. */
    static final int LATE = 40;
    /** That it stays with somebody who is not here, and falls due before long. */
    static final int STAYS_UNATTENDED = 50;

    static final int STAYS_FOR_LATER = 10;
    /** That somebody keeps more than they take. */
    static final int TOO_MUCH = 60;
    /** That nobody gets it. */
    static final int NOBODY = 90;
    /** That it is one more for somebody: so much for each that they have already. */
    static final int ONE_MORE = 4;

    static final Duration BEFORE_LONG = Duration.ofHours(4);

    private Rebalance() {}

    /**
     * A ticket on which it is our turn.
     *
     * @param owner who has it; nothing when it waits in a queue
     * @param pool the teams whose people come into question
     * @param needs all the skills that it needs
     */
    public record Item(Waiting ticket, Optional<PersonId> owner, Set<TeamId> pool, Set<SkillId> needs) {
        public Item {
            pool = Set.copyOf(pool);
            needs = Set.copyOf(needs);
        }
    }

    /** A ticket that is to change hands, and why. */
    public record Move(Waiting ticket, Optional<PersonId> from, PersonId to, String why) {}

    /**
     * What is proposed.
     *
     * @param cost of the proposal, in points
     * @param bound no way to hand out costs less
     * @param costNow what it costs to leave everything as it is
     * @param lateNow how many tickets will be late as it is, {@code lateThen} as proposed
     */
    public record Plan(List<Move> moves, long cost, long bound, long costNow, int lateNow, int lateThen) {
        public Plan {
            moves = List.copyOf(moves);
        }

        /** By how much of a hundred it may be away from the best there is, at most. */
        public double gap() {
            return cost <= bound ? 0 : 100.0 * (cost - bound) / Math.max(1, Math.abs(cost));
        }
    }

    /**
     * Proposes who should have what. O(t · p) for t tickets and p people, and the flow.
     *
     * @param people everybody; who is not here keeps what they have, or loses it
     */
    public static Plan plan(List<Item> items, Collection<Worker> people, Instant now) {
        List<Worker> all =
                people.stream().sorted(Comparator.comparing(Worker::id)).toList();
        var costs = new HandOutCosts(items, all, now);
        HandOutFlow.Solution solution = HandOutFlow.solve(costs);
        int[] to = withinUnits(items, all, costs, solution.to());
        int[] from = costs.owners();
        return new Plan(
                moves(items, all, costs, to),
                costs.total(to),
                solution.bound(),
                costs.total(from),
                late(items, all, costs, from, now),
                late(items, all, costs, to, now));
    }

    /** What tickets take can differ, and the flow counts tickets: whoever would get too much gives the dearest moves back. */
    private static int[] withinUnits(List<Item> items, List<Worker> people, HandOutCosts costs, int[] to) {
        int[] within = to.clone();
        double[] used = new double[people.size()];
        for (int t = 0; t < within.length; t++) {
            if (within[t] >= 0 && people.get(within[t]).presence() == Presence.HERE) {
                used[within[t]] += items.get(t).ticket().units();
            }
        }
        int[] dearest = IntStream.range(0, within.length)
                .boxed()
                .sorted(Comparator.comparingInt((Integer t) -> within[t] < 0 ? 0 : -costs.of(t, within[t])))
                .mapToInt(Integer::intValue)
                .toArray();
        for (int t : dearest) {
            int person = within[t];
            if (person >= 0
                    && person != costs.owner(t)
                    && used[person] > people.get(person).limit() + 1e-9) {
                used[person] -= items.get(t).ticket().units();
                within[t] = costs.owner(t);
            }
        }
        return within;
    }

    private static List<Move> moves(List<Item> items, List<Worker> people, HandOutCosts costs, int[] to) {
        var moves = new ArrayList<Move>();
        for (int t = 0; t < to.length; t++) {
            if (to[t] >= 0 && to[t] != costs.owner(t)) {
                Item item = items.get(t);
                moves.add(new Move(
                        item.ticket(), item.owner(), people.get(to[t]).id(), why(item, people, costs, t, to[t])));
            }
        }
        return moves;
    }

    private static String why(Item item, List<Worker> people, HandOutCosts costs, int ticket, int to) {
        Worker gets = people.get(to);
        int owner = costs.owner(ticket);
        if (owner < 0) {
            return item.owner().isPresent()
                    ? "who had it works here no more"
                    : "nobody has it, and " + gets.name() + " can take it";
        }
        Worker has = people.get(owner);
        if (has.unavailable().isPresent()) {
            return has.name() + " " + has.unavailable().orElseThrow();
        }
        if (costs.lateAt(ticket, owner) && !costs.lateAt(ticket, to)) {
            return has.name() + " would come to it when it is late, " + gets.name() + " in time";
        }
        if (!BestFit.covers(has, item.needs())) {
            return has.name() + " lacks a skill that it needs";
        }
        return has.name() + " has more to do than " + gets.name();
    }

    /**
     * How many will be late: everybody works on theirs by what falls due first, and who is done with them on what nobody has.
     *
     * @param to who has which ticket, by their place among the people; less than zero for nobody
     */
    private static int late(List<Item> items, List<Worker> people, HandOutCosts costs, int[] to, Instant now) {
        int[] order = IntStream.range(0, to.length)
                .boxed()
                .sorted(Comparator.comparing((Integer t) -> due(items.get(t))))
                .mapToInt(Integer::intValue)
                .toArray();
        long[] done = new long[people.size()];
        int late = 0;
        for (int t : order) {
            if (to[t] >= 0) {
                boolean here = people.get(to[t]).presence() == Presence.HERE;
                done[to[t]] += here ? EACH.toMinutes() : 0;
                late += isLate(items.get(t), here ? done[to[t]] : BEFORE_LONG.toMinutes(), now) ? 1 : 0;
            }
        }
        for (int t : order) {
            if (to[t] < 0) {
                int first = doneFirst(done, t, costs);
                if (first >= 0) {
                    done[first] += EACH.toMinutes();
                }
                late += isLate(items.get(t), first < 0 ? BEFORE_LONG.toMinutes() : done[first], now) ? 1 : 0;
            }
        }
        return late;
    }

    /** Who of those who could take a ticket is done with theirs first; less than zero when nobody could. */
    private static int doneFirst(long[] done, int ticket, HandOutCosts costs) {
        int first = -1;
        for (int p = 0; p < done.length; p++) {
            if (costs.able(ticket, p) && (first < 0 || done[p] < done[first])) {
                first = p;
            }
        }
        return first;
    }

    static boolean isLate(Item item, long minutes, Instant now) {
        return item.ticket()
                .due()
                .filter(due -> due.isBefore(now.plus(Duration.ofMinutes(minutes))))
                .isPresent();
    }

    static Instant due(Item item) {
        return item.ticket().due().orElse(Instant.MAX);
    }
}

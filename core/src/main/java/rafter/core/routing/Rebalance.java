package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
    static final Duration EACH = Duration.ofMinutes(20);

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

    private static final Duration BEFORE_LONG = Duration.ofHours(4);

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
        var costs = new Costs(items, all, now);
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
    private static int[] withinUnits(List<Item> items, List<Worker> people, Costs costs, int[] to) {
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

    private static List<Move> moves(List<Item> items, List<Worker> people, Costs costs, int[] to) {
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

    private static String why(Item item, List<Worker> people, Costs costs, int ticket, int to) {
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
    private static int late(List<Item> items, List<Worker> people, Costs costs, int[] to, Instant now) {
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
                int first = -1;
                for (int p = 0; p < done.length; p++) {
                    if (costs.able(t, p) && (first < 0 || done[p] < done[first])) {
                        first = p;
                    }
                }
                if (first >= 0) {
                    done[first] += EACH.toMinutes();
                }
                late += isLate(items.get(t), first < 0 ? BEFORE_LONG.toMinutes() : done[first], now) ? 1 : 0;
            }
        }
        return late;
    }

    private static boolean isLate(Item item, long minutes, Instant now) {
        return item.ticket()
                .due()
                .filter(due -> due.isBefore(now.plus(Duration.ofMinutes(minutes))))
                .isPresent();
    }

    static Instant due(Item item) {
        return item.ticket().due().orElse(Instant.MAX);
    }

    /** What each way to hand out a ticket costs. */
    static final class Costs {
        /** Nobody may get it so. */
        static final int NEVER = Integer.MAX_VALUE / 4;

        private final int[][] of;
        private final boolean[][] late;
        private final boolean[] here;
        private final int[] owner;
        private final int[] nobody;
        private final int[] slots;
        private final int[] over;

        Costs(List<Item> items, List<Worker> people, Instant now) {
            Map<PersonId, Integer> places = new HashMap<>();
            for (int p = 0; p < people.size(); p++) {
                places.put(people.get(p).id(), p);
            }
            owner = items.stream()
                    .mapToInt(item ->
                            item.owner().map(id -> places.getOrDefault(id, -1)).orElse(-1))
                    .toArray();
            here = new boolean[people.size()];
            slots = new int[people.size()];
            over = new int[people.size()];
            double each = items.stream()
                    .mapToDouble(item -> item.ticket().units())
                    .filter(units -> units > 0)
                    .average()
                    .orElse(1);
            for (int p = 0; p < people.size(); p++) {
                here[p] = people.get(p).unavailable().isEmpty();
                slots[p] = here[p] ? (int) Math.floor(people.get(p).limit() / each + 1e-9) : 0;
                int place = p;
                int has = (int) Arrays.stream(owner).filter(one -> one == place).count();
                over[p] = Math.max(0, has - slots[p]);
            }
            Instant[][] dues = dues(items, people.size());
            int[] ranks = ranks(items);
            of = new int[items.size()][];
            late = new boolean[items.size()][];
            nobody = new int[items.size()];
            for (int t = 0; t < items.size(); t++) {
                of[t] = new int[people.size()];
                late[t] = new boolean[people.size()];
                nobody[t] = owner[t] >= 0 ? NEVER : NOBODY;
                for (int p = 0; p < people.size(); p++) {
                    late[t][p] = isLate(
                            items.get(t),
                            ((owner[t] == p ? ranks[t] : before(dues[p], items.get(t))) + 1) * EACH.toMinutes(),
                            now);
                    of[t][p] = cost(items.get(t), t, people.get(p), p);
                }
            }
            this.soon = new boolean[items.size()];
            for (int t = 0; t < soon.length; t++) {
                soon[t] = isLate(items.get(t), BEFORE_LONG.toMinutes(), now);
            }
        }

        private final boolean[] soon;

        /** When what each has falls due, the first first. */
        private Instant[][] dues(List<Item> items, int people) {
            var all = new ArrayList<List<Instant>>();
            for (int p = 0; p < people; p++) {
                all.add(new ArrayList<>());
            }
            for (int t = 0; t < owner.length; t++) {
                if (owner[t] >= 0) {
                    all.get(owner[t]).add(due(items.get(t)));
                }
            }
            return all.stream()
                    .map(one -> one.stream().sorted().toArray(Instant[]::new))
                    .toArray(Instant[][]::new);
        }

        /** How many of what its owner has come before each ticket. */
        private int[] ranks(List<Item> items) {
            int[] ranks = new int[owner.length];
            int[] has = new int[slots.length];
            IntStream.range(0, owner.length)
                    .boxed()
                    .sorted(Comparator.comparing((Integer t) -> due(items.get(t)))
                            .thenComparing(t -> items.get(t).ticket().number()))
                    .filter(t -> owner[t] >= 0)
                    .forEach(t -> ranks[t] = has[owner[t]]++);
            return ranks;
        }

        /** How many of somebody's fall due no later than a ticket that somebody else has. */
        private static int before(Instant[] dues, Item item) {
            Instant due = due(item);
            int low = 0;
            int high = dues.length;
            while (low < high) {
                int middle = (low + high) >>> 1;
                if (!dues[middle].isAfter(due)) {
                    low = middle + 1;
                } else {
                    high = middle;
                }
            }
            return low;
        }

        private int cost(Item item, int ticket, Worker person, int place) {
            boolean owns = owner[ticket] == place;
            // Who has too much already gets nothing more, not even in the place of something else.
            boolean able = here[place]
                    && over[place] == 0
                    && person.teams().stream().anyMatch(item.pool()::contains)
                    && BestFit.covers(person, item.needs());
            if (!here[place] || (!able && !owns)) {
                return NEVER;
            }
            int change = owner[ticket] < 0 ? 0 : owns ? 0 : here[owner[ticket]] ? CHANGES_HANDS : TAKEN_OVER;
            double worth = BestFit.skills(person, item.needs());
            int language = BestFit.language(person, item.ticket().language()) == 0 ? OTHER_LANGUAGE : 0;
            return change + (int) Math.round(MISFIT * (1 - worth)) + language + (late[ticket][place] ? LATE : 0);
        }

        int tickets() {
            return of.length;
        }

        int people() {
            return slots.length;
        }

        /** What it costs that somebody gets, or keeps within what they take, a ticket; {@link #NEVER} when they must not. */
        int of(int ticket, int person) {
            return of[ticket][person];
        }

        boolean able(int ticket, int person) {
            return of[ticket][person] < NEVER;
        }

        boolean lateAt(int ticket, int person) {
            return late[ticket][person];
        }

        int owner(int ticket) {
            return owner[ticket];
        }

        int[] owners() {
            return owner.clone();
        }

        /** What it costs that nobody gets it. */
        int nobody(int ticket) {
            return nobody[ticket];
        }

        /** How many somebody takes. */
        int slots(int person) {
            return slots[person];
        }

        /** How many somebody has beyond that, and may keep. */
        int over(int person) {
            return over[person];
        }

        /** What it costs that its owner keeps it beyond what they take, or while they are not here. */
        int stays(int ticket) {
            int has = owner[ticket];
            if (has < 0 || over[has] == 0) {
                return NEVER;
            }
            return here[has] ? TOO_MUCH + of[ticket][has] : soon[ticket] ? STAYS_UNATTENDED : STAYS_FOR_LATER;
        }

        /** What it costs that somebody has one more than so many. */
        static int oneMore(int has) {
            return ONE_MORE * has;
        }

        /** What a way to hand everything out costs; of too many that somebody has, those that cost least to keep count as kept. */
        long total(int[] to) {
            long sum = 0;
            var mine = new ArrayList<List<Integer>>();
            for (int p = 0; p < slots.length; p++) {
                mine.add(new ArrayList<>());
            }
            for (int t = 0; t < to.length; t++) {
                if (to[t] < 0) {
                    sum += Math.min(nobody[t], NOBODY);
                } else {
                    mine.get(to[t]).add(t);
                }
            }
            for (int p = 0; p < slots.length; p++) {
                List<Integer> has = mine.get(p);
                int place = p;
                has.sort(Comparator.comparingInt((Integer t) ->
                        owner[t] == place && stays(t) < NEVER ? of[t][place] - stays(t) : Integer.MIN_VALUE));
                for (int k = 0; k < has.size(); k++) {
                    int t = has.get(k);
                    sum += k < slots[p] ? of[t][p] + oneMore(k) : stays(t) < NEVER ? stays(t) : TOO_MUCH + LATE;
                }
            }
            return sum;
        }
    }
}

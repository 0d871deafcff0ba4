package rafter.core.routing;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import rafter.core.id.PersonId;

/** What each way to hand out a ticket costs, in points; see {@link Rebalance}. */
final class HandOutCosts {
    /** Nobody may get it so. */
    static final int NEVER = Integer.MAX_VALUE / 4;

    private final int[][] of;
    private final boolean[][] late;
    private final boolean[] soon;
    private final boolean[] here;
    private final int[] owner;
    private final int[] nobody;
    private final int[] slots;
    private final int[] over;

    HandOutCosts(List<Rebalance.Item> items, List<Worker> people, Instant now) {
        owner = owners(items, people);
        here = new boolean[people.size()];
        slots = new int[people.size()];
        over = new int[people.size()];
        room(items, people);
        of = new int[items.size()][];
        late = new boolean[items.size()][];
        nobody = new int[items.size()];
        reckon(items, people, now);
        soon = new boolean[items.size()];
        for (int t = 0; t < soon.length; t++) {
            soon[t] = Rebalance.isLate(items.get(t), Rebalance.BEFORE_LONG.toMinutes(), now);
        }
    }

    /** Who has which ticket, by their place among the people; less than zero for nobody of them. */
    private static int[] owners(List<Rebalance.Item> items, List<Worker> people) {
        Map<PersonId, Integer> places = new HashMap<>();
        for (int p = 0; p < people.size(); p++) {
            places.put(people.get(p).id(), p);
        }
        return items.stream()
                .mapToInt(item ->
                        item.owner().map(id -> places.getOrDefault(id, -1)).orElse(-1))
                .toArray();
    }

    /** Who is here, how many each takes, and how many more than that they have. */
    private void room(List<Rebalance.Item> items, List<Worker> people) {
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
    }

    /** What each ticket costs with each person, and whether it would be late there. */
    private void reckon(List<Rebalance.Item> items, List<Worker> people, Instant now) {
        Instant[][] dues = dues(items, people.size());
        int[] ranks = ranks(items);
        for (int t = 0; t < items.size(); t++) {
            of[t] = new int[people.size()];
            late[t] = new boolean[people.size()];
            nobody[t] = owner[t] >= 0 ? NEVER : Rebalance.NOBODY;
            for (int p = 0; p < people.size(); p++) {
                late[t][p] = Rebalance.isLate(
                        items.get(t),
                        ((owner[t] == p ? ranks[t] : before(dues[p], items.get(t))) + 1) * Rebalance.EACH.toMinutes(),
                        now);
                of[t][p] = cost(items.get(t), t, people.get(p), p);
            }
        }
    }

    /** When what each has falls due, the first first. */
    private Instant[][] dues(List<Rebalance.Item> items, int people) {
        var all = new ArrayList<List<Instant>>();
        for (int p = 0; p < people; p++) {
            all.add(new ArrayList<>());
        }
        for (int t = 0; t < owner.length; t++) {
            if (owner[t] >= 0) {
                all.get(owner[t]).add(Rebalance.due(items.get(t)));
            }
        }
        return all.stream()
                .map(one -> one.stream().sorted().toArray(Instant[]::new))
                .toArray(Instant[][]::new);
    }

    /** How many of what its owner has come before each ticket. */
    private int[] ranks(List<Rebalance.Item> items) {
        int[] ranks = new int[owner.length];
        int[] has = new int[slots.length];
        IntStream.range(0, owner.length)
                .boxed()
                .sorted(Comparator.comparing((Integer t) -> Rebalance.due(items.get(t)))
                        .thenComparing(t -> items.get(t).ticket().number()))
                .filter(t -> owner[t] >= 0)
                .forEach(t -> ranks[t] = has[owner[t]]++);
        return ranks;
    }

    /** How many of somebody's fall due no later than a ticket that somebody else has. */
    private static int before(Instant[] dues, Rebalance.Item item) {
        Instant due = Rebalance.due(item);
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

    private int cost(Rebalance.Item item, int ticket, Worker person, int place) {
        boolean owns = owner[ticket] == place;
        // Who has too much already gets nothing more, not even in the place of something else.
        boolean able = here[place]
                && over[place] == 0
                && person.teams().stream().anyMatch(item.pool()::contains)
                && BestFit.covers(person, item.needs());
        if (!here[place] || (!able && !owns)) {
            return NEVER;
        }
        int change =
                owner[ticket] < 0 ? 0 : owns ? 0 : here[owner[ticket]] ? Rebalance.CHANGES_HANDS : Rebalance.TAKEN_OVER;
        double worth = BestFit.skills(person, item.needs());
        int language = BestFit.language(person, item.ticket().language()) == 0 ? Rebalance.OTHER_LANGUAGE : 0;
        return change
                + (int) Math.round(Rebalance.MISFIT * (1 - worth))
                + language
                + (late[ticket][place] ? Rebalance.LATE : 0);
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
        return here[has]
                ? Rebalance.TOO_MUCH + of[ticket][has]
                : soon[ticket] ? Rebalance.STAYS_UNATTENDED : Rebalance.STAYS_FOR_LATER;
    }

    /** What it costs that somebody has one more than so many. */
    static int oneMore(int has) {
        return Rebalance.ONE_MORE * has;
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
                sum += Math.min(nobody[t], Rebalance.NOBODY);
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
                sum += k < slots[p]
                        ? of[t][p] + oneMore(k)
                        : stays(t) < NEVER ? stays(t) : Rebalance.TOO_MUCH + Rebalance.LATE;
            }
        }
        return sum;
    }
}

package rafter.core.consult;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The fewest sets that together cover a whole, and of as few those that cost the least: set cover, solved exactly by branch and bound. A node
 * branches on the element that the fewest sets have. How many more sets it takes is bounded by a feasible solution of the dual of the linear
 * relaxation, found by dual ascent from equal shares (E. Balas, A. Ho, "Set covering algorithms using cutting planes, heuristics, and subgradient
 * optimization", 1980), whose reduced costs also strike out sets that no better cover has. O(s · e) a node for s sets and e elements; the nodes
 * are exponential at worst.
 */
final class LeastCover {

    private static final double TRIFLE = 1e-9;

    private final long[] sets;
    private final long[] costs;
    private int fewest;
    private long least;
    private List<Integer> found = List.of();

    private LeastCover(long[] sets, long[] costs, int fewest, long least) {
        this.sets = sets;
        this.costs = costs;
        this.fewest = fewest;
        this.least = least;
    }

    /**
     * Finds them.
     *
     * @param whole the elements, as bits
     * @param sets as bits; what is not of the whole does not count
     * @param costs of each set, not less than 0
     * @return the places of the sets, ascending; of covers that are as good the one that the order of the sets leads to first; none when they
     *     cannot cover it
     */
    static List<Integer> of(long whole, long[] sets, long[] costs) {
        long[] within = Arrays.stream(sets).map(set -> set & whole).toArray();
        if (Arrays.stream(within).reduce(0, (a, b) -> a | b) != whole) {
            return List.of();
        }
        var search = new LeastCover(within, costs, Integer.MAX_VALUE, Long.MAX_VALUE);
        int[] worth = search.undominated();
        search.greedy(whole, worth);
        search.fewer(whole, worth, new ArrayList<>());
        search.cheaper(whole, 0, search.fewest, search.byCost(worth), new ArrayList<>());
        return search.found.stream().sorted().toList();
    }

    /** A cover of no more sets and costs than these; none when there is none. */
    static List<Integer> within(long whole, long[] sets, long[] costs, int most, long cost) {
        long[] within = Arrays.stream(sets).map(set -> set & whole).toArray();
        var search = new LeastCover(within, costs, most, cost + 1);
        search.cheaper(whole, 0, most, search.byCost(search.undominated()), new ArrayList<>());
        return search.found.stream().sorted().toList();
    }

    /** Leaves out each set that another one replaces: which has all of it and costs no more. */
    private int[] undominated() {
        return IntStream.range(0, sets.length)
                .filter(a -> sets[a] != 0 && IntStream.range(0, sets.length).noneMatch(b -> b != a && dominates(b, a)))
                .toArray();
    }

    private boolean dominates(int b, int a) {
        if ((sets[a] & ~sets[b]) != 0 || costs[b] > costs[a]) {
            return false;
        }
        return sets[a] != sets[b] || costs[b] < costs[a] || b < a;
    }

    private int[] byCost(int[] some) {
        return Arrays.stream(some)
                .boxed()
                .sorted(Comparator.comparingLong(set -> costs[set]))
                .mapToInt(set -> set)
                .toArray();
    }

    /** A first cover, so that there is something to be better than. */
    private void greedy(long whole, int[] worth) {
        var taken = new ArrayList<Integer>();
        long open = whole;
        while (open != 0) {
            long left = open;
            int next = Arrays.stream(worth)
                    .boxed()
                    .max(Comparator.comparingInt(set -> Long.bitCount(sets[set] & left)))
                    .orElseThrow();
            taken.add(next);
            open &= ~sets[next];
        }
        note(taken);
    }

    private void note(List<Integer> cover) {
        fewest = cover.size();
        least = cover.stream().mapToLong(set -> costs[set]).sum();
        found = List.copyOf(cover);
    }

    // ------------------------------------------------------------------ how many it takes

    private void fewer(long open, int[] may, List<Integer> taken) {
        if (open == 0) {
            note(taken);
            return;
        }
        int[] left = enough(open, may, fewest - 1 - taken.size());
        long element = rarest(open, left);
        for (int i = 0; i < left.length && taken.size() < fewest - 1; i++) {
            int set = left[i];
            if ((sets[set] & element) == 0) {
                continue;
            }
            // What was tried before at this node is not tried again beneath its later branches.
            left = without(left, i--);
            taken.add(set);
            fewer(open & ~sets[set], left, taken);
            taken.removeLast();
        }
    }

    /** The sets that a cover of what is open by so many may have; none when there is no such cover. */
    private int[] enough(long open, int[] may, int many) {
        double[] slack = new double[may.length];
        double most = many + TRIFLE - dual(open, may, slack);
        int[] left = new int[may.length];
        int count = 0;
        for (int i = 0; i < may.length; i++) {
            if (slack[i] <= most && (sets[may[i]] & open) != 0) {
                left[count++] = may[i];
            }
        }
        return Arrays.copyOf(left, count);
    }

    private static int[] without(int[] all, int place) {
        int[] less = new int[all.length - 1];
        System.arraycopy(all, 0, less, 0, place);
        System.arraycopy(all, place + 1, less, place, less.length - place);
        return less;
    }

    private long rarest(long open, int[] left) {
        int[] counts = new int[Long.SIZE];
        for (int set : left) {
            for (long rest = sets[set] & open; rest != 0; rest &= rest - 1) {
                counts[Long.numberOfTrailingZeros(rest)]++;
            }
        }
        long rarest = 0;
        int having = Integer.MAX_VALUE;
        for (long rest = open; rest != 0; rest &= rest - 1) {
            int count = counts[Long.numberOfTrailingZeros(rest)];
            if (count < having) {
                having = count;
                rarest = Long.lowestOneBit(rest);
            }
        }
        return rarest;
    }

    // ------------------------------------------------------------------ which of as few cost the least

    /**
     * Goes on with sets in the order of what they cost, so that the first one which is too dear with the cheapest of all beside it ends a node.
     */
    private void cheaper(long open, long spent, int many, int[] may, List<Integer> taken) {
        if (open == 0) {
            note(taken);
            return;
        }
        if (many == 1) {
            last(open, spent, may, taken);
            return;
        }
        int[] left = enough(open, may, many);
        long element = rarest(open, left);
        for (int i = 0; i < left.length; i++) {
            int set = left[i];
            if (spent + costs[set] + (many - 1) * costs[left[0]] >= least) {
                return;
            }
            if ((sets[set] & element) == 0) {
                continue;
            }
            left = without(left, i--);
            taken.add(set);
            cheaper(open & ~sets[set], spent + costs[set], many - 1, left, taken);
            taken.removeLast();
            if (left.length == 0) {
                return;
            }
        }
    }

    private void last(long open, long spent, int[] may, List<Integer> taken) {
        for (int set : may) {
            if (spent + costs[set] >= least) {
                return;
            }
            if ((open & ~sets[set]) == 0) {
                taken.add(set);
                note(taken);
                taken.removeLast();
                return;
            }
        }
    }

    // ------------------------------------------------------------------ the bound

    /** How many sets the open elements take at least; what is left of each set, of one, less what its elements take, stands in slack afterwards. */
    private double dual(long open, int[] may, double[] slack) {
        double[] price = new double[Long.SIZE];
        Arrays.fill(price, Double.POSITIVE_INFINITY);
        for (int set : may) {
            long of = sets[set] & open;
            double share = 1.0 / Math.max(1, Long.bitCount(of));
            for (long rest = of; rest != 0; rest &= rest - 1) {
                int element = Long.numberOfTrailingZeros(rest);
                price[element] = Math.min(price[element], share);
            }
        }
        double sum = sum(open, price);
        if (sum == Double.POSITIVE_INFINITY) {
            return sum;
        }
        for (int i = 0; i < may.length; i++) {
            slack[i] = 1 - sum(sets[may[i]] & open, price);
        }
        for (long rest = open; rest != 0; rest &= rest - 1) {
            sum += lift(Long.lowestOneBit(rest), may, slack);
        }
        return sum;
    }

    private double lift(long element, int[] may, double[] slack) {
        double by = Double.POSITIVE_INFINITY;
        for (int i = 0; i < may.length; i++) {
            if ((sets[may[i]] & element) != 0) {
                by = Math.min(by, slack[i]);
            }
        }
        for (int i = 0; i < may.length && by > 0; i++) {
            if ((sets[may[i]] & element) != 0) {
                slack[i] -= by;
            }
        }
        return by;
    }

    private static double sum(long elements, double[] price) {
        double sum = 0;
        for (long rest = elements; rest != 0; rest &= rest - 1) {
            sum += price[Long.numberOfTrailingZeros(rest)];
        }
        return sum;
    }
}

package rafter.core.routing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jgrapht.alg.flow.mincost.CapacityScalingMinimumCostFlow;
import org.jgrapht.alg.flow.mincost.MinimumCostFlowProblem;
import org.jgrapht.alg.interfaces.MinimumCostFlowAlgorithm;
import org.jgrapht.graph.DefaultWeightedEdge;
import org.jgrapht.graph.DirectedWeightedMultigraph;

/**
 * The minimum-cost flow of a hand-out. Each ticket sends one unit: to somebody who can take it, to who has it beyond what they take, or to
 * nobody. Each person passes on as many as they take, each dearer than the one before. The library's capacity scaling algorithm (Ahuja,
 * Magnanti, Orlin: Network Flows, chapter 10) solves it over the cheapest few people of each ticket; then those whom the prices of the
 * solution make cheaper are let in, and it is solved again, until there are none.
 */
final class HandOutFlow {

    /** So many people come into question for a ticket at first; of a small house everybody does. */
    private static final int FIRST = 3;

    private static final int SMALL = 24;
    private static final int LET_IN = 3;
    private static final int MOST_ROUNDS = 5;
    private static final int MOST_PRICINGS = 60;

    private final HandOutCosts costs;
    private final int tickets;
    private final int people;
    private final List<int[]> among = new ArrayList<>();
    /** Which tickets stay with who has them beyond what they take. */
    private final boolean[] kept;

    private HandOutFlow(HandOutCosts costs) {
        this.costs = costs;
        this.tickets = costs.tickets();
        this.people = costs.people();
        this.kept = new boolean[tickets];
    }

    /**
     * Who gets which ticket.
     *
     * @param to by their place among the people; less than zero for nobody
     * @param bound no way to hand out costs less
     */
    record Solution(int[] to, long bound) {}

    static Solution solve(HandOutCosts costs) {
        if (costs.tickets() == 0) {
            return new Solution(new int[0], 0);
        }
        return new HandOutFlow(costs).solve();
    }

    private Solution solve() {
        for (int t = 0; t < tickets; t++) {
            among.add(cheapest(t));
        }
        int[] to = new int[tickets];
        long bound = Long.MIN_VALUE;
        for (int round = 0; round < MOST_ROUNDS; round++) {
            flow(to);
            Prices prices = prices(to);
            bound = Math.max(bound, bound(prices));
            if (!letIn(prices)) {
                break;
            }
        }
        return new Solution(to, bound);
    }

    /** The cheapest people of a ticket; of those alike others for each, so that not all want the same. */
    private int[] cheapest(int t) {
        return IntStream.range(0, people)
                .filter(p -> costs.able(t, p))
                .boxed()
                .sorted(Comparator.comparingInt((Integer p) -> costs.of(t, p)).thenComparingInt(p -> spread(t, p)))
                .limit(people <= SMALL ? SMALL : FIRST)
                .mapToInt(Integer::intValue)
                .toArray();
    }

    private static int spread(int t, int p) {
        int mixed = (t * 0x9E3779B1) ^ (p * 0x85EBCA6B);
        return (mixed ^ (mixed >>> 15)) & 0x7FFFFFFF;
    }

    /** Solves it, and writes down who gets what. */
    private void flow(int[] to) {
        int sink = tickets + 2 * people;
        var graph = new DirectedWeightedMultigraph<Integer, DefaultWeightedEdge>(DefaultWeightedEdge.class);
        IntStream.rangeClosed(0, sink).forEach(graph::addVertex);
        Map<DefaultWeightedEdge, Integer> capacities = new HashMap<>();
        Map<DefaultWeightedEdge, int[]> gives = new HashMap<>();
        tickets(graph, capacities, gives, sink);
        people(graph, capacities, sink);
        var problem = new MinimumCostFlowProblem.MinimumCostFlowProblemImpl<Integer, DefaultWeightedEdge>(
                graph, v -> v < tickets ? 1 : v == sink ? -tickets : 0, capacities::get);
        var algorithm = new CapacityScalingMinimumCostFlow<Integer, DefaultWeightedEdge>(1);
        MinimumCostFlowAlgorithm.MinimumCostFlow<DefaultWeightedEdge> flow = algorithm.getMinimumCostFlow(problem);
        gives.forEach((edge, one) -> {
            if (flow.getFlow(edge) > 0.5) {
                to[one[0]] = one[1];
                kept[one[0]] = one[2] == 1;
            }
        });
    }

    /** From each ticket to whoever could take it, to who has it, and to nobody. */
    private void tickets(
            DirectedWeightedMultigraph<Integer, DefaultWeightedEdge> graph,
            Map<DefaultWeightedEdge, Integer> capacities,
            Map<DefaultWeightedEdge, int[]> gives,
            int sink) {
        for (int t = 0; t < tickets; t++) {
            for (int p : among.get(t)) {
                gives.put(edge(graph, capacities, t, tickets + p, costs.of(t, p), 1), new int[] {t, p, 0});
            }
            if (costs.stays(t) < HandOutCosts.NEVER) {
                int has = costs.owner(t);
                gives.put(edge(graph, capacities, t, tickets + people + has, costs.stays(t), 1), new int[] {t, has, 1});
            }
            gives.put(edge(graph, capacities, t, sink, nobody(t), 1), new int[] {t, costs.owner(t), 0});
        }
    }

    /** As many as each person takes, each costing more than the one before, and what they keep beyond that. */
    private void people(
            DirectedWeightedMultigraph<Integer, DefaultWeightedEdge> graph,
            Map<DefaultWeightedEdge, Integer> capacities,
            int sink) {
        for (int p = 0; p < people; p++) {
            for (int k = 0; k < costs.slots(p); k++) {
                edge(graph, capacities, tickets + p, sink, HandOutCosts.oneMore(k), 1);
            }
            if (costs.over(p) > 0) {
                edge(graph, capacities, tickets + people + p, sink, 0, costs.over(p));
            }
        }
    }

    /** What one more costs at each person: of what they take, and of what they keep beyond that. */
    private record Prices(double[] taken, double[] kept) {}

    /**
     * What one more would cost at each person, over all people and not only those who came into question: the shortest way through what is left of
     * the flow, by the rounds of Bellman and Ford, O(t · p) each. While there is something cheaper left to find they would not end, so they are
     * counted; a bound is true for any prices.
     */
    private Prices prices(int[] to) {
        int[] taken = new int[people];
        int[] keeps = new int[people];
        for (int t = 0; t < tickets; t++) {
            if (to[t] >= 0) {
                (kept[t] ? keeps : taken)[to[t]]++;
            }
        }
        var prices = new Prices(new double[people], new double[people]);
        for (int p = 0; p < people; p++) {
            prices.taken()[p] = taken[p] < costs.slots(p) ? HandOutCosts.oneMore(taken[p]) : HandOutCosts.NEVER;
            prices.kept()[p] = keeps[p] < costs.over(p) ? 0 : HandOutCosts.NEVER;
        }
        for (int round = 0; round < MOST_PRICINGS && cheaper(to, prices); round++) {
            // Until nothing is.
        }
        for (int p = 0; p < people; p++) {
            prices.taken()[p] = Math.max(0, prices.taken()[p]);
            prices.kept()[p] = Math.max(0, prices.kept()[p]);
        }
        return prices;
    }

    /** Whether a ticket that somebody has makes one more of theirs cheaper, for it can go elsewhere. */
    private boolean cheaper(int[] to, Prices prices) {
        boolean any = false;
        for (int t = 0; t < tickets; t++) {
            int at = to[t];
            if (at < 0 || (!kept[t] && !costs.able(t, at))) {
                continue;
            }
            double[] of = kept[t] ? prices.kept() : prices.taken();
            double now = kept[t] ? costs.stays(t) : costs.of(t, at);
            double then = elsewhere(t, at, prices) - now;
            if (then < of[at] - 1e-9) {
                of[at] = then;
                any = true;
            }
        }
        return any;
    }

    /** What a ticket costs at least that goes away from where it is at somebody. */
    private double elsewhere(int t, int from, Prices prices) {
        double least = nobody(t);
        if (!kept[t] && costs.stays(t) < HandOutCosts.NEVER) {
            least = Math.min(least, costs.stays(t) + prices.kept()[costs.owner(t)]);
        }
        for (int p = 0; p < people; p++) {
            if ((p != from || kept[t]) && costs.able(t, p)) {
                least = Math.min(least, costs.of(t, p) + prices.taken()[p]);
            }
        }
        return least;
    }

    /** The cheapest way of a ticket at these prices. */
    private double least(int t, Prices prices) {
        double least = nobody(t);
        if (costs.stays(t) < HandOutCosts.NEVER) {
            least = Math.min(least, costs.stays(t) + prices.kept()[costs.owner(t)]);
        }
        return least;
    }

    /** Whoever has it can always keep it, so that it goes to nobody is for those whom nobody has. */
    private int nobody(int t) {
        return costs.owner(t) >= 0 ? 10 * Rebalance.NOBODY : costs.nobody(t);
    }

    private static DefaultWeightedEdge edge(
            DirectedWeightedMultigraph<Integer, DefaultWeightedEdge> graph,
            Map<DefaultWeightedEdge, Integer> capacities,
            int from,
            int to,
            int cost,
            int capacity) {
        DefaultWeightedEdge edge = graph.addEdge(from, to);
        graph.setEdgeWeight(edge, cost);
        capacities.put(edge, capacity);
        return edge;
    }

    /**
     * What no way to hand out costs less than: with a price on everybody's time in the place of what they take at once, each ticket goes where it
     * is cheapest, and each person passes on as many as pays (Lagrangian relaxation; true for any prices).
     */
    private long bound(Prices prices) {
        double sum = 0;
        for (int t = 0; t < tickets; t++) {
            double least = least(t, prices);
            for (int p = 0; p < people; p++) {
                if (costs.able(t, p)) {
                    least = Math.min(least, costs.of(t, p) + prices.taken()[p]);
                }
            }
            sum += least;
        }
        for (int p = 0; p < people; p++) {
            for (int k = 0; k < costs.slots(p); k++) {
                sum += Math.min(0, HandOutCosts.oneMore(k) - prices.taken()[p]);
            }
            sum -= costs.over(p) * prices.kept()[p];
        }
        return (long) Math.ceil(sum - 1e-6);
    }

    /** Lets in whom the prices make cheaper for a ticket than all who came into question; whether there was anybody. */
    private boolean letIn(Prices prices) {
        boolean any = false;
        for (int t = 0; t < tickets; t++) {
            int[] now = among.get(t);
            double least = least(t, prices);
            for (int p : now) {
                least = Math.min(least, costs.of(t, p) + prices.taken()[p]);
            }
            int[] better = better(t, least - 1e-6, prices);
            if (better.length > 0) {
                int[] more = Arrays.copyOf(now, now.length + better.length);
                System.arraycopy(better, 0, more, now.length, better.length);
                among.set(t, more);
                any = true;
            }
        }
        return any;
    }

    /** The few cheapest people for a ticket who cost less. */
    private int[] better(int t, double than, Prices prices) {
        return IntStream.range(0, people)
                .filter(p -> costs.able(t, p) && costs.of(t, p) + prices.taken()[p] < than)
                .boxed()
                .sorted(Comparator.comparingDouble((Integer p) -> costs.of(t, p) + prices.taken()[p]))
                .limit(LET_IN)
                .mapToInt(Integer::intValue)
                .toArray();
    }
}

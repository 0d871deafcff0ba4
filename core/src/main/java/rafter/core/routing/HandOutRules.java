package rafter.core.routing;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * How a workspace hands out, whatever the queue.
 *
 * @param weights what each factor of a best fit counts
 * @param units how much of a person a ticket takes, by the key of its channel; one where nothing is said
 * @param idleAfter after how long of touching nothing somebody counts as away; empty: never
 * @param reasons why people are away, for choosing
 * @param passAsksWhy whether who passes an offer says why
 * @param floorForAll whether everybody sees the floor, or leads alone
 * @param shares of a hundred, how much of their limit somebody takes by the best level that they have in any skill; a hundred where nothing is said
 */
public record HandOutRules(
        Map<Factor, Integer> weights,
        Map<String, Double> units,
        Optional<Duration> idleAfter,
        List<String> reasons,
        boolean passAsksWhy,
        boolean floorForAll,
        Map<SkillLevel, Integer> shares) {

    public static final int MOST_UNITS = 100;
    public static final int LEAST_SHARE = 10;
    public static final int MOST_SHARE = 300;
    public static final int MOST_REASONS = 20;
    public static final int LONGEST_REASON = 60;
    private static final Duration SHORTEST_IDLE = Duration.ofMinutes(2);
    private static final Duration LONGEST_IDLE = Duration.ofHours(8);

    public HandOutRules {
        weights = Map.copyOf(weights);
        units = Map.copyOf(units);
        reasons = List.copyOf(reasons);
        shares = Map.copyOf(shares);
    }

    /** Rules by which the level of skill makes no difference to how much somebody takes. */
    public HandOutRules(
            Map<Factor, Integer> weights,
            Map<String, Double> units,
            Optional<Duration> idleAfter,
            List<String> reasons,
            boolean passAsksWhy,
            boolean floorForAll) {
        this(weights, units, idleAfter, reasons, passAsksWhy, floorForAll, Map.of());
    }

    /** The same, with a ticket of a channel taking so much of a person. */
    public HandOutRules weighing(String channel, double units) {
        var all = new TreeMap<>(this.units);
        all.put(channel, units);
        return new HandOutRules(weights, all, idleAfter, reasons, passAsksWhy, floorForAll, shares);
    }

    /** Before anybody chose otherwise. */
    public static HandOutRules usual() {
        return new HandOutRules(
                Factor.weights(),
                new TreeMap<>(),
                Optional.of(Duration.ofMinutes(15)),
                List.of("a break", "a meeting", "training"),
                false,
                true);
    }

    /** How much of a person a ticket of a channel takes. */
    public double units(String channel) {
        return units.getOrDefault(channel, 1.0);
    }

    /** Of a hundred, how much of their limit somebody of a level takes. */
    public int share(SkillLevel level) {
        return shares.getOrDefault(level, 100);
    }

    /**
     * How much somebody takes at once: their limit, more or less by the best level that they have.
     *
     * @param levels of all their skills; who has none takes their limit as it is
     */
    public double limit(int units, Collection<SkillLevel> levels) {
        return levels.stream()
                .max(Comparator.naturalOrder())
                .map(best -> Math.rint(units * share(best) / 100.0))
                .orElse((double) units);
    }

    /** What keeps them from being used, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (weights.values().stream().anyMatch(weight -> weight < 0 || weight > Factor.MOST)) {
            faults.add("A weight is a number from 0 to " + Factor.MOST + ".");
        }
        if (weights.values().stream().mapToInt(Integer::intValue).sum() == 0) {
            faults.add("At least one weight must be more than 0.");
        }
        if (units.values().stream().anyMatch(one -> !(one >= 0 && one <= MOST_UNITS))) {
            faults.add("A ticket takes from 0 to " + MOST_UNITS + " of what a person takes at once.");
        }
        if (idleAfter
                .filter(time -> time.compareTo(SHORTEST_IDLE) < 0 || time.compareTo(LONGEST_IDLE) > 0)
                .isPresent()) {
            faults.add("Who touches nothing counts as away after 2 minutes to 8 hours.");
        }
        if (shares.values().stream().anyMatch(share -> share < LEAST_SHARE || share > MOST_SHARE)) {
            faults.add("By their level people take from " + LEAST_SHARE + " to " + MOST_SHARE + " % of their limit.");
        }
        if (reasons.size() > MOST_REASONS || reasons.stream().anyMatch(one -> one.length() > LONGEST_REASON)) {
            faults.add("At most " + MOST_REASONS + " reasons of at most " + LONGEST_REASON + " letters each.");
        }
        return faults;
    }
}

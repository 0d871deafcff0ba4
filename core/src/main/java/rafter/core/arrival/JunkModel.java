package rafter.core.arrival;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What was learned of junk: a logistic regression, so that each sign has a weight of its own and a score is explained by the weights that it
 * adds up. Immutable.
 *
 * @param base what a mail without any known sign has
 * @param weights of each sign; above nothing speaks for junk
 */
public record JunkModel(double base, Map<String, Double> weights) {

    public JunkModel {
        weights = Map.copyOf(weights);
    }

    /** How much a sign said. */
    public record Weight(String sign, double weight) {}

    /** The score, from 0 to 100: of a hundred mails with the same signs, about so many are junk. O(s) for s signs. */
    public int score(Set<String> signs) {
        double sum = base;
        double each = 1 / Math.sqrt(Math.max(1, signs.size()));
        for (String sign : signs) {
            sum += weights.getOrDefault(sign, 0.0) * each;
        }
        // Rounded down: a hundred is certainty, and nothing here is certain.
        return (int) Math.floor(100 / (1 + Math.exp(-sum)));
    }

    /** The signs that said most, for or against, the strongest first. */
    public List<Weight> strongest(Set<String> signs, int most) {
        return signs.stream()
                .filter(weights::containsKey)
                .map(sign -> new Weight(sign, weights.getOrDefault(sign, 0.0)))
                .sorted(Comparator.comparingDouble((Weight one) -> -Math.abs(one.weight()))
                        .thenComparing(Weight::sign))
                .limit(most)
                .toList();
    }
}

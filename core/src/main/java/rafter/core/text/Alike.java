package rafter.core.text;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * How much other texts are like one, by the words that they have in common: a word says the more the fewer texts have it. The weights are
 * those of the inverse document frequency (K. Spärck Jones, 1972); the measure is the part of the asking text's weight that is found
 * again, so that a long text is not less alike for all that it says besides.
 */
public final class Alike {

    /** Words of fewer letters say nothing of what a text is about. */
    private static final int SHORTEST = 3;

    private final Map<String, Double> weights;
    private final double whole;

    /**
     * What is like another text.
     *
     * @param score from nothing in common, 0, to all words in common, 1
     * @param words those in common, the rarest first
     */
    public record Likeness(double score, List<String> words) {}

    private Alike(Map<String, Double> weights) {
        this.weights = Map.copyOf(weights);
        this.whole = weights.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    /**
     * Begins with the words of the asking text.
     *
     * @param oneIn for each word, of how many texts about one has it; at least 1
     */
    public static Alike to(Map<String, Double> oneIn) {
        return new Alike(oneIn.entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, word -> Math.log1p(Math.max(1, word.getValue())))));
    }

    /** The words of a text by which others may be like it. */
    public static List<String> telling(String text) {
        return Words.list(text).stream()
                .filter(word -> word.length() >= SHORTEST)
                .filter(word -> word.chars().anyMatch(Character::isLetter))
                .distinct()
                .toList();
    }

    /** How much a text with these words is like it. O(n) in the words of the asking text. */
    public Likeness of(Set<String> words) {
        List<String> common = weights.entrySet().stream()
                .filter(word -> words.contains(word.getKey()))
                .sorted(Comparator.comparing(Map.Entry<String, Double>::getValue)
                        .reversed()
                        .thenComparing(Map.Entry::getKey))
                .map(Map.Entry::getKey)
                .toList();
        if (common.isEmpty()) {
            return new Likeness(0, List.of());
        }
        double found = common.stream()
                .mapToDouble(word -> weights.getOrDefault(word, 0.0))
                .sum();
        return new Likeness(Math.min(1, found / whole), common);
    }
}

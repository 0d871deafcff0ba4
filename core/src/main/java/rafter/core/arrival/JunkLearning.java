package rafter.core.arrival;

import de.bwaldvogel.liblinear.Feature;
import de.bwaldvogel.liblinear.FeatureNode;
import de.bwaldvogel.liblinear.Linear;
import de.bwaldvogel.liblinear.Model;
import de.bwaldvogel.liblinear.Parameter;
import de.bwaldvogel.liblinear.Problem;
import de.bwaldvogel.liblinear.SolverType;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import rafter.core.measure.Share;

/**
 * Learns what junk looks like from what was said to be no request, by logistic regression (LIBLINEAR, Fan et al. 2008), and measures itself
 * on mail that it has not seen. Deterministic: the same examples in the same order give the same weights.
 */
public final class JunkLearning {

    /** With fewer of either sort nothing is learned. */
    public static final int FEWEST = 20;

    private static final int MOST_SIGNS = 8_000;
    /** A sign that came only once is learned by heart and says nothing. */
    private static final int FEWEST_OF_A_SIGN = 2;

    private static final int FOLDS = 5;
    private static final double COST = 8;
    private static final double PRECISION = 0.01;

    private JunkLearning() {}

    /** A mail of which it is known what it was. */
    public record Example(Set<String> signs, boolean junk) {
        public Example {
            signs = Set.copyOf(signs);
        }
    }

    /**
     * What would have happened from some score on, with mail that was not learned from.
     *
     * @param found of the junk, how much would have been set aside
     * @param wrong of the requests, how many would have been set aside
     */
    public record Figures(int threshold, Share found, Share wrong) {}

    /**
     * What was learned, and how good it is.
     *
     * @param figures for each score from {@link ArrivalBook#LOWEST_THRESHOLD} to one below {@link ArrivalBook#HIGHEST_THRESHOLD}
     */
    public record Learned(JunkModel model, List<Figures> figures) {
        /** The figures of a threshold. */
        public Optional<Figures> at(int threshold) {
            return figures.stream().filter(one -> one.threshold() == threshold).findFirst();
        }
    }

    /** Learns; nothing when there are too few examples of either sort. O(e · s) for e examples of s signs, a few times over. */
    public static Optional<Learned> learn(List<Example> examples) {
        long junk = examples.stream().filter(Example::junk).count();
        if (junk < FEWEST || examples.size() - junk < FEWEST) {
            return Optional.empty();
        }
        return Optional.of(new Learned(train(examples), figures(examples)));
    }

    private static List<Figures> figures(List<Example> examples) {
        // Every fifth is left out in turn, of junk and of requests alike.
        List<Example> sorted =
                examples.stream().sorted(Comparator.comparing(Example::junk)).toList();
        int[] scores = new int[sorted.size()];
        for (int fold = 0; fold < FOLDS; fold++) {
            int left = fold;
            JunkModel model = train(IntStream.range(0, sorted.size())
                    .filter(i -> i % FOLDS != left)
                    .mapToObj(sorted::get)
                    .toList());
            for (int i = fold; i < sorted.size(); i += FOLDS) {
                scores[i] = model.score(sorted.get(i).signs());
            }
        }
        var figures = new ArrayList<Figures>();
        for (int at = ArrivalBook.LOWEST_THRESHOLD; at < ArrivalBook.HIGHEST_THRESHOLD; at++) {
            figures.add(new Figures(at, share(sorted, scores, at, true), share(sorted, scores, at, false)));
        }
        return figures;
    }

    private static Share share(List<Example> examples, int[] scores, int threshold, boolean junk) {
        long all = examples.stream().filter(one -> one.junk() == junk).count();
        long above = IntStream.range(0, scores.length)
                .filter(i -> examples.get(i).junk() == junk && scores[i] >= threshold)
                .count();
        return new Share(above, all);
    }

    private static JunkModel train(List<Example> examples) {
        List<String> signs = signs(examples);
        var index = new HashMap<String, Integer>();
        signs.forEach(sign -> index.put(sign, index.size() + 1));
        Problem problem = new Problem();
        problem.l = examples.size();
        problem.n = signs.size() + 1;
        problem.bias = 1;
        problem.x = examples.stream()
                .map(one -> features(one, index, signs.size() + 1))
                .toArray(Feature[][]::new);
        problem.y = examples.stream().mapToDouble(one -> one.junk() ? 1 : 0).toArray();
        Linear.disableDebugOutput();
        Model model = Linear.train(problem, new Parameter(SolverType.L2R_LR, COST, PRECISION));
        double[] weights = model.getFeatureWeights();
        // They speak for whatever came first in the examples.
        int sign = model.getLabels()[0] == 1 ? 1 : -1;
        Map<String, Double> learned = new HashMap<>();
        index.forEach((name, at) -> learned.put(name, sign * weights[at - 1]));
        return new JunkModel(sign * weights[signs.size()], learned);
    }

    /** The signs that came more than once, the most frequent of them. */
    private static List<String> signs(List<Example> examples) {
        var count = new HashMap<String, Integer>();
        examples.forEach(one -> one.signs().forEach(sign -> count.merge(sign, 1, Integer::sum)));
        return count.entrySet().stream()
                .filter(one -> one.getValue() >= FEWEST_OF_A_SIGN)
                .sorted(Map.Entry.<String, Integer>comparingByValue()
                        .reversed()
                        .thenComparing(Map.Entry.comparingByKey()))
                .limit(MOST_SIGNS)
                .map(Map.Entry::getKey)
                .toList();
    }

    /** Each mail has the same weight in all, however long it is. */
    private static Feature[] features(Example one, Map<String, Integer> index, int bias) {
        double each = 1 / Math.sqrt(Math.max(1, one.signs().size()));
        List<Feature> features = new ArrayList<>(one.signs().stream()
                .filter(index::containsKey)
                .map(index::get)
                .sorted()
                .map(at -> (Feature) new FeatureNode(at, each))
                .toList());
        features.add(new FeatureNode(bias, 1));
        return features.toArray(Feature[]::new);
    }
}

package rafter.core.social;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jgrapht.alg.util.UnionFind;

/**
 * Many posts on one matter.
 *
 * @param posts which, the first one first
 * @param words what most of them have in common, the most common first
 */
public record Wave(List<String> posts, Instant from, Instant until, List<String> words) {

    /** Of two posts that belong together so large a part of the words of the shorter one is in the other. */
    private static final double SHARED = 0.5;

    /** And so many words at least. */
    private static final int LEAST_SHARED = 2;

    /** So many words name a wave. */
    private static final int NAMED_BY = 5;

    public Wave {
        posts = List.copyOf(posts);
        words = List.copyOf(words);
    }

    /** A post, as far as it matters here. */
    public record Item(String post, Instant at, String text) {}

    /**
     * The waves among some posts, the largest first. Two posts belong together when they were written within a time of each other and at least half
     * of the telling words of the shorter one, and two, are in the other; what belongs to the same belongs together (single linkage, by union–find).
     * O(n + p) for p pairs that have a word in common within the time.
     *
     * @param least fewer posts are no wave
     * @param within so far apart two of them may be
     */
    public static List<Wave> among(Collection<Item> posts, int least, Duration within) {
        List<Item> inOrder = posts.stream()
                .sorted(Comparator.comparing(Item::at).thenComparing(Item::post))
                .toList();
        Matter matter = Matter.shipped();
        List<Set<String>> words =
                inOrder.stream().map(item -> matter.of(item.text())).toList();
        UnionFind<Integer> together = together(inOrder, words, within);
        var groups = new LinkedHashMap<Integer, List<Integer>>();
        for (int i = 0; i < inOrder.size(); i++) {
            groups.computeIfAbsent(together.find(i), root -> new ArrayList<>()).add(i);
        }
        return groups.values().stream()
                .filter(group -> group.size() >= least)
                .map(group -> wave(group, inOrder, words))
                .sorted(Comparator.comparingInt((Wave wave) -> -wave.posts().size())
                        .thenComparing(Wave::from))
                .toList();
    }

    private static UnionFind<Integer> together(List<Item> inOrder, List<Set<String>> words, Duration within) {
        var together = new UnionFind<Integer>(Set.of());
        Map<String, List<Integer>> having = new HashMap<>();
        for (int i = 0; i < inOrder.size(); i++) {
            together.addElement(i);
            var shared = new TreeMap<Integer, Integer>();
            for (String word : words.get(i)) {
                List<Integer> others = having.computeIfAbsent(word, none -> new ArrayList<>());
                for (int k = others.size() - 1; k >= 0 && near(inOrder, others.get(k), i, within); k--) {
                    shared.merge(others.get(k), 1, Integer::sum);
                }
                others.add(i);
            }
            int here = i;
            shared.forEach((other, many) -> {
                int shorter = Math.min(words.get(other).size(), words.get(here).size());
                if (many >= LEAST_SHARED && many >= SHARED * shorter) {
                    together.union(other, here);
                }
            });
        }
        return together;
    }

    private static boolean near(List<Item> inOrder, int earlier, int later, Duration within) {
        return !inOrder.get(earlier)
                .at()
                .plus(within)
                .isBefore(inOrder.get(later).at());
    }

    private static Wave wave(List<Integer> group, List<Item> inOrder, List<Set<String>> words) {
        var counts = new HashMap<String, Integer>();
        group.forEach(i -> words.get(i).forEach(word -> counts.merge(word, 1, Integer::sum)));
        List<String> common = counts.entrySet().stream()
                .filter(word -> 2 * word.getValue() >= group.size())
                .sorted(Map.Entry.<String, Integer>comparingByValue()
                        .reversed()
                        .thenComparing(Map.Entry.comparingByKey()))
                .limit(NAMED_BY)
                .map(Map.Entry::getKey)
                .toList();
        return new Wave(
                group.stream().map(i -> inOrder.get(i).post()).toList(),
                inOrder.get(group.getFirst()).at(),
                inOrder.get(group.getLast()).at(),
                common);
    }
}

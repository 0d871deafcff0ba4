package rafter.core.time;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Set arithmetic on half-open stretches of nanoseconds. */
final class Stretches {

    record Stretch(long start, long end) {}

    private Stretches() {}

    /** The same time as sorted stretches that neither touch nor overlap. O(n log n). */
    static List<Stretch> union(List<Stretch> stretches) {
        var sorted = new ArrayList<>(stretches);
        sorted.sort(Comparator.comparingLong(Stretch::start));
        var merged = new ArrayList<Stretch>();
        for (Stretch next : sorted) {
            if (!merged.isEmpty() && next.start() <= merged.getLast().end()) {
                Stretch last = merged.removeLast();
                merged.add(new Stretch(last.start(), Math.max(last.end(), next.end())));
            } else {
                merged.add(next);
            }
        }
        return merged;
    }

    /** What is in {@code all} and not in {@code taken}; both as {@link #union} leaves them. O(n + m). */
    static List<Stretch> without(List<Stretch> all, List<Stretch> taken) {
        var left = new ArrayList<Stretch>();
        int first = 0;
        for (Stretch one : all) {
            while (first < taken.size() && taken.get(first).end() <= one.start()) {
                first++;
            }
            long from = one.start();
            for (int i = first; i < taken.size() && taken.get(i).start() < one.end(); i++) {
                if (from < taken.get(i).start()) {
                    left.add(new Stretch(from, taken.get(i).start()));
                }
                from = Math.max(from, taken.get(i).end());
            }
            if (from < one.end()) {
                left.add(new Stretch(from, one.end()));
            }
        }
        return left;
    }
}

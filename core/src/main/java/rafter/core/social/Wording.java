package rafter.core.social;

import java.util.HashSet;
import java.util.Set;
import rafter.core.text.Alike;

/** Whether two texts are worded the same, small changes aside: so what was marked as noise once is known again. */
public final class Wording {

    /** Of all telling words of both, so large a part is in both (Jaccard’s index). */
    private static final double SAME = 0.7;

    /** Fewer words say too little. */
    private static final int LEAST = 3;

    private Wording() {}

    /** The words by which a text is compared. */
    public static Set<String> of(String text) {
        return Set.copyOf(Alike.telling(text));
    }

    /** Whether a wording can be compared at all. */
    public static boolean tells(Set<String> words) {
        return words.size() >= LEAST;
    }

    /** Whether two are the same. O(words). */
    public static boolean same(Set<String> one, Set<String> other) {
        if (!tells(one) || !tells(other)) {
            return false;
        }
        var both = new HashSet<>(one);
        both.retainAll(other);
        int all = one.size() + other.size() - both.size();
        return both.size() >= SAME * all;
    }
}

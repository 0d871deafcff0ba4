package rafter.core.text;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;

/**
 * Finds phrases by a few letters of their name while somebody writes. Better is what begins with them, then what has them at the beginnings
 * of its words ("lof" finds "Lost and found"), then what has them anywhere; among equals what is used more. Linear in the names' length.
 */
public final class PhraseMatch {

    private static final int BEGINS = 0;
    private static final int INITIALS = 1;
    private static final int WORD = 2;
    private static final int WITHIN = 3;

    private PhraseMatch() {}

    /**
     * The phrases that the letters may mean, the best first.
     *
     * @param letters as they were typed; blank: all
     * @param name what a phrase is called
     * @param preference smaller is better among those that match alike
     */
    public static <T> List<T> of(
            List<T> all, String letters, Function<T, String> name, Comparator<? super T> preference) {
        String wanted = plain(letters);
        record Found<T>(T one, int rank) {}
        return all.stream()
                .flatMap(one -> rank(plain(name.apply(one)), wanted).map(rank -> new Found<>(one, rank)).stream())
                .sorted(Comparator.<Found<T>>comparingInt(Found::rank)
                        .thenComparing(Found::one, preference)
                        .thenComparing(found -> plain(name.apply(found.one()))))
                .map(Found::one)
                .toList();
    }

    private static Optional<Integer> rank(String name, String wanted) {
        if (name.startsWith(wanted)) {
            return Optional.of(BEGINS);
        }
        if (initials(name).startsWith(wanted)) {
            return Optional.of(INITIALS);
        }
        if (name.contains(" " + wanted)) {
            return Optional.of(WORD);
        }
        return name.contains(wanted) ? Optional.of(WITHIN) : Optional.empty();
    }

    private static String initials(String name) {
        var initials = new StringBuilder();
        for (String word : name.split(" ")) {
            if (!word.isEmpty()) {
                initials.appendCodePoint(word.codePointAt(0));
            }
        }
        return initials.toString();
    }

    private static String plain(String text) {
        return Words.fold(text)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}]+", " ")
                .strip();
    }
}

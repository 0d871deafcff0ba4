package rafter.core.social;

import java.util.Arrays;
import java.util.List;
import rafter.core.text.Words;

/**
 * Words that are looked for among what is written publicly. Alternatives stand with commas between; one is found where all its words stand, in
 * whatever form, and words in quotation marks where they stand one after the other.
 */
public record KeptSearch(long id, String words) {

    /** So many alternatives at most. */
    public static final int MOST = 20;

    private static final int LONGEST = 60;

    /** What keeps it from being used, in words. */
    public List<String> faults() {
        List<String> all = alternatives();
        if (all.isEmpty()) {
            return List.of("Write the words to be looked for.");
        }
        if (all.size() > MOST || all.stream().anyMatch(one -> one.length() > LONGEST)) {
            return List.of("At most twenty alternatives of sixty letters each.");
        }
        return all.stream().anyMatch(one -> parts(one).isEmpty())
                ? List.of("Each alternative needs a word of letters or figures.")
                : List.of();
    }

    private List<String> alternatives() {
        return Arrays.stream(words.split(","))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .toList();
    }

    /** Whether a text has what is looked for. O(words of the text). */
    public boolean finds(Words text) {
        return alternatives().stream().anyMatch(one -> {
            List<String> parts = parts(one);
            return !parts.isEmpty() && parts.stream().allMatch(text::hasForm);
        });
    }

    private static List<String> parts(String alternative) {
        boolean phrase = alternative.length() > 2 && alternative.startsWith("\"") && alternative.endsWith("\"");
        List<String> words = Words.list(alternative);
        return phrase && !words.isEmpty() ? List.of(String.join(" ", words)) : words;
    }
}

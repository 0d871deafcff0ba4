package rafter.app.work.search;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.core.text.Words;

/**
 * The part of a text around the first word that was looked for.
 *
 * @param before what stands before it
 * @param hit the word as it stands there; blank when none was found
 * @param after what stands behind it
 */
record Passage(String before, String hit, String after) {

    private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{N}\\p{M}]+");
    private static final int BEFORE = 60;
    private static final int AFTER = 120;
    /** Farther than this nobody looks for the first word. */
    private static final int READ = 20_000;

    /**
     * Finds it.
     *
     * @param wanted folded words; a word that begins with one of them is found too
     */
    static Passage of(String text, List<String> wanted) {
        String plain = text.substring(0, Math.min(text.length(), READ))
                .replaceAll("\\s+", " ")
                .strip();
        for (Matcher word = WORD.matcher(plain); word.find(); ) {
            String folded = Words.fold(word.group());
            if (wanted.stream().anyMatch(folded::startsWith)) {
                int from = Math.max(0, word.start() - BEFORE);
                int to = Math.min(plain.length(), word.end() + AFTER);
                String before = (from > 0 ? "…" : "") + plain.substring(from, word.start());
                return new Passage(
                        before, word.group(), plain.substring(word.end(), to) + (to < plain.length() ? "…" : ""));
            }
        }
        return new Passage(plain.substring(0, Math.min(plain.length(), AFTER)), "", "");
    }
}

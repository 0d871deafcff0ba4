package rafter.core.text;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A text ready for finding words in it. Words are runs of letters and digits; letter case and accents are folded away; only whole words
 * are found, and a phrase only where its words stand side by side. The one definition of word matching.
 */
public final class Words {

    private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{N}]+");
    private static final Pattern MARKS = Pattern.compile("\\p{M}+");

    private final String folded;
    /** All words with a blank before and after each. */
    private final String spaced;

    private Words(String folded, String spaced) {
        this.folded = folded;
        this.spaced = spaced;
    }

    /** Reads a text. O(n). */
    public static Words of(String text) {
        String folded = fold(text);
        return new Words(folded, spaced(folded));
    }

    private static String spaced(String folded) {
        var all = new StringBuilder(" ");
        for (Matcher word = WORD.matcher(folded); word.find(); ) {
            all.append(word.group()).append(' ');
        }
        return all.toString();
    }

    /** The same text without blanks around it, letter case and accents. */
    public static String fold(String text) {
        String plain = text.strip();
        // Most text is plain, and taking accents away is dear.
        boolean ascii = plain.chars().allMatch(c -> c < 128);
        String bare = ascii ? plain : MARKS.matcher(Normalizer.normalize(plain, Normalizer.Form.NFKD)).replaceAll("");
        return bare.toLowerCase(Locale.ROOT);
    }

    /** The words of a text, folded, in order. */
    public static List<String> list(String text) {
        var words = new ArrayList<String>();
        for (Matcher word = WORD.matcher(fold(text)); word.find(); ) {
            words.add(word.group());
        }
        return words;
    }

    /** The folded text. */
    public String folded() {
        return folded;
    }

    /** Whether these words stand in it side by side; never for a text without words. */
    public boolean has(String phrase) {
        String wanted = spaced(fold(phrase));
        return wanted.length() > 1 && spaced.contains(wanted);
    }

    /** Whether it begins with these words. */
    public boolean beginsWith(String phrase) {
        String wanted = spaced(fold(phrase));
        return wanted.length() > 1 && spaced.startsWith(wanted);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Words words && words.folded.equals(folded);
    }

    @Override
    public int hashCode() {
        return folded.hashCode();
    }

    @Override
    public String toString() {
        return folded;
    }
}

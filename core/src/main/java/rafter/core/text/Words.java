package rafter.core.text;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A text ready for finding words in it. Words are runs of letters and digits; letter case and accents are folded away; only whole words
 * are found, and a phrase only where its words stand side by side. The one definition of word matching.
 */
public final class Words {

    private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{N}]+");
    private static final Pattern MARKS = Pattern.compile("\\p{M}+");

    /** Longer runs are no words but data, and are cut. */
    private static final int LONGEST = 200;
    /** A phrase of more words is not looked for in all its forms. */
    public static final int MOST_OF_A_PHRASE = 12;

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

    /** Reads several texts; no phrase reaches from one into the next. */
    public static Words of(List<String> texts) {
        if (texts.size() == 1) {
            return of(texts.getFirst());
        }
        List<Words> each = texts.stream().map(Words::of).toList();
        return new Words(
                each.stream().map(Words::folded).collect(Collectors.joining(" ")),
                each.stream().map(Words::stored).collect(Collectors.joining("|")));
    }

    private static String spaced(String folded) {
        var all = new StringBuilder(" ");
        for (Matcher word = WORD.matcher(folded); word.find(); ) {
            int end = Math.min(word.end(), word.start() + LONGEST);
            all.append(folded, word.start(), end).append(' ');
        }
        return all.toString();
    }

    /**
     * The words as a store keeps them: folded, with one blank before and after each. A phrase is in a text when the kept form of the
     * phrase is in the kept form of the text.
     */
    public String stored() {
        return spaced;
    }

    /**
     * For each word of a phrase, in order, all its {@linkplain #forms forms}: what to look for when the words stand side by side, each in any of
     * them. Empty for a text without words, and for one of more than {@value #MOST_OF_A_PHRASE}.
     */
    public static List<List<String>> formsOf(String phrase) {
        List<String> words = list(phrase);
        return words.size() > MOST_OF_A_PHRASE
                ? List.of()
                : words.stream().map(Words::forms).toList();
    }

    /**
     * The forms in which an English word may stand: singular and plural, and the regular forms of a verb. Forms that do not exist are
     * among them and do no harm. The word itself comes first. Irregular forms are not known.
     */
    public static List<String> forms(String word) {
        var forms = new LinkedHashSet<String>();
        forms.add(word);
        for (String base : bases(word)) {
            forms.add(base);
            String last = base.substring(base.length() - 1);
            boolean y = base.endsWith("y") && base.length() > 2 && "aeiou".indexOf(base.charAt(base.length() - 2)) < 0;
            boolean e = base.endsWith("e");
            forms.add(y ? base.substring(0, base.length() - 1) + "ies" : base + "s");
            forms.add(base + "es");
            forms.add(y ? base.substring(0, base.length() - 1) + "ied" : e ? base + "d" : base + "ed");
            forms.add((e ? base.substring(0, base.length() - 1) : base) + "ing");
            if (base.length() > 2 && "bdglmnprt".contains(last)) {
                forms.add(base + last + "ed");
                forms.add(base + last + "ing");
            }
        }
        return List.copyOf(forms);
    }

    /** What a word may be a form of. */
    private static Set<String> bases(String word) {
        var bases = new LinkedHashSet<String>();
        bases.add(word);
        base(word, "ies", "y", bases);
        base(word, "ied", "y", bases);
        base(word, "es", "", bases);
        base(word, "s", "", bases);
        base(word, "ed", "", bases);
        base(word, "ed", "e", bases);
        base(word, "ing", "", bases);
        base(word, "ing", "e", bases);
        return bases;
    }

    private static void base(String word, String ending, String instead, Set<String> bases) {
        if (word.length() < ending.length() + 3 || !word.endsWith(ending)) {
            return;
        }
        String base = word.substring(0, word.length() - ending.length()) + instead;
        bases.add(base);
        int n = base.length();
        boolean doubled = instead.isEmpty() && n > 3 && base.charAt(n - 1) == base.charAt(n - 2);
        if (doubled) {
            bases.add(base.substring(0, n - 1));
        }
    }

    /** The same text without blanks around it, letter case and accents. */
    public static String fold(String text) {
        String plain = text.strip();
        // Most text is plain, and taking accents away is dear.
        String bare = isAscii(plain)
                ? plain
                : MARKS.matcher(Normalizer.normalize(plain, Normalizer.Form.NFKD))
                        .replaceAll("");
        // A blank may have stood behind a mark.
        return bare.toLowerCase(Locale.ROOT).strip();
    }

    private static boolean isAscii(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) >= 128) {
                return false;
            }
        }
        return true;
    }

    /** The words of a text, folded, in order. */
    public static List<String> list(String text) {
        var words = new ArrayList<String>();
        for (Matcher word = WORD.matcher(fold(text)); word.find(); ) {
            String found = word.group();
            words.add(found.length() > LONGEST ? found.substring(0, LONGEST) : found);
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

    /** Whether these words stand in it side by side, each in any of its forms. O(n f) for n words here and f forms of each there. */
    public boolean hasForm(String phrase) {
        List<List<String>> wanted = formsOf(phrase);
        if (wanted.isEmpty()) {
            return false;
        }
        for (String text : spaced.split("\\|")) {
            String[] words = text.strip().split(" ");
            for (int i = 0; i + wanted.size() <= words.length; i++) {
                if (standsAt(words, i, wanted)) {
                    return true;
                }
            }
        }
        return false;
    }

    private static boolean standsAt(String[] words, int at, List<List<String>> wanted) {
        for (int i = 0; i < wanted.size(); i++) {
            if (!wanted.get(i).contains(words[at + i])) {
                return false;
            }
        }
        return true;
    }

    /** Whether it begins with these words; of several texts, whether any does. */
    public boolean beginsWith(String phrase) {
        String wanted = spaced(fold(phrase));
        return wanted.length() > 1 && (spaced.startsWith(wanted) || spaced.contains("|" + wanted));
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

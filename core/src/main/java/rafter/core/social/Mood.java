package rafter.core.social;

import java.util.List;

/**
 * In which mood something was written, and the words that decided it.
 *
 * @param score from −1, wholly bad, to 1, wholly good; 0 where no word says anything
 * @param signs the words that said something, in their order
 */
public record Mood(double score, List<Sign> signs) {

    /** From here on a mood is more than a word or two in passing. */
    public static final double MARKED = 0.35;

    public Mood {
        signs = List.copyOf(signs);
    }

    /**
     * A word that said something.
     *
     * @param weight what it counted, as it stood there
     * @param turned whether a negation before it turned it around
     */
    public record Sign(String word, double weight, boolean turned) {

        /** As people read it, such as “not good”. */
        public String words() {
            return turned ? "not " + word : word;
        }
    }

    /** A mood in a word. */
    public enum Kind {
        GOOD,
        NEITHER,
        BAD;

        /** As people read it. */
        public String word() {
            return switch (this) {
                case GOOD -> "content";
                case NEITHER -> "neither";
                case BAD -> "annoyed";
            };
        }
    }

    /** The mood in a word. */
    public Kind kind() {
        return score >= MARKED ? Kind.GOOD : score <= -MARKED ? Kind.BAD : Kind.NEITHER;
    }
}

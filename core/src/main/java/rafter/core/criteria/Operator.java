package rafter.core.criteria;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** A question about a field. */
public enum Operator {
    IS("is"),
    IS_NOT("is not"),
    AT_LEAST("is at least"),
    AT_MOST("is at most"),
    HAS_ANY("has one of"),
    HAS_ALL("has all of"),
    HAS_NONE("has none of"),
    HAS_FORM("has a form of"),
    BEGINS_WITH("begins with"),
    ENDS_WITH("ends with"),
    IS_SET("is known"),
    IS_EMPTY("is not known"),
    WITHIN("is due within"),
    FROM("is on or after"),
    UNTIL("is on or before"),
    SOON("is within"),
    LATE("is late"),
    AT_RISK("is at risk"),
    RUNS("runs"),
    RUNS_NOT("does not run");

    private final String words;

    Operator(String words) {
        this.words = words;
    }

    /** As a sentence says it. */
    public String words() {
        return words;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The operator that data names so. */
    public static Optional<Operator> of(String key) {
        return Arrays.stream(values())
                .filter(operator -> operator.key().equals(key))
                .findFirst();
    }

    /** Whether it needs something to compare with. */
    public boolean wantsValues() {
        return this != IS_SET
                && this != IS_EMPTY
                && this != LATE
                && this != AT_RISK
                && this != RUNS
                && this != RUNS_NOT;
    }

    /** Whether it matches exactly when another question with the same values does not. */
    boolean negative() {
        return this == IS_NOT || this == HAS_NONE || this == IS_EMPTY || this == RUNS_NOT;
    }
}

package rafter.core.criteria;

import java.util.List;

/** What kind of thing a field holds, and so what can be asked about it. */
public enum FieldType {
    /** One of several known things, or none. */
    CHOICE(Operator.IS, Operator.IS_NOT, Operator.IS_SET, Operator.IS_EMPTY),
    /** One of several known things that have an order, the first being the highest. */
    RANKED(Operator.IS, Operator.IS_NOT, Operator.AT_LEAST, Operator.AT_MOST),
    /** Any number of short words. */
    SET(Operator.HAS_ANY, Operator.HAS_ALL, Operator.HAS_NONE, Operator.IS_SET, Operator.IS_EMPTY),
    /** A short text, compared as a whole or by its ends, letter case and accents aside. */
    TEXT(Operator.IS, Operator.IS_NOT, Operator.BEGINS_WITH, Operator.ENDS_WITH, Operator.IS_SET, Operator.IS_EMPTY),
    /** Running text, in which whole words are found. */
    WORDS(Operator.HAS_ANY, Operator.HAS_ALL, Operator.HAS_NONE, Operator.HAS_FORM, Operator.BEGINS_WITH),
    NUMBER(Operator.IS, Operator.IS_NOT, Operator.AT_LEAST, Operator.AT_MOST, Operator.IS_SET, Operator.IS_EMPTY),
    /** A day of the calendar. */
    DATE(Operator.IS, Operator.FROM, Operator.UNTIL, Operator.IS_SET, Operator.IS_EMPTY),
    /** How long ago something was, by the clock on the wall. */
    ELAPSED(Operator.AT_LEAST, Operator.AT_MOST),
    /** When something falls due, if it runs. */
    DUE(Operator.WITHIN, Operator.LATE, Operator.AT_RISK, Operator.RUNS, Operator.RUNS_NOT),
    /** When something is to happen, if it is. */
    AHEAD(Operator.SOON, Operator.IS_SET, Operator.IS_EMPTY);

    private final List<Operator> operators;

    FieldType(Operator... operators) {
        this.operators = List.of(operators);
    }

    /** Whether a field of this type can hold something. */
    boolean holds(Fact fact) {
        return switch (fact) {
            case Fact.Nothing nothing -> true;
            case Fact.Chosen chosen -> this == CHOICE;
            case Fact.Ranked ranked -> this == RANKED;
            case Fact.Several several -> this == SET;
            case Fact.Texts texts -> this == TEXT;
            case Fact.Running running -> this == WORDS;
            case Fact.Amount amount -> this == NUMBER;
            case Fact.Day day -> this == DATE;
            case Fact.Since since -> this == ELAPSED;
            case Fact.Ahead ahead -> this == DUE || this == AHEAD;
        };
    }

    /** Whether its answer changes while nothing happens, for time goes by. */
    public boolean ofTime() {
        return this == ELAPSED || this == DUE || this == AHEAD;
    }

    /** What can be asked, the usual first. */
    public List<Operator> operators() {
        return operators;
    }
}

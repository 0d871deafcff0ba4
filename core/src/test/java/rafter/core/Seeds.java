package rafter.core;

import java.util.stream.LongStream;

/** The seeds with which laws are tried. */
public final class Seeds {

    private Seeds() {}

    /** So many rounds of what is recorded, or a few less where each is tried again and again. */
    public static int rounds(int most) {
        return Math.min(most, 5 * Integer.getInteger("rafter.seeds", most));
    }

    /** So many of them, or fewer where each is tried again and again: the property {@code rafter.seeds} says how many at most. */
    public static LongStream upTo(int most) {
        return LongStream.range(0, Math.min(most, Integer.getInteger("rafter.seeds", most)));
    }
}

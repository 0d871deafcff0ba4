package rafter.app.work.worklist;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** How a list is drawn. */
public enum Shape {
    CARDS("Cards"),
    LINES("Lines"),
    GRID("Grid"),
    LANES("Lanes"),
    CLOCK("Clock");

    private final String words;

    Shape(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** As an address names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    static Optional<Shape> of(String key) {
        return Arrays.stream(values()).filter(shape -> shape.key().equals(key)).findFirst();
    }

    /** Whether it is one list, walked from top to bottom. */
    public boolean list() {
        return this == CARDS || this == LINES || this == GRID;
    }
}

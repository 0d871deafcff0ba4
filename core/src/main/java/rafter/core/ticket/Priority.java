package rafter.core.ticket;

import java.util.Arrays;
import java.util.Optional;

/** How much a ticket matters, P1 the most. */
public enum Priority {
    P1("Critical"),
    P2("High"),
    P3("Normal"),
    P4("Low");

    private final String word;

    Priority(String word) {
        this.word = word;
    }

    /** The priority that data names so. */
    public static Optional<Priority> of(String name) {
        return Arrays.stream(values())
                .filter(priority -> priority.name().equals(name))
                .findFirst();
    }

    /** The word a person reads. */
    public String word() {
        return word;
    }
}

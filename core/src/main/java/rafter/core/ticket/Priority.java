package rafter.core.ticket;

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

    /** The word a person reads. */
    public String word() {
        return word;
    }
}

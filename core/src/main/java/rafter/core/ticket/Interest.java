package rafter.core.ticket;

import java.util.Set;

/** What somebody who watches a ticket is told of. */
public enum Interest {
    CUSTOMER("the customer writes"),
    OURS("one of us writes, or an answer comes from outside"),
    STATE("its state changes");

    /** Everything there is to be told of. */
    public static final Set<Interest> ALL = Set.of(values());

    private final String words;

    Interest(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }
}

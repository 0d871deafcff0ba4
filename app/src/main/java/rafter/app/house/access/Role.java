package rafter.app.house.access;

import java.util.EnumSet;
import java.util.Set;

/** What a person is here, and with that what they may do. */
public enum Role {
    AGENT("Agent", EnumSet.of(Right.WORK)),
    LEAD("Lead", EnumSet.of(Right.WORK, Right.HAND_OVER_ANY)),
    ADMINISTRATOR("Administrator", EnumSet.allOf(Right.class));

    private final String word;
    private final Set<Right> rights;

    Role(String word, Set<Right> rights) {
        this.word = word;
        this.rights = Set.copyOf(rights);
    }

    /** The word a person reads. */
    public String word() {
        return word;
    }

    /** Whether this role carries a right. */
    public boolean has(Right right) {
        return rights.contains(right);
    }
}

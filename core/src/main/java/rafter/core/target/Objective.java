package rafter.core.target;

import java.util.Set;
import rafter.core.ticket.Turn;

/** What is promised. */
public enum Objective {
    FIRST_REPLY("first reply", Set.of(Turn.CUSTOMER, Turn.PARTNER)),
    NEXT_REPLY("next reply", Set.of(Turn.CUSTOMER, Turn.PARTNER)),
    RESOLUTION("resolution", Set.of(Turn.CUSTOMER, Turn.PARTNER)),
    PICK_UP("pick-up", Set.of()),
    REGULAR_UPDATE("regular update", Set.of());

    private final String words;
    private final Set<Turn> usuallyHeld;

    Objective(String words, Set<Turn> usuallyHeld) {
        this.words = words;
        this.usuallyHeld = usuallyHeld;
    }

    /** How people say it. */
    public String words() {
        return words;
    }

    /** The turns in which it is held unless a policy says otherwise. Nobody's turn holds every objective. */
    public Set<Turn> usuallyHeld() {
        return usuallyHeld;
    }
}

package rafter.app.worklist;

import static rafter.database.Tables.TICKET;

import java.util.Arrays;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.impl.DSL;
import rafter.app.access.Person;

/** The views that Rafter ships. Each has an index of the ticket table that is read in its order. */
enum ShippedView {
    MY_TURN("my-turn", "My turn", "Tickets where it is our turn, owned by me, ordered by what falls due next", true),
    UNOWNED("unowned", "Unowned", "Open tickets that nobody owns, ordered by what falls due next", true),
    OPEN("open", "Everything open", "All open tickets, ordered by what falls due next", true),
    CLOSED("closed", "Closed", "Tickets that are resolved or closed, the last changed first", false);

    private final String key;
    private final String title;
    private final String sentence;
    private final boolean working;

    ShippedView(String key, String title, String sentence, boolean working) {
        this.key = key;
        this.title = title;
        this.sentence = sentence;
        this.working = working;
    }

    static Optional<ShippedView> of(String key) {
        return Arrays.stream(values()).filter(view -> view.key.equals(key)).findFirst();
    }

    /** As an address names it. */
    public String key() {
        return key;
    }

    public String title() {
        return title;
    }

    /** What is in it, in words. */
    public String sentence() {
        return sentence;
    }

    /** Whether it shows work that is still to be done, ordered by what falls due next; else the last changed come first. */
    public boolean working() {
        return working;
    }

    /** Whether everybody sees other tickets in it. */
    boolean personal() {
        return this == MY_TURN;
    }

    /** Which tickets are in it; constants are written out, so that the partial indexes fit. */
    Condition condition(Person me) {
        return switch (this) {
            case MY_TURN -> DSL.condition(TICKET.OPEN).and(TICKET.TURN.eq(DSL.inline("OURS"))).and(TICKET.OWNER_ID.eq(me.id()));
            case UNOWNED -> DSL.condition(TICKET.OPEN).and(TICKET.OWNER_ID.isNull());
            case OPEN -> DSL.condition(TICKET.OPEN);
            case CLOSED -> DSL.not(DSL.condition(TICKET.OPEN));
        };
    }
}

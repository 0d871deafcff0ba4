package rafter.app.work.worklist;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** By what a list is parted, and Lanes are laid out. */
public enum Grouping {
    STATE("state", KnownColumn.STATE),
    TURN("turn", KnownColumn.TURN),
    PRIORITY("priority", KnownColumn.PRIORITY),
    OWNER("owner", KnownColumn.OWNER),
    TEAM("team", KnownColumn.TEAM_NAME),
    /** The owner, or the team of what nobody owns. In lists it is the owner alone. */
    HOLDER("who has it", KnownColumn.OWNER),
    TOPIC("topic", KnownColumn.TOPIC),
    DUE("time until due", KnownColumn.NEXT_DUE);

    private final String words;
    private final Order order;

    Grouping(String words, Order order) {
        this.words = words;
        this.order = order;
    }

    public String words() {
        return words;
    }

    public String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The order that brings the tickets of one group together. */
    Order order() {
        return order;
    }

    /** Those by which a shape can lay its tickets out. */
    static List<Grouping> of(Shape shape) {
        return switch (shape) {
            case CLOCK -> List.of(HOLDER, TEAM);
            case LANES -> List.of(values());
            case CARDS, LINES, GRID ->
                Arrays.stream(values()).filter(grouping -> grouping != HOLDER).toList();
        };
    }

    static Optional<Grouping> of(String key) {
        return Arrays.stream(values())
                .filter(grouping -> grouping.key().equals(key))
                .findFirst();
    }
}

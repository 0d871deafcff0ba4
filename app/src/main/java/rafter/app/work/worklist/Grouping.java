package rafter.app.work.worklist;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** By what a list is parted, and Lanes are laid out. */
enum Grouping {
    STATE("state", KnownOrder.STATE),
    TURN("turn", KnownOrder.TURN),
    PRIORITY("priority", KnownOrder.PRIORITY),
    OWNER("owner", KnownOrder.OWNER),
    TEAM("team", KnownOrder.TEAM_NAME),
    /** The owner, or the team of what nobody owns. In lists it is the owner alone. */
    HOLDER("who has it", KnownOrder.OWNER),
    TOPIC("topic", KnownOrder.TOPIC),
    DUE("time until due", KnownOrder.NEXT_DUE);

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

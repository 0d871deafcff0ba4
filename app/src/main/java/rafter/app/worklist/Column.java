package rafter.app.worklist;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** A column of the Grid. */
enum Column {
    NUMBER("Number", Order.NUMBER, 70),
    SUBJECT("Subject", Order.SUBJECT, 320),
    CUSTOMER("Customer", Order.CUSTOMER, 150),
    COMPANY("Company", null, 150),
    PLAN("Plan", null, 80),
    STATE("State", Order.STATE, 110),
    TURN("Turn", Order.TURN, 110),
    PRIORITY("Priority", Order.PRIORITY, 74),
    OWNER("Owner", Order.OWNER, 120),
    TEAM("Team", Order.TEAM_NAME, 110),
    TOPIC("Topic", Order.TOPIC, 110),
    TAGS("Tags", null, 140),
    DUE("Next due", Order.NEXT_DUE, 190),
    WAITING("In this turn", Order.WAITING, 100),
    LAST_CUSTOMER("Customer wrote", Order.LAST_CUSTOMER, 120),
    AGE("Age", Order.AGE, 80),
    COMES_BACK("Comes back", Order.COMES_BACK, 110),
    CHANGED("Changed", Order.CHANGED, 110),
    MESSAGES("Messages", null, 84),
    CHANNEL("Channel", null, 84);

    private static final List<Column> USUAL = List.of(NUMBER, SUBJECT, CUSTOMER, STATE, PRIORITY, OWNER, TOPIC, DUE, AGE);
    private static final int NARROWEST = 48;
    private static final int WIDEST = 900;

    private final String title;
    private final Optional<Order> order;
    private final int width;

    Column(String title, @org.jspecify.annotations.Nullable Order order, int width) {
        this.title = title;
        this.order = Optional.ofNullable(order);
        this.width = width;
    }

    public String title() {
        return title;
    }

    public Optional<Order> order() {
        return order;
    }

    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** A column that is shown, and how wide, in pixels. */
    record Shown(Column column, int width) {}

    /** Reads columns as an address names them: {@code number,subject:400}; the usual ones when it names none. */
    static List<Shown> read(String written) {
        var all = new ArrayList<Shown>();
        for (String one : written.split(",")) {
            String[] parts = one.split(":");
            Arrays.stream(values())
                    .filter(column -> column.key().equals(parts[0]) && all.stream().noneMatch(s -> s.column() == column))
                    .findFirst()
                    .ifPresent(column -> all.add(new Shown(column, parts.length > 1 ? width(parts[1], column) : column.width)));
        }
        return all.isEmpty() ? USUAL.stream().map(c -> new Shown(c, c.width)).toList() : all;
    }

    private static int width(String written, Column column) {
        return written.matches("\\d{1,4}") ? Math.clamp(Integer.parseInt(written), NARROWEST, WIDEST) : column.width;
    }

    static String written(List<Shown> all) {
        return all.stream()
                .map(s -> s.column().key() + (s.width() == s.column().width ? "" : ":" + s.width()))
                .collect(Collectors.joining(","));
    }
}

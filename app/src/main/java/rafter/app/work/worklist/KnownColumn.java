package rafter.app.work.worklist;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The columns that every ticket can fill. */
enum KnownColumn implements Column {
    NUMBER("Number", KnownOrder.NUMBER, 70),
    SUBJECT("Subject", KnownOrder.SUBJECT, 320),
    CUSTOMER("Customer", KnownOrder.CUSTOMER, 150),
    COMPANY("Company", KnownOrder.COMPANY_NAME, 150),
    PLAN("Plan", KnownOrder.PLAN, 80),
    STATE("State", KnownOrder.STATE, 110),
    TURN("Turn", KnownOrder.TURN, 110),
    PRIORITY("Priority", KnownOrder.PRIORITY, 74),
    OWNER("Owner", KnownOrder.OWNER, 120),
    TEAM("Team", KnownOrder.TEAM_NAME, 110),
    TOPIC("Topic", KnownOrder.TOPIC, 110),
    TAGS("Tags", KnownOrder.TAGS, 140),
    DUE("Next due", KnownOrder.NEXT_DUE, 190),
    WAITING("In this turn", KnownOrder.WAITING, 100),
    LAST_CUSTOMER("Customer wrote", KnownOrder.LAST_CUSTOMER, 120),
    AGE("Age", KnownOrder.AGE, 80),
    COMES_BACK("Comes back", KnownOrder.COMES_BACK, 110),
    CHANGED("Changed", KnownOrder.CHANGED, 110),
    MESSAGES("Messages", KnownOrder.MESSAGES, 84),
    CHANNEL("Channel", KnownOrder.CHANNEL, 84);

    private static final List<Column> USUAL =
            List.of(NUMBER, SUBJECT, CUSTOMER, STATE, PRIORITY, OWNER, TOPIC, DUE, AGE);

    private final String title;
    private final Order order;
    private final int width;

    KnownColumn(String title, Order order, int width) {
        this.title = title;
        this.order = order;
        this.width = width;
    }

    /** Those of a Grid whose columns nobody chose. */
    static List<Column> usual() {
        return USUAL;
    }

    @Override
    public String title() {
        return title;
    }

    @Override
    public Order order() {
        return order;
    }

    @Override
    public int width() {
        return width;
    }

    @Override
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    static Optional<Column> named(String key) {
        return Arrays.stream(values())
                .<Column>map(column -> column)
                .filter(column -> column.key().equals(key))
                .findFirst();
    }
}

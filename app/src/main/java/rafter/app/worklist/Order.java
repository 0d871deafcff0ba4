package rafter.app.worklist;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.Arrays;
import java.util.Optional;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;

/** What a list can be ordered by. Tickets that have nothing there come last, whichever way the list runs. */
enum Order {
    NEXT_DUE("what falls due next", TICKET.NEXT_DUE, true, "now"),
    LAST_CUSTOMER("the customer’s last message", TICKET.LAST_CUSTOMER_AT, true, "first"),
    WAITING("the time in this turn", TICKET.TURN_SINCE, false, "longest"),
    AGE("age", TICKET.OPENED_AT, false, "oldest"),
    CHANGED("the last change", TICKET.CHANGED_AT, false, "longest ago"),
    PRIORITY("priority", TICKET.PRIORITY, false, "highest"),
    COMES_BACK("when they come back", TICKET.BRING_BACK_AT, true, "soonest"),
    NUMBER("number", TICKET.NUMBER, false, "lowest"),
    SUBJECT("subject", TICKET.SUBJECT_WORDS, false, "A"),
    CUSTOMER("customer", DSL.coalesce(CONTACT.NAME_WORDS, DSL.inline("")), false, "A"),
    OWNER("owner", PERSON.NAME, true, "A"),
    TEAM_NAME("team", TEAM.NAME, true, "A"),
    TOPIC("topic", DSL.nullif(TICKET.TOPIC, DSL.inline("")), true, "A"),
    STATE("state", TICKET.STATE, false, "A"),
    TURN("turn", TICKET.TURN, false, "A");

    private final String words;
    private final Field<?> field;
    private final boolean mayLack;
    private final String first;

    Order(String words, Field<?> field, boolean mayLack, String first) {
        this.words = words;
        this.field = field;
        this.mayLack = mayLack;
        this.first = first;
    }

    public String words() {
        return words;
    }

    /** Which come first when it is not turned round. */
    public String first() {
        return first;
    }

    /** As an address names it. */
    public String key() {
        return switch (this) {
            case TEAM_NAME -> "team";
            default -> name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        };
    }

    static Optional<Order> of(String key) {
        return Arrays.stream(values()).filter(order -> order.key().equals(key)).findFirst();
    }

    @SuppressWarnings("unchecked")
    Field<Object> field() {
        return (Field<Object>) field;
    }

    boolean mayLack() {
        return mayLack;
    }

    /** The value of a row, as a cursor keeps it. */
    Optional<String> value(Record row) {
        return Optional.ofNullable(row.get(field)).map(Object::toString);
    }

    /** A value as the database compares it. */
    Object read(String value) {
        if (field.getType() == Instant.class) {
            return Instant.parse(value);
        }
        return field.getType() == Long.class ? Long.valueOf(value) : value;
    }

    /** Whether a value can be read; a cursor comes from outside. */
    boolean readable(String value) {
        try {
            read(value);
            return true;
        } catch (java.time.DateTimeException | NumberFormatException e) {
            return false;
        }
    }
}

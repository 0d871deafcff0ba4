package rafter.app.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.util.Arrays;
import java.util.Optional;
import java.util.Set;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;

/** The orders that every ticket knows. */
enum KnownOrder implements Order {
    NEXT_DUE("what falls due next", TICKET.NEXT_DUE, true, "now"),
    LAST_CUSTOMER("the customer’s last message", TICKET.LAST_CUSTOMER_AT, true, "longest ago"),
    WAITING("the time in this turn", TICKET.TURN_SINCE, false, "longest"),
    AGE("age", TICKET.OPENED_AT, false, "oldest"),
    CHANGED("the last change", TICKET.CHANGED_AT, false, "longest ago"),
    PRIORITY("priority", TICKET.PRIORITY, false, "highest"),
    COMES_BACK("when they come back", TICKET.BRING_BACK_AT, true, "soonest"),
    NUMBER("number", TICKET.NUMBER, false, "lowest"),
    SUBJECT("subject", TICKET.SUBJECT_WORDS, false, "A"),
    CUSTOMER("customer", DSL.coalesce(CONTACT.NAME_WORDS, DSL.inline("")), false, "A", CONTACT),
    COMPANY_NAME("company", COMPANY.NAME, true, "A", COMPANY),
    PLAN("plan", DSL.nullif(COMPANY.PLAN, DSL.inline("")), true, "A", COMPANY),
    OWNER("owner", PERSON.NAME, true, "A", PERSON),
    TEAM_NAME("team", TEAM.NAME, true, "A", TEAM),
    TOPIC("topic", DSL.nullif(TICKET.TOPIC, DSL.inline("")), true, "A"),
    TAGS("tags", DSL.nullif(DSL.field("array_to_string({0}, ', ')", String.class, TICKET.TAGS), DSL.inline("")), true, "A"),
    STATE("state", TICKET.STATE, false, "A"),
    TURN("turn", TICKET.TURN, false, "A"),
    MESSAGES("the number of messages", TICKET.MESSAGES, false, "fewest"),
    CHANNEL("channel", TICKET.CHANNEL, false, "A");

    private final String words;
    private final Field<?> field;
    private final boolean mayLack;
    private final String first;
    private final Set<Table<?>> reads;

    KnownOrder(String words, Field<?> field, boolean mayLack, String first, Table<?>... reads) {
        this.words = words;
        this.field = field;
        this.mayLack = mayLack;
        this.first = first;
        this.reads = Set.of(reads);
    }

    @Override
    public String words() {
        return words;
    }

    @Override
    public String first() {
        return first;
    }

    @Override
    public String key() {
        return switch (this) {
            case TEAM_NAME -> "team";
            case COMPANY_NAME -> "company";
            default -> name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        };
    }

    static Optional<Order> named(String key) {
        return Arrays.stream(values()).<Order>map(order -> order).filter(order -> order.key().equals(key)).findFirst();
    }

    @Override
    @SuppressWarnings("unchecked")
    public Field<Object> field() {
        return (Field<Object>) field;
    }

    @Override
    public boolean mayLack() {
        return mayLack;
    }

    @Override
    public Set<Table<?>> reads() {
        return reads;
    }
}

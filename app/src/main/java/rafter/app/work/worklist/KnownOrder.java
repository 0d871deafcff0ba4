package rafter.app.work.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

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
    TAGS(
            "tags",
            DSL.nullif(DSL.field("array_to_string({0}, ', ')", String.class, TICKET.TAGS), DSL.inline("")),
            true,
            "A"),
    STATE(
            "state",
            TICKET.STATE,
            TicketState.shipped().stream().map(TicketState::key).toList(),
            "new"),
    TURN("turn", TICKET.TURN, Arrays.stream(Turn.values()).map(Turn::name).toList(), "ours"),
    MESSAGES("the number of messages", TICKET.MESSAGES, false, "fewest"),
    CHANNEL("channel", TICKET.CHANNEL, false, "A");

    private final String words;
    private final Field<?> field;
    private final boolean mayLack;
    private final String first;
    private final Set<Table<?>> reads;
    private final List<Condition> kinds;

    KnownOrder(String words, Field<?> field, boolean mayLack, String first, Table<?>... reads) {
        this.words = words;
        this.field = field;
        this.mayLack = mayLack;
        this.first = first;
        this.reads = Set.of(reads);
        this.kinds = List.of();
    }

    /** An order by kinds; what is of none of them comes after all. */
    KnownOrder(String words, Field<String> field, List<String> kinds, String first) {
        this.words = words;
        this.field = place(field, kinds);
        this.mayLack = false;
        this.first = first;
        this.reads = Set.of();
        this.kinds = Stream.concat(
                        kinds.stream().map(kind -> field.eq(DSL.inline(kind))),
                        Stream.of(field.notIn(kinds.stream().map(DSL::inline).toList())))
                .toList();
    }

    private static Field<Integer> place(Field<String> field, List<String> kinds) {
        var step = DSL.choose(field).when(DSL.inline(kinds.getFirst()), DSL.inline(0));
        for (int i = 1; i < kinds.size(); i++) {
            step = step.when(DSL.inline(kinds.get(i)), DSL.inline(i));
        }
        return step.otherwise(DSL.inline(kinds.size()));
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
        return Arrays.stream(values())
                .<Order>map(order -> order)
                .filter(order -> order.key().equals(key))
                .findFirst();
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
    public List<Condition> kinds() {
        return kinds;
    }

    @Override
    public Set<Table<?>> reads() {
        return reads;
    }
}

package rafter.app.work.worklist;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/**
 * The columns that every ticket can fill, each declared once: what stands above it, what a row has in it, how that is shown, exported and
 * ordered. What only the customer, a team or a person has is read from their table by being named here.
 */
public enum KnownColumn implements Column, Order {
    NUMBER("Number", 70, WorklistStore.TicketRow::number, by("number", TICKET.NUMBER, "lowest")),
    SUBJECT("Subject", 320, WorklistStore.TicketRow::subject, by("subject", TICKET.SUBJECT_WORDS, "A")),
    CUSTOMER(
            "Customer",
            150,
            CONTACT.NAME,
            by("customer", DSL.coalesce(CONTACT.NAME_WORDS, DSL.inline("")), "A")
                    .of(CONTACT)),
    COMPANY_NAME("Company", 150, COMPANY.NAME, by("company", COMPANY.NAME, "A").orNone(COMPANY)),
    PLAN(
            "Plan",
            80,
            COMPANY.PLAN,
            by("plan", DSL.nullif(COMPANY.PLAN, DSL.inline("")), "A").orNone(COMPANY)),
    STATE(
            "State",
            110,
            WorklistStore.TicketRow::state,
            kinds(
                    "state",
                    TICKET.STATE,
                    TicketState.shipped().stream().map(TicketState::key).toList(),
                    "new")),
    TURN(
            "Turn",
            110,
            WorklistStore.TicketRow::turn,
            kinds(
                    "turn",
                    TICKET.TURN,
                    Arrays.stream(Turn.values()).map(Turn::name).toList(),
                    "ours")),
    PRIORITY("Priority", 74, WorklistStore.TicketRow::priority, by("priority", TICKET.PRIORITY, "highest")),
    OWNER("Owner", 120, PERSON.NAME, by("owner", PERSON.NAME, "A").orNone(PERSON)),
    TEAM_NAME("Team", 110, TEAM.NAME, by("team", TEAM.NAME, "A").orNone(TEAM)),
    TOPIC(
            "Topic",
            110,
            WorklistStore.TicketRow::topic,
            by("topic", DSL.nullif(TICKET.TOPIC, DSL.inline("")), "A").orNone()),
    TAGS(
            "Tags",
            140,
            row -> String.join(", ", row.tags()),
            by(
                            "tags",
                            DSL.nullif(
                                    DSL.field("array_to_string({0}, ', ')", String.class, TICKET.TAGS), DSL.inline("")),
                            "A")
                    .orNone()),
    NEXT_DUE(
            "Next due",
            190,
            WorklistStore.TicketRow::nextDue,
            by("what falls due next", TICKET.NEXT_DUE, "now").orNone()),
    WAITING(
            "In this turn",
            100,
            WorklistStore.TicketRow::turnSince,
            by("the time in this turn", TICKET.TURN_SINCE, "longest").asAmount()),
    LAST_CUSTOMER(
            "Customer wrote",
            120,
            WorklistStore.TicketRow::lastCustomerAt,
            by("the customer’s last message", TICKET.LAST_CUSTOMER_AT, "longest ago")
                    .orNone()),
    AGE(
            "Age",
            80,
            WorklistStore.TicketRow::openedAt,
            by("age", TICKET.OPENED_AT, "oldest").asAmount()),
    COMES_BACK(
            "Comes back",
            110,
            WorklistStore.TicketRow::comesBack,
            by("when they come back", TICKET.BRING_BACK_AT, "soonest").orNone()),
    CHANGED(
            "Changed",
            110,
            WorklistStore.TicketRow::changedAt,
            by("the last change", TICKET.CHANGED_AT, "longest ago")),
    MESSAGES(
            "Messages", 84, WorklistStore.TicketRow::messages, by("the number of messages", TICKET.MESSAGES, "fewest")),
    TIME_SPENT(
            "Time spent",
            90,
            row -> Amount.written(Duration.ofMinutes(Long.parseLong(row.told(Told.MINUTES)))),
            Optional.of(Told.MINUTES),
            by("the time spent", TICKET.MINUTES, "least")),
    RATING(
            "Rating",
            80,
            row -> rated(row.told(TICKET.RATING)),
            Optional.of(TICKET.RATING),
            kinds(
                    "rating",
                    DSL.coalesce(TICKET.RATING, DSL.inline("")),
                    Arrays.stream(Work.Rating.values()).map(Enum::name).toList().reversed(),
                    "poor")),
    CHANNEL("Channel", 84, WorklistStore.TicketRow::channel, by("channel", TICKET.CHANNEL, "A"));

    /** What rows read as text although it is none; apart, for columns refer to it before what stands below them is there. */
    private static final class Told {
        static final Field<String> MINUTES = TICKET.MINUTES.cast(String.class).as("minutes_spent");
    }

    /**
     * What a list is ordered by.
     *
     * @param amount whether a time is shown as how long ago it was
     */
    private record By(
            String words,
            Field<?> field,
            String first,
            boolean mayLack,
            Set<Table<?>> reads,
            List<Condition> kinds,
            boolean amount) {

        By of(Table<?> table) {
            return new By(words, field, first, mayLack, Set.of(table), kinds, amount);
        }

        By orNone(Table<?>... tables) {
            return new By(words, field, first, true, Set.of(tables), kinds, amount);
        }

        By asAmount() {
            return new By(words, field, first, mayLack, reads, kinds, true);
        }
    }

    private static By by(String words, Field<?> field, String first) {
        return new By(words, field, first, false, Set.of(), List.of(), false);
    }

    private static By kinds(String words, Field<String> field, List<String> kinds, String first) {
        Kinds by = Kinds.of(field, kinds);
        return new By(words, by.place(), first, false, Set.of(), by.each(), false);
    }

    private static final List<Column> USUAL =
            List.of(NUMBER, SUBJECT, CUSTOMER, STATE, PRIORITY, OWNER, TOPIC, NEXT_DUE, AGE);
    private static final List<Field<String>> TOLD =
            Arrays.stream(values()).flatMap(column -> column.told.stream()).toList();

    private final String title;
    private final int width;
    private final Function<WorklistStore.TicketRow, Object> value;
    private final Optional<Field<String>> told;
    private final By by;

    KnownColumn(String title, int width, Function<WorklistStore.TicketRow, Object> value, By by) {
        this(title, width, value, Optional.empty(), by);
    }

    /** A column whose value is a text of another table. */
    KnownColumn(String title, int width, Field<String> told, By by) {
        this(title, width, row -> row.told(told), Optional.of(told), by);
    }

    KnownColumn(
            String title,
            int width,
            Function<WorklistStore.TicketRow, Object> value,
            Optional<Field<String>> told,
            By by) {
        this.title = title;
        this.width = width;
        this.value = value;
        this.told = told;
        this.by = by;
    }

    private static String rated(String rating) {
        return rating.isEmpty() ? "" : Work.Rating.valueOf(rating).word();
    }

    /** Those of a Grid whose columns nobody chose. */
    static List<Column> usual() {
        return USUAL;
    }

    /** What rows read beside the ticket itself, for any column. */
    static List<Field<String>> told() {
        return TOLD;
    }

    // ------------------------------------------------------------------ as a column

    @Override
    public String title() {
        return title;
    }

    @Override
    public Order order() {
        return this;
    }

    @Override
    public int width() {
        return width;
    }

    @Override
    public Object value(WorklistStore.TicketRow row) {
        return value.apply(row);
    }

    @Override
    public boolean amount() {
        return by.amount();
    }

    @Override
    public String key() {
        return this == NEXT_DUE ? "due" : sortKey();
    }

    static Optional<Column> named(String key) {
        return first(column -> column.key().equals(key)).map(column -> column);
    }

    private static Optional<KnownColumn> first(Predicate<KnownColumn> which) {
        return Arrays.stream(values()).filter(which).findFirst();
    }

    // ------------------------------------------------------------------ as an order

    @Override
    public String words() {
        return by.words();
    }

    @Override
    public String first() {
        return by.first();
    }

    @Override
    public String sortKey() {
        return switch (this) {
            case TEAM_NAME -> "team";
            case COMPANY_NAME -> "company";
            default -> name().toLowerCase(Locale.ROOT).replace('_', '-');
        };
    }

    static Optional<Order> ordering(String key) {
        return first(column -> column.sortKey().equals(key)).map(column -> column);
    }

    @Override
    @SuppressWarnings("unchecked")
    public Field<Object> field() {
        return (Field<Object>) by.field();
    }

    @Override
    public boolean mayLack() {
        return by.mayLack();
    }

    @Override
    public List<Condition> kinds() {
        return by.kinds();
    }

    @Override
    public Set<Table<?>> reads() {
        return by.reads();
    }
}

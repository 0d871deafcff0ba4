package rafter.app.work.worklist;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;
import rafter.core.criteria.OwnField;
import rafter.core.id.TicketNumber;

/** What a list can be ordered by. Tickets that have nothing there come last, whichever way the list runs. */
public sealed interface Order permits KnownColumn, OwnOrder, StateOrder {

    /** As a menu says it; an own field's name is not known here. */
    String words();

    /** Which come first when it is not turned round. */
    String first();

    /** As an address names it. */
    String sortKey();

    /** What the database orders by. */
    Field<Object> field();

    /** Whether a ticket may have nothing there. */
    boolean mayLack();

    /**
     * The kinds of tickets that it tells apart, in the order of their meaning, when they are few; each ticket is of one. The value of a
     * row is then the number of its kind.
     */
    default List<Condition> kinds() {
        return List.of();
    }

    /** The tables that it reads besides the tickets. */
    Set<Table<?>> reads();

    /** The order that an address names so. */
    static Optional<Order> of(String key) {
        return KnownColumn.ordering(key)
                .or(() -> OwnField.of(key)
                        .filter(field -> field.bearer() == OwnField.Bearer.TICKET)
                        .map(OwnOrder::new));
    }

    /** The value of a row, as a cursor keeps it. */
    default Optional<String> value(Record row) {
        return Optional.ofNullable(row.get(field())).map(Object::toString);
    }

    /** A value as the database compares it. */
    default Object read(String value) {
        Class<?> type = field().getType();
        if (type == Instant.class) {
            return Instant.parse(value);
        }
        if (type == Integer.class) {
            return Integer.valueOf(value);
        }
        if (type == BigDecimal.class) {
            return new BigDecimal(value);
        }
        if (type == TicketNumber.class) {
            return new TicketNumber(Long.parseLong(value));
        }
        return type == Long.class ? Long.valueOf(value) : value;
    }

    /** Whether a value can be read; a cursor comes from outside. */
    default boolean readable(String value) {
        try {
            read(value);
            return true;
        } catch (java.time.DateTimeException | NumberFormatException e) {
            return false;
        }
    }
}

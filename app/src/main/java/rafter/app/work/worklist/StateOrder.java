package rafter.app.work.worklist;

import static rafter.database.Tables.TICKET;

import java.util.List;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;

/**
 * The order by state as this workspace has it, with states of its own in their place.
 *
 * @param keys of the states, in the order in which a ticket usually meets them
 */
record StateOrder(List<String> keys) implements Order {

    StateOrder {
        keys = List.copyOf(keys);
    }

    private Kinds byKinds() {
        return Kinds.of(TICKET.STATE, keys);
    }

    @Override
    public String words() {
        return KnownColumn.STATE.words();
    }

    @Override
    public String first() {
        return KnownColumn.STATE.first();
    }

    @Override
    public String sortKey() {
        return KnownColumn.STATE.sortKey();
    }

    @Override
    @SuppressWarnings({"unchecked", "rawtypes"})
    public Field<Object> field() {
        return (Field) byKinds().place();
    }

    @Override
    public boolean mayLack() {
        return false;
    }

    @Override
    public List<Condition> kinds() {
        return byKinds().each();
    }

    @Override
    public Set<Table<?>> reads() {
        return Set.of();
    }
}

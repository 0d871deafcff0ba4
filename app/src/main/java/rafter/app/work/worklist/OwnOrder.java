package rafter.app.work.worklist;

import java.util.Set;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import rafter.app.house.criteria.CriteriaSql;
import rafter.core.criteria.OwnField;

/** The order of an own field: numbers by their size, everything else as it is written. */
record OwnOrder(OwnField of) implements Order {

    @Override
    public String words() {
        return of.words();
    }

    @Override
    public String first() {
        return switch (of.kind()) {
            case NUMBER, DATE -> "lowest";
            case TEXT, LONG, CHOICE, SEVERAL, TREE, TICK, PERSON, COMPANY, LINK -> "A";
        };
    }

    @Override
    public String sortKey() {
        return of.key();
    }

    @Override
    @SuppressWarnings({"unchecked", "rawtypes"})
    public Field<Object> field() {
        Field<String> value = DSL.nullif(CriteriaSql.own(of), DSL.inline(""));
        return (Field) (of.kind() == OwnField.Kind.NUMBER ? value.cast(SQLDataType.NUMERIC) : value);
    }

    @Override
    public boolean mayLack() {
        return true;
    }

    @Override
    public Set<Table<?>> reads() {
        return Set.of();
    }
}

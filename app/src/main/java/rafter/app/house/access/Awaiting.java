package rafter.app.house.access;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;

/** Something that may wait for a person to look at it. Each page that opens asks once for all of it, and then only for what there is. */
public interface Awaiting {

    /** What pages know it by. */
    String name();

    /** How many of it wait for somebody; part of a query of nothing else. */
    Field<Integer> waitingFor(Viewer me);

    /** How many rows there are of which something holds, as a part of a query. */
    static Field<Integer> count(Table<?> of, Condition that) {
        return DSL.field(DSL.selectCount().from(of).where(that));
    }
}

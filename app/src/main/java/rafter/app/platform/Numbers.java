package rafter.app.platform;

import java.util.ArrayDeque;
import java.util.HashMap;
import java.util.Map;
import java.util.Queue;
import org.jooq.DSLContext;
import org.jooq.Sequence;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.springframework.stereotype.Component;

/** Ids for rows that are written later, taken from the tables' sequences a few at a time; those of a node that ends are lost, so there are gaps. */
@Component
public class Numbers {

    private static final int AT_ONCE = 32;

    private final DSLContext sql;
    private final Map<String, Queue<Long>> stock = new HashMap<>();

    Numbers(DSLContext sql) {
        this.sql = sql;
    }

    /** The next id of a table whose column {@code id} is an identity. */
    public synchronized long next(Table<?> table) {
        Queue<Long> ids = stock.computeIfAbsent(table.getName(), name -> new ArrayDeque<>());
        Long id = ids.poll();
        if (id != null) {
            return id;
        }
        Sequence<Long> sequence = DSL.sequence(DSL.name(table.getName() + "_id_seq"), SQLDataType.BIGINT);
        ids.addAll(sql.nextvals(sequence, AT_ONCE));
        return ids.remove();
    }
}

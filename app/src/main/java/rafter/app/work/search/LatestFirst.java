package rafter.app.work.search;

import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/**
 * Looks for what stands in a column, the latest rows first: what many have is among the latest few thousand, what few have is found by the
 * index. Neither way alone is quick for both, and the planner cannot know which it is. Runs within a transaction.
 */
@Component
class LatestFirst {

    private static final int LATEST = 3000;

    private final DSLContext sql;

    LatestFirst(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * The highest keys of rows.
     *
     * @param seen which of them may be seen
     * @param has what is to stand in the column, for the rows that are looked through
     * @param byIndex the same in a form that an index answers; asked for only when it is needed
     */
    <K, T> List<K> keys(
            Table<?> table,
            Field<K> key,
            Field<T> column,
            Condition seen,
            Function<Field<T>, Condition> has,
            Supplier<Condition> byIndex,
            int most) {
        Table<?> latest = DSL.select(key, column)
                .from(table)
                .where(seen)
                .orderBy(key.desc())
                .limit(LATEST)
                .asTable("latest");
        Field<K> latestKey = DSL.field(DSL.name("latest", key.getName()), key.getDataType());
        Field<T> there = DSL.field(DSL.name("latest", column.getName()), column.getDataType());
        List<K> found = sql.select(latestKey)
                .from(latest)
                .where(has.apply(there))
                .orderBy(latestKey.desc())
                .limit(most)
                .fetch(latestKey);
        if (found.size() == most) {
            return found;
        }
        return amongAll(table, key, seen, byIndex.get(), most);
    }

    private <K> List<K> amongAll(Table<?> table, Field<K> key, Condition seen, Condition byIndex, int most) {
        planOnlyByBitmaps(true);
        try {
            return sql.select(key)
                    .from(table)
                    .where(byIndex)
                    .and(seen)
                    .orderBy(key.desc())
                    .limit(most)
                    .fetch(key);
        } finally {
            planOnlyByBitmaps(false);
        }
    }

    /** Inverted indexes can be read in no other way. */
    private void planOnlyByBitmaps(boolean only) {
        String others = only ? "off" : "on";
        sql.execute("set local enable_seqscan = " + others);
        sql.execute("set local enable_indexscan = " + others);
        sql.execute("set local max_parallel_workers_per_gather = " + (only ? "0" : "default"));
    }
}

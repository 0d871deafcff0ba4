package rafter.app.tickets.parts;

import static rafter.database.Tables.RESOLUTION;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/** The causes that were written down of late, to be chosen again rather than spelled anew. */
@Component
class CauseList {

    private static final int OFFERED = 40;

    private final DSLContext sql;

    CauseList(DSLContext sql) {
        this.sql = sql;
    }

    /** The most used ones, by name. */
    List<String> used() {
        return sql
                .select(RESOLUTION.CAUSE)
                .from(RESOLUTION)
                .where(RESOLUTION.CAUSE.ne(""))
                .groupBy(RESOLUTION.CAUSE)
                .orderBy(DSL.count().desc(), RESOLUTION.CAUSE)
                .limit(OFFERED)
                .fetch(RESOLUTION.CAUSE)
                .stream()
                .sorted()
                .toList();
    }
}

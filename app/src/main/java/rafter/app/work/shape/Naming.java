package rafter.app.work.shape;

import static rafter.database.Tables.LIST_VIEW;
import static rafter.database.Tables.MACRO;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/** What names a part of the shape of tickets, such as a state or a field, by its key. */
@Component
class Naming {

    private static final int SHOWN = 20;

    private final DSLContext sql;

    Naming(DSLContext sql) {
        this.sql = sql;
    }

    /** The titles of the lists that ask about it. */
    List<String> views(String key) {
        return sql.select(LIST_VIEW.TITLE)
                .from(LIST_VIEW)
                .where(DSL.cast(LIST_VIEW.CRITERIA, String.class).contains(quoted(key)))
                .and(LIST_VIEW.DELETED_AT.isNull())
                .orderBy(LIST_VIEW.TITLE)
                .limit(SHOWN)
                .fetch(LIST_VIEW.TITLE);
    }

    /** The names of the macros that use it. */
    List<String> macros(String key) {
        return sql.select(MACRO.NAME)
                .from(MACRO)
                .where(DSL.cast(MACRO.STEPS, String.class).contains(quoted(key)))
                .and(MACRO.REMOVED_AT.isNull())
                .orderBy(MACRO.NAME)
                .limit(SHOWN)
                .fetch(MACRO.NAME);
    }

    private static String quoted(String key) {
        return "\"" + key + "\"";
    }
}

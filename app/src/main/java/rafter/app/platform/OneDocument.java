package rafter.app.platform;

import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Table;
import tools.jackson.databind.json.JsonMapper;

/**
 * A document of settings: the only row of a table with {@code id}, {@code document} and {@code version}, which rises with every change.
 *
 * @param <D> what the document holds, as JSON
 */
public final class OneDocument<D> {

    /** The document, and which state of it this is. */
    public record Kept<D>(D document, int version) {}

    private static final short ONLY = 1;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Table<?> table;
    private final Class<D> type;
    private final Field<Short> id;
    private final Field<JSONB> document;
    private final Field<Integer> version;

    private OneDocument(DSLContext sql, Table<?> table, Class<D> type) {
        this.sql = sql;
        this.table = table;
        this.type = type;
        this.id = Objects.requireNonNull(table.field("id", Short.class));
        this.document = Objects.requireNonNull(table.field("document", JSONB.class));
        this.version = Objects.requireNonNull(table.field("version", Integer.class));
    }

    /** The document of a table; whose feature writes the table. */
    public static <D> OneDocument<D> rowOf(DSLContext sql, Table<?> table, Class<D> type) {
        return new OneDocument<>(sql, table, type);
    }

    /** The document as it stands, looked up now; nothing while nobody has changed it. */
    public Optional<Kept<D>> kept() {
        return sql.select(document, version)
                .from(table)
                .fetchOptional(r -> new Kept<>(JSON.readValue(r.value1().data(), type), r.value2()));
    }

    /**
     * Changes it.
     *
     * @param seen the version that was changed; 0: there was none
     * @throws Problem.Stale when somebody changed it since
     */
    public void save(D next, int seen) {
        JSONB written = JSONB.valueOf(JSON.writeValueAsString(next));
        int changed = sql.insertInto(table)
                .set(id, ONLY)
                .set(document, written)
                .set(version, seen + 1)
                .onConflict(id)
                .doUpdate()
                .set(document, written)
                .set(version, seen + 1)
                .where(version.eq(seen))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale(
                    "Somebody changed these rules while you were editing. Nothing of yours was saved; it is still in the form.");
        }
    }
}

package rafter.app.platform;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Queue;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.InsertValuesStepN;
import org.jooq.Query;
import org.jooq.Record;
import org.jooq.Sequence;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Writes whose results nobody waits for. Within {@link #gather} they wait, and then go to the database a statement at a time with all
 * their rows, which costs a fraction of going one by one; elsewhere they go at once. Who reads within the same transaction what may
 * still wait settles it first.
 */
@Component
public class Writes {

    /** When a write goes: what others refer to goes before them. */
    public enum Stage {
        FILES,
        TICKETS,
        MESSAGES,
        DEPENDENTS
    }

    /** A statement that is the same for all its rows but for the values of its parameters, bound in their order. Compared by identity. */
    public static final class Form {
        private final Stage stage;
        private final Function<DSLContext, Query> statement;

        private Form(Stage stage, Function<DSLContext, Query> statement) {
            this.stage = stage;
            this.statement = statement;
        }
    }

    private static final int NUMBERS_AT_ONCE = 32;

    private static final class Waiting {
        private final Map<Stage, Map<Form, List<@Nullable Object[]>>> rows = new EnumMap<>(Stage.class);
        private final Set<Object> concerned = new HashSet<>();
        private final Map<String, Queue<Long>> numbers = new HashMap<>();
        private final Map<Object, Map<Object, Object>> foreseen = new HashMap<>();
    }

    private final DSLContext sql;

    Writes(DSLContext sql) {
        this.sql = sql;
    }

    /** Any statement; forms are made once and kept. */
    public static Form form(Stage stage, Function<DSLContext, Query> statement) {
        return new Form(stage, statement);
    }

    /** A row of a table, of all these columns. */
    public static Form insert(Stage stage, Table<?> table, Field<?>... columns) {
        return form(stage, sql -> rowOf(sql, table, columns));
    }

    /** Adds a row; one that is there already stays as it is. */
    public static Form insertIfNew(Stage stage, Table<?> table, Field<?>... columns) {
        return form(stage, sql -> rowOf(sql, table, columns).onConflictDoNothing());
    }

    /** A row of a table to be bound. */
    public static <R extends Record> InsertValuesStepN<R> rowOf(DSLContext sql, Table<R> table, Field<?>... columns) {
        return sql.insertInto(table).columns(columns).values(Collections.nCopies(columns.length, (@Nullable Object)
                null));
    }

    /** Runs work whose writes wait until it ends, or until they are settled. Within other such work it is a part of that. */
    public <T extends @Nullable Object> T gather(Supplier<T> work) {
        if (TransactionSynchronizationManager.hasResource(this)) {
            return work.get();
        }
        var waiting = new Waiting();
        TransactionSynchronizationManager.bindResource(this, waiting);
        try {
            T result = work.get();
            send(waiting);
            return result;
        } finally {
            TransactionSynchronizationManager.unbindResource(this);
        }
    }

    /** Writes a row, or lets it wait. */
    public void write(Form form, @Nullable Object... values) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting == null) {
            send(form, Collections.singletonList(values));
            return;
        }
        waiting.rows
                .computeIfAbsent(form.stage, stage -> new LinkedHashMap<>())
                .computeIfAbsent(form, f -> new ArrayList<>())
                .add(values);
    }

    /**
     * The next id of a table whose column {@code id} is an identity, for a row that is written later. Within gathered work several are
     * taken from the table's sequence at once, and those that are left over are lost.
     */
    public long number(Table<?> table) {
        Sequence<Long> sequence = DSL.sequence(DSL.name(table.getName() + "_id_seq"), SQLDataType.BIGINT);
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting == null) {
            return sql.nextval(sequence);
        }
        Queue<Long> numbers = waiting.numbers.computeIfAbsent(table.getName(), name -> new ArrayDeque<>());
        if (numbers.isEmpty()) {
            numbers.addAll(sql.nextvals(sequence, NUMBERS_AT_ONCE));
        }
        return numbers.remove();
    }

    /** Says what the writes that wait are about: the number of a ticket, say. */
    public void pendingFor(Object what) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting != null) {
            waiting.concerned.add(what);
        }
    }

    /** Whether anything that waits is about this. */
    public boolean waitsFor(Object what) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        return waiting != null && waiting.concerned.contains(what);
    }

    /** Lets what waits go when it is about any of these. */
    public void settle(Collection<?> whats) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting != null && whats.stream().anyMatch(waiting.concerned::contains)) {
            send(waiting);
        }
    }

    /**
     * Keeps what was looked up for many at once, for whoever asks for one of them later within the same gathered work. It is forgotten when
     * what waits goes, for then the database knows more.
     *
     * @param what what it is about
     * @param known by what it is asked for; what is asked for and not in it was not looked up
     */
    public void foresee(Object what, Map<?, ?> known) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting != null) {
            waiting.foreseen.computeIfAbsent(what, w -> new HashMap<>()).putAll(known);
        }
    }

    /** What was looked up beforehand. */
    public <T> Optional<T> foreseen(Object what, Object key, Class<T> type) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        return waiting == null
                ? Optional.empty()
                : Optional.ofNullable(
                                waiting.foreseen.getOrDefault(what, Map.of()).get(key))
                        .map(type::cast);
    }

    /** How many rows of a form wait that have this value among theirs. */
    public int waiting(Form form, Object value) {
        Waiting waiting = (Waiting) TransactionSynchronizationManager.getResource(this);
        if (waiting == null) {
            return 0;
        }
        List<@Nullable Object[]> rows =
                waiting.rows.getOrDefault(form.stage, Map.of()).getOrDefault(form, List.of());
        return (int) rows.stream()
                .filter(row -> Arrays.stream(row).anyMatch(one -> Objects.deepEquals(one, value)))
                .count();
    }

    private void send(Waiting waiting) {
        waiting.rows.values().forEach(forms -> forms.forEach(this::send));
        waiting.rows.clear();
        waiting.foreseen.clear();
        waiting.concerned.clear();
    }

    private void send(Form form, List<@Nullable Object[]> rows) {
        sql.batch(form.statement.apply(sql)).bind(rows.toArray(new Object[0][])).execute();
    }
}

package rafter.app.work.worklist;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import rafter.core.criteria.OwnField;

/** A column of the Grid. */
public sealed interface Column permits KnownColumn, Column.Own {

    /** What stands above it; an own field's name is not known here. */
    String title();

    /** As an address names it. */
    String key();

    /** What a list is ordered by when its header is pressed. */
    Order order();

    /** How wide it is when nobody says, in pixels. */
    int width();

    /** What a row has in it: a text, a number, a time, or an {@link Optional} of one. */
    Object value(WorklistStore.TicketRow row);

    /** Whether it is one that this workspace added. */
    default boolean own() {
        return false;
    }

    /** Whether a time in it is shown as how long ago it was. */
    default boolean amount() {
        return false;
    }

    /** The column of an own field. */
    record Own(OwnField field) implements Column {

        @Override
        public String title() {
            return field.words();
        }

        @Override
        public String key() {
            return field.key();
        }

        @Override
        public Order order() {
            return new OwnOrder(field);
        }

        @Override
        public int width() {
            return 120;
        }

        @Override
        public boolean own() {
            return true;
        }

        @Override
        public Object value(WorklistStore.TicketRow row) {
            return row.own().getOrDefault(field.key(), "");
        }
    }

    int NARROWEST = 48;
    int WIDEST = 900;

    /** A column that is shown, and how wide, in pixels. */
    record Shown(Column column, int width) {}

    private static Optional<Column> of(String key) {
        return KnownColumn.named(key)
                .or(() -> OwnField.of(key)
                        .filter(field -> field.bearer() == OwnField.Bearer.TICKET)
                        .map(Own::new));
    }

    /** Reads columns as an address names them: {@code number,subject:400}; the usual ones when it names none. */
    static List<Shown> read(String written) {
        var all = new ArrayList<Shown>();
        for (String one : written.split(",")) {
            String[] parts = one.split(":");
            of(parts[0])
                    .filter(column -> all.stream().noneMatch(s -> s.column().equals(column)))
                    .ifPresent(column ->
                            all.add(new Shown(column, parts.length > 1 ? width(parts[1], column) : column.width())));
        }
        return all.isEmpty()
                ? KnownColumn.usual().stream().map(c -> new Shown(c, c.width())).toList()
                : all;
    }

    private static int width(String written, Column column) {
        return written.matches("\\d{1,4}") ? Math.clamp(Integer.parseInt(written), NARROWEST, WIDEST) : column.width();
    }

    /** Columns as an address names them. */
    static String written(List<Shown> all) {
        return all.stream()
                .map(s -> s.column().key() + (s.width() == s.column().width() ? "" : ":" + s.width()))
                .collect(Collectors.joining(","));
    }
}

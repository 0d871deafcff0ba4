package rafter.app.work.customers;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.impl.DSL;

/** Walks lists that are in the order of names, a part at a time, on and back; ids part what is called the same. */
final class ByName {

    /** So many stand on a page. */
    static final int PAGE = 50;

    private ByName() {}

    /**
     * A part of a list.
     *
     * @param earlier whether there is something before it
     * @param later whether there is something after it
     */
    public record Part<T>(List<T> rows, boolean earlier, boolean later) {}

    /** Where a part of a list begins or ends. */
    sealed interface From<T> {
        /** At the top. */
        public record Top<T>() implements From<T> {}

        /** After one that is known by its id; one that is gone means the top. */
        public record After<T>(T id) implements From<T> {}

        /** Before one, likewise. */
        public record Before<T>(T id) implements From<T> {}
    }

    /** Where something stands in an order by name. */
    public record Place<T>(String name, T id) {}

    /** Finds where something stands that is known by its id. */
    interface Finding<T> {
        Optional<Place<T>> find(T id);
    }

    /** Reads rows from a place on, in the order or backwards. */
    interface Reading<R, T> {
        List<R> read(Optional<Place<T>> from, boolean backwards);
    }

    /** Reads a part of a list: one row more than a page tells whether there is more. */
    static <R, T> Part<R> part(From<T> from, Finding<T> finding, Reading<R, T> reading) {
        return switch (from) {
            case From.Top<T> top -> forwards(reading.read(Optional.empty(), false), false);
            case From.After<T>(T id) -> {
                Optional<Place<T>> place = finding.find(id);
                yield forwards(reading.read(place, false), place.isPresent());
            }
            case From.Before<T>(T id) -> {
                Optional<Place<T>> place = finding.find(id);
                yield place.isEmpty()
                        ? forwards(reading.read(place, false), false)
                        : backwards(reading.read(place, true));
            }
        };
    }

    private static <R> Part<R> forwards(List<R> rows, boolean earlier) {
        boolean later = rows.size() > PAGE;
        return new Part<>(later ? rows.subList(0, PAGE) : rows, earlier, later);
    }

    private static <R> Part<R> backwards(List<R> rows) {
        boolean earlier = rows.size() > PAGE;
        var kept = new ArrayList<>(earlier ? rows.subList(0, PAGE) : rows);
        Collections.reverse(kept);
        return new Part<>(kept, earlier, true);
    }

    /** What comes after a place, or before it. */
    static <T> Condition beyond(Field<String> name, Field<T> id, Optional<Place<T>> place, boolean backwards) {
        return place.map(from -> backwards
                        ? DSL.row(name, id).lt(from.name(), from.id())
                        : DSL.row(name, id).gt(from.name(), from.id()))
                .orElse(DSL.noCondition());
    }

    /** The order itself, or backwards. */
    static List<OrderField<?>> order(Field<String> name, Field<?> id, boolean backwards) {
        return backwards ? List.of(name.desc(), id.desc()) : List.of(name, id);
    }
}

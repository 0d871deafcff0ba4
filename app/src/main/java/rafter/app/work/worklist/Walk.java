package rafter.app.work.worklist;

import static rafter.database.Tables.TICKET;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.SortField;
import org.jooq.impl.DSL;

/**
 * Which way a list is read: by its keys from a place on, never by counting rows, so that a page far down costs what the first one does.
 *
 * @param backwards towards the beginning of the list
 * @param from the place behind which it is read; nothing: from the end that comes first
 */
record Walk(List<Sorting> sorting, boolean backwards, Optional<Cursor> from) {

    /** A part of a list that is one range of an index. */
    public record Range(Condition where, List<SortField<?>> order) {}

    /** The ranges that are still to be read, in their order. */
    List<Range> ranges() {
        Order first = sorting.getFirst().order();
        if (!first.kinds().isEmpty()) {
            return kinds(first.kinds());
        }
        return first.mayLack() ? sides(first.field()) : List.of(range(0, from, DSL.noCondition()));
    }

    /** Tickets that lack the first key come last, so backwards they come first. */
    private List<Range> sides(Field<Object> key) {
        boolean fromLacking =
                from.filter(cursor -> cursor.values().getFirst().isEmpty()).isPresent();
        var ranges = new ArrayList<Range>();
        for (boolean lacking : new boolean[] {backwards, !backwards}) {
            boolean passed = from.isPresent() && lacking != fromLacking && lacking == backwards;
            if (!passed) {
                ranges.add(range(
                        0, from.filter(cursor -> lacking == fromLacking), lacking ? key.isNull() : key.isNotNull()));
            }
        }
        return ranges;
    }

    /** The kinds of the first key one by one, in the order of their meaning: each is a range of an index on the keys after it. */
    private List<Range> kinds(List<Condition> kinds) {
        boolean down = down(sorting.getFirst());
        Optional<Integer> start =
                from.flatMap(cursor -> cursor.values().getFirst()).map(Integer::valueOf);
        var ranges = new ArrayList<Range>();
        for (int i = 0; i < kinds.size(); i++) {
            int kind = down ? kinds.size() - 1 - i : i;
            boolean passed = start.isPresent() && (down ? kind > start.get() : kind < start.get());
            if (!passed) {
                ranges.add(range(1, from.filter(cursor -> start.isPresent() && kind == start.get()), kinds.get(kind)));
            }
        }
        return ranges;
    }

    /** @param settled how many of the keys are the same for all of the range */
    private Range range(int settled, Optional<Cursor> here, Condition range) {
        Condition where = here.map(cursor -> range.and(settled == 0 ? beyond(cursor) : beyond(settled, cursor)))
                .orElse(range);
        return new Range(where, order(settled, false));
    }

    /** The whole list in one order, tickets that lack a key last. */
    static List<SortField<?>> wholeOrder(List<Sorting> sorting) {
        return new Walk(sorting, false, Optional.empty()).order(0, true);
    }

    /**
     * The number breaks ties, in the direction of the first key, so that one index can be read for both.
     *
     * @param mixed whether some have a value in the first key, and others have none
     */
    private List<SortField<?>> order(int settled, boolean mixed) {
        var fields = new ArrayList<SortField<?>>();
        for (int i = settled; i < sorting.size(); i++) {
            Sorting one = sorting.get(i);
            SortField<?> field =
                    down(one) ? one.order().field().desc() : one.order().field().asc();
            boolean mayLack = one.order().mayLack() && (i > 0 || mixed);
            fields.add(!mayLack ? field : backwards ? field.nullsFirst() : field.nullsLast());
        }
        fields.add(down(sorting.getFirst()) ? TICKET.NUMBER.desc() : TICKET.NUMBER.asc());
        return fields;
    }

    private boolean down(Sorting one) {
        return one.descending() != backwards;
    }

    private Condition beyond(Cursor place) {
        Sorting first = sorting.getFirst();
        Optional<Object> leading = place.values().getFirst().map(first.order()::read);
        Field<Object> key = first.order().field();
        if (leading.isEmpty()) {
            // All of the range lack the first key.
            return beyond(1, place);
        }
        if (sorting.size() == 1) {
            var here = DSL.row(key, TICKET.NUMBER);
            var there = DSL.row(DSL.val(leading.get(), key), DSL.val(place.number()));
            return down(first) ? here.lt(there) : here.gt(there);
        }
        // Bounds the range that is read; the rest only looks at ties.
        return beyond(0, place).and(down(first) ? key.le(leading.get()) : key.ge(leading.get()));
    }

    /** Beyond by the keys after those that are settled. */
    private Condition beyond(int settled, Cursor place) {
        Condition beyond =
                down(sorting.getFirst()) ? TICKET.NUMBER.lt(place.number()) : TICKET.NUMBER.gt(place.number());
        for (int i = sorting.size() - 1; i >= settled; i--) {
            beyond = beyondBy(sorting.get(i), place.values().get(i), beyond);
        }
        return beyond;
    }

    /** Beyond by this key, or equal in it and beyond by those after it; what is lacking comes last. */
    private Condition beyondBy(Sorting one, Optional<String> value, Condition rest) {
        Field<Object> key = one.order().field();
        if (value.isEmpty()) {
            Condition equal = key.isNull().and(rest);
            return backwards ? key.isNotNull().or(equal) : equal;
        }
        Object at = one.order().read(value.get());
        Condition further = down(one) ? key.lt(at) : key.gt(at);
        Condition lacking = one.order().mayLack() && !backwards ? key.isNull() : DSL.falseCondition();
        return further.or(lacking).or(key.eq(at).and(rest));
    }
}

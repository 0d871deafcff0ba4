package rafter.app.work.worklist;

import java.util.List;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;

/**
 * An order by few kinds that have an order of their own; what is of none of them comes after all.
 *
 * @param place the number of a ticket's kind
 * @param each that a ticket is of a kind, in their order
 */
record Kinds(Field<Integer> place, List<Condition> each) {

    /** By the values of a field, in this order. */
    static Kinds of(Field<String> field, List<String> kinds) {
        List<Condition> each = Stream.concat(
                        kinds.stream().map(kind -> field.eq(DSL.inline(kind))),
                        Stream.of(field.notIn(kinds.stream().map(DSL::inline).toList())))
                .toList();
        var step = DSL.choose(field).when(DSL.inline(kinds.getFirst()), DSL.inline(0));
        for (int i = 1; i < kinds.size(); i++) {
            step = step.when(DSL.inline(kinds.get(i)), DSL.inline(i));
        }
        return new Kinds(step.otherwise(DSL.inline(kinds.size())), each);
    }
}

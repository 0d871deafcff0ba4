package rafter.app.platform;

import org.jooq.Field;
import org.jooq.impl.DSL;

/**
 * Texts as the indexes of trigrams have them. Such an index answers equality, too, and the planner takes that for far cheaper than it is; so
 * these are laid on an expression of which nobody asks but who looks for a part of a text.
 */
public final class Trigrams {

    private Trigrams() {}

    /** A text in which a part is looked for: a column that an index of trigrams has. */
    public static Field<String> of(Field<String> text) {
        return DSL.field("({0} || '')", String.class, text);
    }
}

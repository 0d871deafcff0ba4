package rafter.core.criteria;

import java.util.Optional;

/** Something about a ticket that can be asked. */
public sealed interface Field permits KnownField, OwnField {

    /** What kind of thing it holds. */
    FieldType type();

    /** As a sentence says it; an own field's name is not known here. */
    String words();

    /** As data names it. */
    String key();

    /** The field that data names so. */
    static Optional<Field> of(String key) {
        return KnownField.of(key)
                .<Field>map(field -> field)
                .or(() -> OwnField.of(key).map(field -> field));
    }
}

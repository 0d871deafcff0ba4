package rafter.app.work.search;

import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.core.criteria.OwnField;
import rafter.core.text.Words;

/** What was asked for as conditions on own fields: that a field is exactly this, letter case and accents aside where it holds a text. */
final class FieldConditions {

    private FieldConditions() {}

    /** That a field of a row is this; nothing when no such value can stand in it. */
    static Optional<Function<Field<JSONB>, Condition>> stands(AddedField field, String asked) {
        Optional<String> value = switch (field.field().kind()) {
            case TEXT, LONG, LINK -> Optional.of(Words.fold(asked.strip()));
            case TREE -> field.tree().meant(asked);
            case PERSON, COMPANY, TICK -> Optional.empty();
            case CHOICE, SEVERAL ->
                field.choices().stream()
                        .filter(choice -> Words.fold(choice).equals(Words.fold(asked.strip())))
                        .findFirst();
            case NUMBER, DATE -> field.field().normalised(asked);
        };
        return value.filter(text -> !text.isEmpty() && text.length() <= OwnField.LONGEST_LINK)
                .map(text -> column -> DSL.condition("{0} <> '{}'", column)
                        .and(DSL.condition(
                                "{0} @> {1}", column, DSL.val(OwnFields.written(Map.of(field.key(), text))))));
    }

    /** The column in which a field is compared; both have an index that answers it. */
    static Field<JSONB> column(AddedField field, Field<JSONB> own, Field<JSONB> folded) {
        return field.field().kind().written() ? folded : own;
    }
}

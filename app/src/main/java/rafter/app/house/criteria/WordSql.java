package rafter.app.house.criteria;

import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import rafter.core.criteria.Criteria;
import rafter.core.text.Words;

/** Words that are looked for in a text, in the folded form that {@link Words} makes and the store keeps. */
public final class WordSql {

    private WordSql() {}

    /** Asks a question of the text of a ticket, wherever that stands. */
    interface Where extends Function<Function<Field<String>, Condition>, Condition> {}

    static Condition words(Criteria.Test test, Where text) {
        List<String> wanted = test.values();
        return switch (test.operator()) {
            case HAS_ANY -> DSL.or(each(wanted, v -> text.apply(field -> has(field, v))));
            case HAS_ALL ->
                DSL.and(
                        wanted.isEmpty()
                                ? List.of(DSL.trueCondition())
                                : each(wanted, v -> text.apply(field -> has(field, v))));
            case HAS_NONE -> DSL.not(DSL.or(each(wanted, v -> text.apply(field -> has(field, v)))));
            case HAS_FORM -> DSL.or(each(wanted, v -> text.apply(field -> hasForm(field, v))));
            case BEGINS_WITH -> DSL.or(each(wanted, v -> text.apply(field -> begins(field, v))));
            default -> DSL.falseCondition();
        };
    }

    private static Condition has(Field<String> field, String phrase) {
        String kept = Words.of(phrase).stored();
        return kept.isBlank()
                ? DSL.falseCondition()
                : listed(field, kept, " & ").and(field.contains(kept));
    }

    /** The index finds texts with some form of each word; a pattern of all forms then looks at their order. */
    private static Condition hasForm(Field<String> field, String phrase) {
        List<List<String>> forms = Words.formsOf(phrase);
        if (forms.isEmpty()) {
            return DSL.falseCondition();
        }
        String each = forms.stream()
                .map(some -> some.stream().map(form -> "'" + form + "'").collect(Collectors.joining(" | ", "(", ")")))
                .collect(Collectors.joining(" & "));
        String pattern =
                forms.stream().map(some -> String.join("|", some)).collect(Collectors.joining(") (", " (", ") "));
        return DSL.condition("word_list({0}) @@ {1}::tsquery", field, DSL.val(each))
                .and(DSL.condition("{0} ~ {1}", field, DSL.val(pattern)));
    }

    private static Condition begins(Field<String> field, String phrase) {
        String kept = Words.of(phrase).stored();
        return kept.isBlank()
                ? DSL.falseCondition()
                : listed(field, kept, " & ").and(field.startsWith(kept));
    }

    /** What the index of words finds; the text is then looked at for their order. */
    private static Condition listed(Field<String> field, String kept, String joined) {
        return DSL.condition("word_list({0}) @@ {1}::tsquery", field, DSL.val(query(kept, joined)));
    }

    /** Kept words as a text search query. They hold letters and digits only, so nothing in them needs quoting but the words themselves. */
    public static String query(String kept, String joined) {
        return List.of(kept.strip().split(" ")).stream()
                .map(word -> "'" + word + "'")
                .collect(Collectors.joining(joined));
    }

    /** A condition for each value; what asks for nothing matches nothing. */
    static List<Condition> each(Collection<String> values, Function<String, Condition> condition) {
        return values.isEmpty()
                ? List.of(DSL.falseCondition())
                : values.stream().map(condition).toList();
    }
}

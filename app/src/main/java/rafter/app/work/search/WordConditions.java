package rafter.app.work.search;

import java.util.List;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/** Words that were asked for as conditions on kept words: all of them, the last one as the beginning of a word. */
@Component
class WordConditions {

    private final KnownWords known;

    WordConditions(KnownWords known) {
        this.known = known;
    }

    /** The last word counts as the beginning of one. */
    static Condition typed(Field<String> field, List<String> words) {
        return listed(
                field, String.join(" & ", quoted(words)) + (words.getLast().length() > 1 ? ":*" : ""));
    }

    /** The words in a form that the index answers quickly. */
    Condition has(Field<String> field, List<String> words) {
        String last = words.getLast();
        if (last.length() < 2) {
            return typed(field, words);
        }
        Condition all = words.size() == 1
                ? DSL.trueCondition()
                : listed(field, String.join(" & ", quoted(words.subList(0, words.size() - 1))));
        List<String> endings = known.endings(last);
        if (endings.size() <= KnownWords.ENDINGS) {
            // As whole words they are read from the index a few at a time, which a beginning of a word is not.
            return all.and(
                    listed(field, String.join(" | ", quoted(endings)) + (digits(last) ? " | '" + last + "':*" : "")));
        }
        return words.size() == 1 ? typed(field, words) : all.and(field.contains(" " + last));
    }

    private static boolean digits(String word) {
        return word.chars().anyMatch(Character::isDigit);
    }

    private static List<String> quoted(List<String> words) {
        return words.stream().map(word -> "'" + word + "'").toList();
    }

    private static Condition listed(Field<String> field, String query) {
        return DSL.condition("word_list({0}) @@ {1}::tsquery", field, DSL.val("(" + query + ")"));
    }
}

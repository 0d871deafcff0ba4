package rafter.core.chat;

import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;

/**
 * On which pages something is shown: paths with blanks or commas between, each of which can end in a star for all that begin so; blank: on
 * all.
 */
public record Pages(String typed) {

    /** Whether a page is one of them. */
    public boolean has(String path) {
        List<String> each = Arrays.stream(typed.split("[\\s,]+"))
                .filter(Predicate.not(String::isEmpty))
                .toList();
        return each.isEmpty() || each.stream().anyMatch(one -> matches(one, path));
    }

    private static boolean matches(String one, String path) {
        return one.endsWith("*") ? path.startsWith(one.substring(0, one.length() - 1)) : path.equals(one);
    }
}

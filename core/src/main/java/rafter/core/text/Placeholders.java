package rafter.core.text;

import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Text with placeholders in braces, such as {@code {ticket}}. */
public final class Placeholders {

    private static final Pattern PLACEHOLDER = Pattern.compile("\\{([a-z]+(?: [a-z]+)*)}");

    private Placeholders() {}

    /** The text with each known placeholder replaced by its value; unknown ones stay as they are. */
    public static String fill(String template, Map<String, String> values) {
        return PLACEHOLDER.matcher(template).replaceAll(found -> {
            String name = found.group(1);
            return Matcher.quoteReplacement(values.getOrDefault(name, found.group()));
        });
    }

    /** The placeholders of a text that have no value, each once, in order. */
    public static List<String> unknown(String template, java.util.Set<String> known) {
        return PLACEHOLDER
                .matcher(template)
                .results()
                .map(found -> found.group(1))
                .filter(name -> !known.contains(name))
                .distinct()
                .toList();
    }
}

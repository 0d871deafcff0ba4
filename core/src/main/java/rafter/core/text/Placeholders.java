package rafter.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

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

    /**
     * What of a text would be left standing in braces.
     *
     * @param unknown names that nobody knows, each once, in order
     * @param empty names that are known and have no value where it is written
     */
    public record Gaps(List<String> unknown, List<String> empty) {
        public Gaps {
            unknown = List.copyOf(unknown);
            empty = List.copyOf(empty);
        }

        /** Whether everything is filled in. */
        public boolean none() {
            return unknown.isEmpty() && empty.isEmpty();
        }

        /** What is missing, in words; empty when nothing is. */
        public String words() {
            var words = new ArrayList<String>();
            if (!empty.isEmpty()) {
                words.add(braced(empty) + (empty.size() == 1 ? " has no value here." : " have no value here."));
            }
            if (!unknown.isEmpty()) {
                words.add("Nobody knows what " + braced(unknown) + (unknown.size() == 1 ? " stands" : " stand")
                        + " for.");
            }
            return String.join(" ", words);
        }

        private static String braced(List<String> names) {
            return names.stream().map(name -> "{" + name + "}").collect(Collectors.joining(", "));
        }
    }

    /** The text with those placeholders filled in that have a value; one whose value is blank stays, so that somebody sees it. */
    public static String fillKnown(String template, Map<String, String> values) {
        return PLACEHOLDER.matcher(template).replaceAll(found -> {
            String value = values.getOrDefault(found.group(1), "");
            return Matcher.quoteReplacement(value.isBlank() ? found.group() : value);
        });
    }

    /** What would be left standing in braces once a text is filled in with these values. */
    public static Gaps gaps(String template, Map<String, String> values) {
        List<String> left = unknown(template, Set.of());
        return new Gaps(
                left.stream().filter(name -> !values.containsKey(name)).toList(),
                left.stream()
                        .filter(name -> values.containsKey(name)
                                && values.getOrDefault(name, "").isBlank())
                        .toList());
    }

    /** The placeholders of a text that have no value, each once, in order. */
    public static List<String> unknown(String template, Set<String> known) {
        return PLACEHOLDER
                .matcher(template)
                .results()
                .map(found -> found.group(1))
                .filter(name -> !known.contains(name))
                .distinct()
                .toList();
    }
}

package rafter.core.criteria;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import rafter.core.text.Words;

/**
 * Choices that lie one below the other, such as a catalogue of services. A choice is written as the names of its levels with a slash
 * between them, the widest first: {@code Ferries / Cabins / Upgrade}.
 *
 * @param all every choice as it is written, in the order in which they are offered; each after the one that it lies below
 */
public record ChoiceTree(List<String> all) {

    /** Deeper nobody walks. */
    public static final int DEEPEST = 6;

    private static final String BETWEEN = " / ";

    public ChoiceTree {
        all = List.copyOf(all);
    }

    /**
     * Reads choices of which each stands on a line of its own, pushed in by two blanks (or one tab) for each level below.
     *
     * @throws IllegalArgumentException with words for people when a line lies nowhere or its name cannot be one
     */
    public static ChoiceTree indented(String lines) {
        var path = new ArrayList<String>();
        var all = new LinkedHashSet<String>();
        for (String line : lines.lines().toList()) {
            if (!line.isBlank()) {
                String name = line.strip();
                int depth = depth(line);
                check(name, depth, path.size());
                path.subList(depth, path.size()).clear();
                path.add(name);
                all.add(written(path));
            }
        }
        return new ChoiceTree(new ChoiceTree(List.copyOf(all)).walked("").toList());
    }

    /** Everything below a choice, each with what lies below it at once, so that a name written twice takes up what follows both times. */
    private Stream<String> walked(String written) {
        return below(written).stream().flatMap(one -> Stream.concat(Stream.of(one), walked(one)));
    }

    private static int depth(String line) {
        int blanks = 0;
        for (int i = 0; i < line.length() && Character.isWhitespace(line.charAt(i)); i++) {
            blanks += line.charAt(i) == '\t' ? 2 : 1;
        }
        return blanks / 2;
    }

    private static void check(String name, int depth, int above) {
        if (name.contains("/")) {
            throw new IllegalArgumentException("“" + name + "” has a slash in it, which stands between levels.");
        }
        if (depth > above) {
            throw new IllegalArgumentException(
                    "“" + name + "” is pushed in further than one level below the line above it.");
        }
        if (depth >= DEEPEST) {
            throw new IllegalArgumentException("“" + name + "” lies deeper than " + DEEPEST + " levels.");
        }
    }

    /** These choices as {@link #indented} reads them. */
    public String indented() {
        return String.join(
                "\n",
                all.stream()
                        .map(one -> path(one).orElseThrow())
                        .map(path -> "  ".repeat(path.size() - 1) + path.getLast())
                        .toList());
    }

    /** The names of the levels of a choice, the widest first; nothing when one has no name. */
    public static Optional<List<String>> path(String written) {
        List<String> path =
                Arrays.stream(written.split("/", -1)).map(String::strip).toList();
        return path.stream().anyMatch(String::isEmpty) ? Optional.empty() : Optional.of(path);
    }

    /** A choice as it is written. */
    public static String written(List<String> path) {
        return String.join(BETWEEN, path);
    }

    /** A choice and everything above it, each as it is written, the widest first. */
    static List<String> above(List<String> path) {
        return Stream.iterate(1, depth -> depth <= path.size(), depth -> depth + 1)
                .map(depth -> written(path.subList(0, depth)))
                .toList();
    }

    /** What lies one level below a choice, or at the top for a blank one; as it is written. */
    public List<String> below(String written) {
        int depth = written.isEmpty() ? 0 : path(written).map(List::size).orElse(0);
        return all.stream()
                .filter(one -> path(one).orElseThrow().size() == depth + 1)
                .filter(one -> written.isEmpty() || one.startsWith(written + BETWEEN))
                .toList();
    }

    /** The last name of a choice. */
    public static String name(String written) {
        return path(written).map(List::getLast).orElse(written);
    }

    /**
     * The choice that somebody means: as it is written, or by its last names when only one ends in them, letter case and accents aside.
     */
    public Optional<String> meant(String typed) {
        Optional<String> wanted = path(typed).map(ChoiceTree::written).map(Words::fold);
        if (wanted.isEmpty()) {
            return Optional.empty();
        }
        String folded = wanted.get();
        Set<String> ending = new LinkedHashSet<>();
        for (String one : all) {
            if (Words.fold(one).equals(folded)) {
                return Optional.of(one);
            }
            if (Words.fold(one).endsWith(BETWEEN + folded)) {
                ending.add(one);
            }
        }
        return ending.size() == 1 ? ending.stream().findFirst() : Optional.empty();
    }
}

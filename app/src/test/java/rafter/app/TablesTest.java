package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Each table has one owner, the feature that writes it; who reads it besides stands in docs/tables.md, and nobody else does. */
class TablesTest {

    private static final Path DECLARED = Path.of("../docs/tables.md");
    private static final Pattern TABLE = Pattern.compile("import static rafter\\.database\\.Tables\\.(\\w+);");
    private static final Pattern LINE = Pattern.compile("\\| `(\\w+)` \\| `([\\w.]+)` \\| (.*) \\|");

    /** That a feature writes a table, or only reads it. */
    private record Use(String feature, String table, boolean writes) {}

    private static List<Use> uses() {
        var uses = new ArrayList<Use>();
        Sources.all().forEach((name, source) -> uses.addAll(uses(name, source)));
        return uses;
    }

    private static List<Use> uses(String name, String source) {
        String feature = name.substring(0, Math.max(0, name.lastIndexOf('/'))).replace('/', '.');
        return TABLE.matcher(source)
                .results()
                .map(found -> new Use(feature, found.group(1), writes(source, found.group(1))))
                .toList();
    }

    private static boolean writes(String source, String table) {
        String statement =
                "(?:insertInto\\(|update\\(|deleteFrom\\(|truncate\\(|insert(?:IfNew)?\\(\\s*[\\w.]+,|rowOf\\(\\w+,)\\s*"
                        + table + "\\b";
        String plain = "(?:insert into|update|delete from) " + table.toLowerCase(Locale.ROOT) + "\\b";
        return Pattern.compile(statement + "|" + plain).matcher(source).find();
    }

    @Test
    void each_table_is_written_by_one_feature_and_read_by_those_that_are_declared() {
        List<Use> uses = uses();
        var found = new ArrayList<String>();
        for (String table : new TreeSet<>(uses.stream().map(Use::table).toList())) {
            SortedSet<String> writers = new TreeSet<>(uses.stream()
                    .filter(use -> use.table().equals(table) && use.writes())
                    .map(Use::feature)
                    .toList());
            SortedSet<String> readers = new TreeSet<>(uses.stream()
                    .filter(use -> use.table().equals(table))
                    .map(Use::feature)
                    .toList());
            readers.removeAll(writers);
            if (writers.isEmpty()) {
                writers.add("migrations");
            }
            found.add("| `" + table + "` | `" + String.join("`, `", writers) + "` | " + String.join(", ", readers)
                    + " |");
        }
        List<String> declared = Sources.read(DECLARED)
                .lines()
                .filter(line -> line.startsWith("| `"))
                .toList();
        assertThat(found).as("docs/tables.md says the same").isEqualTo(declared);
        assertThat(declared).allMatch(line -> LINE.matcher(line).matches(), "names one owner");
    }

    @Test
    void what_a_reader_reads_comes_from_below_or_is_said_to_reach_up() {
        List<String> floors = List.of("platform", "house", "promises", "tickets", "arrival", "handout", "work");
        var upwards = new TreeSet<String>();
        for (String line : Sources.read(DECLARED).lines().toList()) {
            Matcher table = LINE.matcher(line);
            if (table.matches()) {
                int owner = floors.indexOf(table.group(2).split("\\.")[0]);
                Stream.of(table.group(3).split(", "))
                        .filter(reader -> !reader.isBlank() && floors.indexOf(reader.split("\\.")[0]) < owner)
                        .forEach(reader -> upwards.add(reader + " reads " + table.group(1)));
            }
        }
        List<String> said = Sources.read(DECLARED)
                .lines()
                .filter(line -> line.startsWith("- "))
                .map(line -> line.substring(2).split(":")[0])
                .sorted()
                .toList();
        assertThat(upwards).containsExactlyElementsOf(said);
    }
}

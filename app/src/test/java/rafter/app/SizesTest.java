package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** A file that is longer than it should be has a reason, which stands in the documents. */
class SizesTest {

    private static final int LONG = 300;
    private static final int TOO_LONG = 600;
    private static final Path ROOT = Path.of("..");
    private static final List<String> MODULES =
            List.of("core", "database", "app", "outside", "browser-tests", "benchmarks");
    private static final Pattern SOURCE = Pattern.compile(
            "\\.\\./([a-z-]+)/src/(?:main|test)/(?:java|resources)/(?!.*vendor/)(.*)\\.(?:java|js|css|html)");
    private static final Pattern NAMED =
            Pattern.compile("`((?:core|database|app|outside|browser-tests|benchmarks)/[^`]+)`");

    /** Of each source how many lines it has, by the name by which the documents know it. */
    private static TreeMap<String, Integer> lines() throws IOException {
        var found = new TreeMap<String, Integer>();
        for (String module : MODULES) {
            try (Stream<Path> files = Files.walk(ROOT.resolve(module).resolve("src"))) {
                for (Path file : files.filter(Files::isRegularFile).toList()) {
                    var source = SOURCE.matcher(file.toString());
                    if (source.matches()) {
                        found.merge(
                                source.group(1) + "/" + source.group(2),
                                Files.readAllLines(file).size(),
                                Math::max);
                    }
                }
            }
        }
        return found;
    }

    @Test
    void a_long_file_has_a_reason_and_none_is_too_long() throws IOException {
        var longer = new TreeSet<String>();
        var tooLong = new TreeSet<String>();
        lines().forEach((name, many) -> {
            if (many > LONG) {
                longer.add(name);
            }
            if (many > TOO_LONG) {
                tooLong.add(name + " " + many);
            }
        });
        var named = new TreeSet<String>();
        var all = NAMED.matcher(Files.readString(ROOT.resolve("docs/long-files.md")));
        while (all.find()) {
            named.add(all.group(1));
        }
        assertThat(longer).as("docs/long-files.md says why").isEqualTo(named);
        assertThat(tooLong).isEmpty();
    }
}

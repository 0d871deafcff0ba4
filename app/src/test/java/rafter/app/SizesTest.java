package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.LineMap;
import com.sun.source.tree.MethodTree;
import com.sun.source.util.JavacTask;
import com.sun.source.util.SourcePositions;
import com.sun.source.util.TreeScanner;
import com.sun.source.util.Trees;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

/** A file that is longer than it should be has a reason, which stands in the documents. */
class SizesTest {

    private static final int LONG = 300;
    private static final int TOO_LONG = 600;
    private static final int LONG_METHOD = 30;
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
            if (!all.group(1).contains("#")) {
                named.add(all.group(1));
            }
        }
        assertThat(longer).as("docs/long-files.md says why").isEqualTo(named);
        assertThat(tooLong).isEmpty();
    }

    /** The methods of the product that have more lines between their braces than they should, by the names by which the documents know them. */
    private static TreeSet<String> longMethods() throws IOException {
        var found = new TreeSet<String>();
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        try (StandardJavaFileManager manager = compiler.getStandardFileManager(null, null, null)) {
            var task = (JavacTask)
                    compiler.getTask(null, manager, null, null, null, manager.getJavaFileObjectsFromPaths(written()));
            SourcePositions positions = Trees.instance(task).getSourcePositions();
            for (CompilationUnitTree unit : task.parse()) {
                var source = SOURCE.matcher(Path.of(unit.getSourceFile().toUri())
                        .toString()
                        .replace(ROOT.toAbsolutePath().normalize().toString(), ".."));
                assertThat(source.matches()).as("%s", unit.getSourceFile()).isTrue();
                new TreeScanner<Void, String>() {
                    @Override
                    public Void visitMethod(MethodTree method, String file) {
                        if (method.getBody() != null && inside(method) > LONG_METHOD) {
                            found.add(file + "#" + method.getName());
                        }
                        return super.visitMethod(method, file);
                    }

                    private long inside(MethodTree method) {
                        LineMap lines = unit.getLineMap();
                        return lines.getLineNumber(positions.getEndPosition(unit, method.getBody()))
                                - lines.getLineNumber(positions.getStartPosition(unit, method.getBody()))
                                - 1;
                    }
                }.scan(unit, source.group(1) + "/" + source.group(2));
            }
        }
        return found;
    }

    /** What is written by hand and is no test. */
    private static List<Path> written() throws IOException {
        var files = new ArrayList<Path>();
        for (String module : MODULES) {
            Path main = ROOT.resolve(module)
                    .resolve("src/main/java")
                    .toAbsolutePath()
                    .normalize();
            if (Files.exists(main)) {
                try (Stream<Path> all = Files.walk(main)) {
                    files.addAll(
                            all.filter(file -> file.toString().endsWith(".java") && !file.endsWith("package-info.java"))
                                    .toList());
                }
            }
        }
        return files;
    }

    @Test
    void a_long_method_has_a_reason() throws IOException {
        var named = new TreeSet<String>();
        var all = NAMED.matcher(Files.readString(ROOT.resolve("docs/long-files.md")));
        while (all.find()) {
            if (all.group(1).contains("#")) {
                named.add(all.group(1));
            }
        }
        assertThat(longMethods()).as("docs/long-files.md says why").isEqualTo(named);
    }
}

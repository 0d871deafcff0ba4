package rafter.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Stream;

/** The source files of the application, for tests of what stands in them. */
final class Sources {

    private static final Path PLACE = Path.of("src/main/java/rafter/app");

    private Sources() {}

    /** What stands in each, by its path below the application's package, without its ending. */
    static SortedMap<String, String> all() {
        var found = new TreeMap<String, String>();
        try (Stream<Path> files = Files.walk(PLACE)) {
            files.filter(file -> file.toString().endsWith(".java"))
                    .forEach(file -> found.put(PLACE.relativize(file).toString().replace(".java", ""), read(file)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return found;
    }

    /** What stands in a file. */
    static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

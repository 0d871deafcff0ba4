package rafter.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * What came out once, for inputs that nobody would write down one by one. A change of the rules shows here all that it changes; when that is
 * meant, the property {@code rafter.record} writes the outcomes anew, and the difference is read before it is committed.
 */
public final class Recorded {

    private Recorded() {}

    /** Compares with what is recorded under a name; fewer lines are compared with as many of the beginning. */
    public static void check(String name, List<String> lines) {
        try {
            if (Boolean.getBoolean("rafter.record")) {
                Path file = Path.of("src/test/resources/recorded", name + ".txt");
                Files.createDirectories(file.getParent());
                Files.write(file, lines, StandardCharsets.UTF_8);
                return;
            }
            try (InputStream in = Recorded.class.getResourceAsStream("/recorded/" + name + ".txt")) {
                assertThat(in).as("recorded outcomes %s", name).isNotNull();
                assertThat(lines)
                        .isNotEmpty()
                        .isEqualTo(new String(in.readAllBytes(), StandardCharsets.UTF_8)
                                .lines()
                                .limit(lines.size())
                                .toList());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

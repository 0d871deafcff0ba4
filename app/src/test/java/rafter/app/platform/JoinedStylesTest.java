package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The style sheets of the components as one file. */
class JoinedStylesTest {

    private static final Path SHEETS = Path.of("src/main/resources/static/style");

    @Test
    void every_component_is_among_them_but_the_panel_of_customers_pages() throws IOException {
        try (Stream<Path> files = Files.list(SHEETS)) {
            List<String> names = files.map(file -> file.getFileName().toString().replace(".css", ""))
                    .filter(name -> !name.equals("panel"))
                    .toList();
            assertThat(JoinedStyles.COMPONENTS).containsExactlyInAnyOrderElementsOf(names);
        }
    }
}

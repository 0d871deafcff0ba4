package rafter.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;

/** A form that is posted carries the token of its session, which the templates add where they know the action, and nowhere else. */
class PostedFormsTest {

    private static final Path TEMPLATES = Path.of("src/main/resources/templates");

    @Test
    void every_posted_form_has_an_action_that_the_template_knows() throws IOException {
        List<String> without = new ArrayList<>();
        try (Stream<Path> all = Files.walk(TEMPLATES)) {
            for (Path template :
                    all.filter(one -> one.toString().endsWith(".html")).toList()) {
                for (Element form : Jsoup.parse(Files.readString(template)).select("form[method=post]")) {
                    if (!form.hasAttr("th:action")
                            && !form.hasAttr("hx-post")
                            && form.select("[name=_csrf]").isEmpty()) {
                        without.add(TEMPLATES.relativize(template) + ": " + form.attributes());
                    }
                }
            }
        }
        assertThat(without).isEmpty();
    }
}

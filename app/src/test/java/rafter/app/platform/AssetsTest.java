package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.sql;

import java.io.ByteArrayInputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;

/** What ships with the pages. */
@ExtendWith(RunningApp.class)
class AssetsTest extends Browsing {

    @Test
    void every_file_that_a_page_names_is_there_and_the_one_of_all_styles_holds_each() throws Exception {
        String page = get("/sign-in").body();
        List<String> named = Pattern.compile("(?:href|src)=\"(/[^\"]+\\.(?:css|js|svg))\"")
                .matcher(page)
                .results()
                .map(found -> found.group(1))
                .toList();
        assertThat(named).hasSizeGreaterThan(5);
        for (String file : named) {
            assertThat(get(file).statusCode()).as(file).isEqualTo(200);
        }
        String styles = named.stream()
                .filter(file -> file.startsWith("/style/all"))
                .findFirst()
                .orElseThrow();
        assertThat(get(styles).headers().firstValue("Cache-Control")).hasValue("max-age=3600, public");
        assertThat(get(styles).body())
                .contains(
                        get("/style/base.css").body(), get("/style/social.css").body());
    }

    @Test
    void files_travel_packed_to_those_who_unpack_and_are_what_they_were() throws Exception {
        for (String file : List.of("/style/all.css", "/style/panel.css", "/script/frame.js")) {
            var packed = HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(uri(file))
                                    .header("Accept-Encoding", "gzip")
                                    .build(),
                            HttpResponse.BodyHandlers.ofByteArray());
            assertThat(packed.headers().firstValue("Content-Encoding")).as(file).hasValue("gzip");
            String plain = get(file).body();
            assertThat(packed.body()).hasSizeLessThan(plain.length());
            try (var unpacked = new GZIPInputStream(new ByteArrayInputStream(packed.body()))) {
                assertThat(new String(unpacked.readAllBytes(), StandardCharsets.UTF_8))
                        .isEqualTo(plain);
            }
        }
        // Letters are kept by browsers for good, so their names change with them.
        assertThat(get("/style/all.css").body()).containsPattern("fonts/sans-latin-[0-9a-f]{32}\\.woff2");
    }

    @Test
    void no_session_is_looked_up_for_what_ships_with_the_pages() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        Field<Long> used = DSL.field("last_access_time", Long.class);
        var sessions = DSL.table("spring_session");
        long hours = Duration.ofHours(2).toMillis();
        sql().update(sessions).set(used, used.minus(hours)).execute();
        long latest = sql().select(DSL.max(used)).from(sessions).fetchSingle(DSL.max(used));
        assertThat(get("/style/all.css").statusCode()).isEqualTo(200);
        assertThat(sql().fetchCount(sessions, used.gt(latest))).isZero();
        get("/worklist");
        assertThat(sql().fetchCount(sessions, used.gt(latest))).isOne();
    }
}

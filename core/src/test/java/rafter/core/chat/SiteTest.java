package rafter.core.chat;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SiteTest {

    @ParameterizedTest
    @CsvSource({
        "https://ferries.example,https://ferries.example",
        "HTTPS://Ferries.Example/,https://ferries.example",
        "https://ferries.example:443/book?x=1,https://ferries.example",
        "http://ferries.example:80,http://ferries.example",
        "http://127.0.0.1:8412,http://127.0.0.1:8412",
        "https://ferries.example:8443/,https://ferries.example:8443"
    })
    void an_origin_is_kept_as_browsers_write_it(String typed, String kept) {
        assertThat(Site.of(typed)).contains(new Site(kept));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "*",
                "https://*",
                "https://*.ferries.example",
                "ferries.example",
                "javascript:alert(1)",
                "data:text/html,x",
                "file:///etc",
                "https://",
                "https://user@ferries.example",
                "https://ferries.example;script-src",
                "https://fer ries.example",
                "https://ferries.example:0",
                "https://ferries.example:99999",
                "https://-ferries.example",
                "null",
                "https://ferries.example'\"",
                "https://f\u0131rries.example"
            })
    void what_is_no_origin_is_not_taken_for_one(String typed) {
        assertThat(Site.of(typed)).isEmpty();
    }

    @Test
    void only_the_very_same_origin_is_listed() {
        List<Site> sites =
                Site.list("https://ferries.example, http://127.0.0.1:8412").sites();
        assertThat(Site.listed(sites, "https://ferries.example")).isTrue();
        assertThat(Site.listed(sites, "http://ferries.example")).isFalse();
        assertThat(Site.listed(sites, "https://ferries.example.evil.example")).isFalse();
        assertThat(Site.listed(sites, "https://sub.ferries.example")).isFalse();
        assertThat(Site.listed(sites, "http://127.0.0.1:8413")).isFalse();
        assertThat(Site.listed(sites, "null")).isFalse();
        assertThat(Site.listed(sites, "")).isFalse();
    }

    @Test
    void what_is_wrong_in_a_list_is_named_and_the_rest_is_kept_once() {
        Site.Typed typed = Site.list("https://a.example\nnonsense https://A.example; https://b.example");
        assertThat(typed.sites()).extracting(Site::text).containsExactly("https://a.example", "https://b.example");
        assertThat(typed.wrong()).containsExactly("nonsense");
    }
}

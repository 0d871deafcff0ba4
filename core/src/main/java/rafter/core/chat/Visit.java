package rafter.core.chat;

import java.time.Instant;
import java.util.Map;

/**
 * What is known of somebody who looks at a page with the panel on it.
 *
 * @param path the path of the page
 * @param language the language of the page, such as {@code de}; blank when it does not say
 * @param searched what they searched for on the site; blank: nothing
 * @param shown when which invitation was shown to them last
 */
public record Visit(String path, String language, String searched, Map<Long, Instant> shown) {

    public Visit {
        shown = Map.copyOf(shown);
    }

    /** The language without its country. */
    String mainLanguage() {
        return language.strip().toLowerCase(java.util.Locale.ROOT).split("[-_]", 2)[0];
    }
}

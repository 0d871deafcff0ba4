package rafter.app.platform;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;

/** The languages that one can write in, by their English names. */
public final class Languages {

    private static final List<String> CODES = List.of(
            "bg", "cs", "da", "de", "el", "en", "es", "et", "fi", "fr", "ga", "hr", "hu", "is", "it", "lt", "lv", "mt",
            "nb", "nl", "pl", "pt", "ro", "ru", "sk", "sl", "sv", "tr", "uk");

    private static final Set<String> ISO = Set.of(Locale.getISOLanguages());

    private Languages() {}

    /** One of them. */
    public record Language(String code, String name) {}

    /** All that are offered, by name. */
    public static List<Language> all() {
        return CODES.stream()
                .map(Languages::of)
                .sorted(Comparator.comparing(Language::name))
                .toList();
    }

    /** All that are offered, and one more that stands somewhere already. */
    public static List<Language> with(String code) {
        return code.isEmpty() || CODES.contains(code)
                ? all()
                : Stream.concat(all().stream(), Stream.of(of(code))).toList();
    }

    /** Whether this is a language, or none. */
    public static boolean known(String code) {
        return code.isEmpty() || ISO.contains(code);
    }

    /** What a language is called; blank for none. */
    public static String name(String code) {
        return code.isEmpty() ? "" : Locale.of(code).getDisplayLanguage(Locale.ENGLISH);
    }

    private static Language of(String code) {
        return new Language(code, name(code));
    }
}

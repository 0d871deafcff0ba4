package rafter.core.consult;

import java.text.Normalizer;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** What a mail says that answers an invitation. */
public enum MailedAnswer {
    YES(Set.of(
            "yes",
            "yep",
            "yeah",
            "sure",
            "ok",
            "okay",
            "take",
            "taken",
            "accept",
            "accepted",
            "joining",
            "coming",
            "ja",
            "gern",
            "gerne",
            "klar",
            "oui",
            "daccord",
            "si",
            "sim",
            "da",
            "tak",
            "ano",
            "joo",
            "kylla",
            "igen",
            "nai",
            "evet",
            "jah",
            "taip")),
    NO(Set.of(
            "no",
            "nope",
            "decline",
            "declined",
            "pass",
            "cannot",
            "cant",
            "sorry",
            "unfortunately",
            "nein",
            "leider",
            "non",
            "desole",
            "nao",
            "nej",
            "nei",
            "nee",
            "helaas",
            "nie",
            "ne",
            "ei",
            "nem",
            "ochi",
            "hayir"));

    private final Set<String> words;

    MailedAnswer(Set<String> words) {
        this.words = words;
    }

    /**
     * Reads it.
     *
     * @param own what its writer wrote themselves, without what is quoted
     * @return nothing when its first word says neither; then somebody has to read it
     */
    public static Optional<MailedAnswer> read(String own) {
        String first = own.lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .findFirst()
                .map(MailedAnswer::firstWord)
                .orElse("");
        return Arrays.stream(values()).filter(one -> one.words.contains(first)).findFirst();
    }

    /** Without accents and apostrophes, in small letters. */
    private static String firstWord(String line) {
        String plain = Normalizer.normalize(line, Normalizer.Form.NFD)
                .replaceAll("[\\p{M}'’ʼ]", "")
                .toLowerCase(Locale.ROOT)
                .replaceFirst("^[^\\p{L}]+", "");
        return plain.split("[^\\p{L}]", 2)[0];
    }
}

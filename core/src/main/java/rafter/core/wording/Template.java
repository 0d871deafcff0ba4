package rafter.core.wording;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.IllformedLocaleException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.OwnField;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/**
 * A mail that Rafter writes by itself, in the languages that it has.
 *
 * @param open whether it is for when we are open, closed, or both
 * @param criteria for which tickets; all for most
 * @param versions one for each language; the one of a blank language is for everybody else
 * @param version rises with every change
 */
public record Template(
        long id,
        Purpose purpose,
        String name,
        boolean on,
        Open open,
        Criteria criteria,
        List<Version> versions,
        int version) {

    public static final int LONGEST_NAME = 120;
    public static final int LONGEST_SUBJECT = 200;
    public static final int LONGEST_BODY = 5_000;

    /** When it is sent. */
    public enum Open {
        ANY("at any time"),
        OPEN("while we are open"),
        CLOSED("while we are closed");

        private final String words;

        Open(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Its words in one language; a blank language stands for every other one. */
    public record Version(String language, String subject, String body) {}

    public Template {
        versions = List.copyOf(versions);
    }

    /** The first of these for a purpose that is on and fits the ticket and the hour. */
    public static Optional<Template> choose(List<Template> all, Purpose purpose, Facts ticket, boolean open) {
        return all.stream()
                .filter(one -> one.purpose == purpose && one.on)
                .filter(one -> one.open == Open.ANY || (one.open == Open.OPEN) == open)
                .filter(one -> Matching.matches(one.criteria, ticket))
                .findFirst();
    }

    /**
     * Its words for somebody of a language: in that language as it is spoken there, else in that language, else those for everybody.
     *
     * @param language a tag such as {@code de} or {@code de-CH} (BCP 47); blank when nobody knows
     */
    public Version words(String language) {
        String spoken = Locale.forLanguageTag(language).getLanguage();
        return in(language)
                .or(() -> in(spoken))
                .or(() -> in(""))
                .or(() -> versions.stream().findFirst())
                .orElse(new Version("", "", ""));
    }

    private Optional<Version> in(String language) {
        return versions.stream()
                .filter(one -> one.language.equalsIgnoreCase(language))
                .findFirst();
    }

    /** Whether it is for all tickets at all hours, so that there is always one. */
    public boolean forAll() {
        return open == Open.ANY && criteria.equals(Criteria.everything());
    }

    /** What keeps it from being used, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (name.isBlank() || name.length() > LONGEST_NAME) {
            faults.add("It needs a name of at most " + LONGEST_NAME + " letters.");
        }
        faults.addAll(Criteria.faults(criteria));
        boolean known = Criteria.asked(criteria).stream()
                .allMatch(field -> field instanceof OwnField
                        || (field instanceof KnownField one
                                && KnownField.ofPromises().contains(one)));
        if (!known) {
            faults.add("It asks something that is not known when it is sent.");
        }
        if (in("").isEmpty()) {
            faults.add("The words for everybody whose language is not among the others are missing.");
        }
        var languages = new HashSet<String>();
        for (Version one : versions) {
            if (!languages.add(one.language.toLowerCase(Locale.ROOT))) {
                faults.add("There are two versions for “" + one.language + "”.");
            }
            check(one, faults);
        }
        return faults;
    }

    private void check(Version one, List<String> faults) {
        String which = one.language.isBlank() ? "" : " (" + one.language + ")";
        if (!one.language.isBlank() && !isLanguage(one.language)) {
            faults.add("“" + one.language + "” is no language. Write it like de or pt-BR.");
        }
        if (one.subject.isBlank() || one.body.isBlank()) {
            faults.add("A subject and a text are needed" + which + ".");
        }
        if (one.subject.length() > LONGEST_SUBJECT || one.body.length() > LONGEST_BODY) {
            faults.add("The subject has at most " + LONGEST_SUBJECT + " letters, the text 5,000" + which + ".");
        }
        List<String> unknown = unknown(one);
        if (!unknown.isEmpty()) {
            faults.add("There is no placeholder {" + String.join("}, {", unknown) + "} here" + which
                    + ". Choose from those listed.");
        }
        purpose.needed()
                .map(Placeholder::key)
                .filter(key -> !one.body.contains("{" + key + "}"))
                .ifPresent(key -> faults.add("The text has to have {" + key + "} in it" + which
                        + ": without it the customer could not answer."));
    }

    /** The placeholders of a version that cannot stand in it. */
    public List<String> unknown(Version one) {
        Set<String> names = Placeholder.names(purpose.placeholders());
        return Placeholders.unknown(one.subject + " " + one.body, names);
    }

    private static boolean isLanguage(String tag) {
        try {
            String language = new Locale.Builder().setLanguageTag(tag).build().getLanguage();
            return Set.of(Locale.getISOLanguages()).contains(language);
        } catch (IllformedLocaleException e) {
            return false;
        }
    }
}

package rafter.core.people;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What a column of a table of contacts can hold. */
public enum ContactColumn {
    NAME("name", "the name", "name", "full name", "contact", "display name"),
    FIRST_NAME("first", "the first name", "first name", "given name", "forename", "vorname"),
    LAST_NAME("last", "the last name", "last name", "family name", "surname", "nachname"),
    ADDRESS(
            "address",
            "mail addresses",
            "e mail",
            "email",
            "mail",
            "mail address",
            "mail addresses",
            "email address",
            "addresses",
            "e mail address"),
    PHONE("phone", "telephones", "phone", "telephone", "phones", "telephones", "mobile", "phone number", "telefon"),
    COMPANY("company", "the company", "company", "organisation", "organization", "firm", "firma", "account"),
    LANGUAGE("language", "the language", "language", "sprache", "locale"),
    ZONE("zone", "the time zone", "time zone", "timezone", "zone");

    private final String key;
    private final String words;
    private final List<String> headings;

    ContactColumn(String key, String words, String... headings) {
        this.key = key;
        this.words = words;
        this.headings = List.of(headings);
    }

    /** As a form names it. */
    public String key() {
        return key;
    }

    /** As people choose it. */
    public String words() {
        return words;
    }

    /** The one of this key. */
    public static Optional<ContactColumn> of(String key) {
        return Arrays.stream(values()).filter(one -> one.key.equals(key)).findFirst();
    }

    /** The one that a heading seems to mean; further columns of a kind, such as “Phone 2”, mean the same. */
    public static Optional<ContactColumn> meant(String heading) {
        String plain =
                heading.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}]+", " ").strip();
        return Arrays.stream(values())
                .filter(one -> one.headings.contains(plain))
                .findFirst();
    }
}

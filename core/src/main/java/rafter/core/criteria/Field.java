package rafter.core.criteria;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What can be asked about: the catalogue of fields. */
public enum Field {
    PLAN(FieldType.CHOICE, "the customer’s plan"),
    COMPANY(FieldType.CHOICE, "the company"),
    CONTACT_NAME(FieldType.WORDS, "the contact’s name"),
    CONTACT_ADDRESS(FieldType.TEXT, "the contact’s address"),
    CHANNEL(FieldType.CHOICE, "the channel"),
    TEAM(FieldType.CHOICE, "the team"),
    TOPIC(FieldType.CHOICE, "the topic"),
    PRIORITY(FieldType.RANKED, "the priority"),
    TAGS(FieldType.SET, "the tags"),
    STATE(FieldType.CHOICE, "the state"),
    TURN(FieldType.CHOICE, "the turn"),
    SUBJECT(FieldType.WORDS, "the subject"),
    FIRST_MESSAGE(FieldType.WORDS, "the first message");

    private final FieldType type;
    private final String words;

    Field(FieldType type, String words) {
        this.type = type;
        this.words = words;
    }

    public FieldType type() {
        return type;
    }

    /** As a sentence says it. */
    public String words() {
        return words;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The field that data names so. */
    public static Optional<Field> of(String key) {
        return Arrays.stream(values()).filter(field -> field.key().equals(key)).findFirst();
    }
}

package rafter.core.criteria;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import rafter.core.text.Words;

/**
 * What is known of a ticket at some moment, by field. A choice has one value or none, a set any number; text is kept ready for
 * comparing.
 */
public final class Facts {

    /** A value, and the same made ready for comparing. */
    private record Value(List<String> plain, Words words) {}

    private static final Value NOTHING = new Value(List.of(), Words.of(""));

    private final Map<Field, Value> values;

    private Facts(Map<Field, Value> values) {
        this.values = values;
    }

    /** A ticket of which nothing is known. */
    public static Facts none() {
        return new Facts(new EnumMap<>(Field.class));
    }

    /** The same with other values of a field; blank ones are left out. */
    public Facts with(Field field, List<String> plain) {
        var copy = new EnumMap<>(values);
        List<String> known = plain.stream().filter(value -> !value.isBlank()).toList();
        boolean read = field.type() == FieldType.WORDS || field.type() == FieldType.TEXT;
        copy.put(field, new Value(known, read ? Words.of(known) : NOTHING.words()));
        return new Facts(copy);
    }

    /** The same with another value of a field. */
    public Facts with(Field field, String value) {
        return with(field, List.of(value));
    }

    /** The values of a field as they are. */
    public List<String> values(Field field) {
        return values.getOrDefault(field, NOTHING).plain();
    }

    /** The text of a field, ready for comparing. */
    public Words words(Field field) {
        return values.getOrDefault(field, NOTHING).words();
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Facts facts && facts.values.equals(values);
    }

    @Override
    public int hashCode() {
        return values.hashCode();
    }

    @Override
    public String toString() {
        return values.toString();
    }
}

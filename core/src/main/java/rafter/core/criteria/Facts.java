package rafter.core.criteria;

import java.util.EnumMap;
import java.util.HashMap;
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

    private final Map<KnownField, Value> known;
    private final Map<OwnField, Value> own;

    private Facts(Map<KnownField, Value> known, Map<OwnField, Value> own) {
        this.known = known;
        this.own = own;
    }

    /** A ticket of which nothing is known. */
    public static Facts none() {
        return new Facts(new EnumMap<>(KnownField.class), Map.of());
    }

    /** These facts with other values of a field; blank ones are left out. */
    public Facts with(Field field, List<String> plain) {
        List<String> kept = plain.size() == 1 && !plain.getFirst().isBlank()
                ? plain
                : plain.stream().filter(value -> !value.isBlank()).toList();
        boolean read = field.type() == FieldType.WORDS || field.type() == FieldType.TEXT;
        return with(field, new Value(kept, read ? Words.of(kept) : NOTHING.words()));
    }

    private Facts with(Field field, Value value) {
        return switch (field) {
            case KnownField one -> {
                var copy = new EnumMap<>(known);
                copy.put(one, value);
                yield new Facts(copy, own);
            }
            case OwnField one -> {
                var copy = new HashMap<>(own);
                copy.put(one, value);
                yield new Facts(known, Map.copyOf(copy));
            }
        };
    }

    private Value value(Field field) {
        return switch (field) {
            case KnownField one -> known.getOrDefault(one, NOTHING);
            case OwnField one -> own.getOrDefault(one, NOTHING);
        };
    }

    /** These facts with another value of a field. */
    public Facts with(Field field, String value) {
        return with(field, List.of(value));
    }

    /** The values of a field as they are. */
    public List<String> values(Field field) {
        return value(field).plain();
    }

    /** The text of a field, ready for comparing. */
    public Words words(Field field) {
        return value(field).words();
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Facts facts && facts.known.equals(known) && facts.own.equals(own);
    }

    @Override
    public int hashCode() {
        return 31 * known.hashCode() + own.hashCode();
    }

    @Override
    public String toString() {
        return known + " " + own;
    }
}

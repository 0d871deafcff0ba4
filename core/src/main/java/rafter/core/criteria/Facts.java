package rafter.core.criteria;

import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What is known of a ticket at some moment, by field. */
public final class Facts {

    private final Map<KnownField, Fact> known;
    private final Map<OwnField, Fact> own;

    private Facts(Map<KnownField, Fact> known, Map<OwnField, Fact> own) {
        this.known = known;
        this.own = own;
    }

    /** A ticket of which nothing is known. */
    public static Facts none() {
        return new Facts(new EnumMap<>(KnownField.class), Map.of());
    }

    /**
     * These facts with another one in a field.
     *
     * @throws IllegalArgumentException when a field of that type holds no such thing
     */
    public Facts with(Field field, Fact fact) {
        if (!field.type().holds(fact)) {
            throw new IllegalArgumentException(field.key() + " cannot be " + fact);
        }
        return switch (field) {
            case KnownField one -> {
                var copy = new EnumMap<>(known);
                copy.put(one, fact);
                yield new Facts(copy, own);
            }
            case OwnField one -> {
                var copy = new HashMap<>(own);
                copy.put(one, fact);
                yield new Facts(known, Map.copyOf(copy));
            }
        };
    }

    /** These facts with what is kept as text for a field, see {@link Fact#read}. */
    public Facts with(Field field, List<String> kept) {
        return with(field, Fact.read(field.type(), field instanceof OwnField own ? own.facts(kept) : kept));
    }

    /** These facts with what is kept as one text for a field. */
    public Facts with(Field field, String kept) {
        return with(field, List.of(kept));
    }

    /** What stands in a field. */
    public Fact of(Field field) {
        return switch (field) {
            case KnownField one -> known.getOrDefault(one, Fact.NOTHING);
            case OwnField one -> own.getOrDefault(one, Fact.NOTHING);
        };
    }

    /** What stands in the own fields that are filled. */
    public Map<OwnField, Fact> own() {
        return Map.copyOf(own);
    }

    /** What stands in a field, if it is of this sort. */
    public <F extends Fact> Optional<F> of(Field field, Class<F> sort) {
        Fact fact = of(field);
        return sort.isInstance(fact) ? Optional.of(sort.cast(fact)) : Optional.empty();
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

package rafter.app.house.fields;

import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import rafter.core.criteria.OwnField;

/**
 * An own field as a form asks for it.
 *
 * @param value what stands in it, as it is kept; what cannot be kept as it was typed
 * @param said the same as people call it
 * @param required whether it must be filled before a ticket ends
 * @param named who can stand in it, by id, if it holds a person; companies as far as they are offered while typing
 */
public record FieldInput(AddedField field, String value, String said, boolean required, Map<String, String> named) {

    public FieldInput {
        named = Map.copyOf(named);
    }

    public String key() {
        return field.key();
    }

    public String kind() {
        return field.kind();
    }

    public String name() {
        return field.name();
    }

    /** What can be chosen, and what stands there though it cannot be chosen any more. */
    public List<String> offered() {
        return Stream.concat(
                        field.choices().stream(),
                        field.field().kind().hasChoices() ? field.values(value).stream() : Stream.of())
                .filter(choice -> !choice.isEmpty())
                .distinct()
                .toList();
    }

    /** Whether one of several is chosen. */
    public boolean has(String choice) {
        return field.values(value).contains(choice);
    }

    /** Whether something stands there that cannot be chosen any more, or not here. */
    public boolean gone(String choice) {
        return !field.choices().contains(choice);
    }

    /** Who can stand in it, by name. */
    public List<Map.Entry<String, String>> byName() {
        return named.entrySet().stream().sorted(Map.Entry.comparingByValue()).toList();
    }

    /** Whether it is a tick that is set. */
    public boolean ticked() {
        return value.equals(OwnField.TICKED);
    }
}

package rafter.app.house.fields;

import java.util.List;
import java.util.Optional;
import rafter.core.criteria.OwnField;

/**
 * An own field as it is set up.
 *
 * @param field what it is called in data
 * @param name what people call it
 * @param choices what can be chosen, if it is a choice
 * @param shown whether it is asked for; what there is in it is kept when not
 */
public record AddedField(OwnField field, String name, List<String> choices, boolean shown, int position, int version) {

    public AddedField {
        choices = List.copyOf(choices);
    }

    public String key() {
        return field.key();
    }

    public OwnField.Bearer bearer() {
        return field.bearer();
    }

    public String kind() {
        return field.kind().key();
    }

    /** What it holds, in words. */
    public String holds() {
        return field.kind().words();
    }

    /**
     * A value as it is kept; nothing when it cannot be one. A choice that was taken away since may stay where it is.
     *
     * @param was what there is now
     */
    public Optional<String> normalised(String typed, String was) {
        return field.normalised(typed)
                .filter(value -> field.kind() != OwnField.Kind.CHOICE
                        || value.isEmpty()
                        || value.equals(was)
                        || choices.contains(value));
    }
}

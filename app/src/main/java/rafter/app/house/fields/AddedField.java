package rafter.app.house.fields;

import java.util.List;
import java.util.Optional;
import rafter.core.criteria.ChoiceTree;
import rafter.core.criteria.OwnField;

/**
 * An own field as it is set up.
 *
 * @param field what it is called in data
 * @param name what people call it
 * @param choices what can be chosen, if it has choices
 * @param help what is said beside it; may be blank
 * @param preset what stands in it to begin with; may be blank
 * @param shown whether it is asked for; what there is in it is kept when not
 */
public record AddedField(
        OwnField field,
        String name,
        List<String> choices,
        String help,
        String preset,
        boolean shown,
        int position,
        int version) {

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

    /** The field with only some of its choices. */
    public AddedField offering(List<String> some) {
        return new AddedField(field, name, some, help, preset, shown, position, version);
    }

    /** Its choices as a tree. */
    public ChoiceTree tree() {
        return new ChoiceTree(choices);
    }

    /** The values of which what stands in it consists. */
    public List<String> values(String kept) {
        return field.values(kept);
    }

    /**
     * A value as it is kept; nothing when it cannot be one. A choice that was taken away since may stay where it is. Whether a person or
     * company is there is not asked here.
     *
     * @param was what there is now
     */
    Optional<String> normalised(String typed, String was) {
        Optional<String> value = field.normalised(typed);
        return switch (field.kind()) {
            case CHOICE, SEVERAL -> value.filter(kept -> offered(kept, was));
            case TREE ->
                value.flatMap(kept -> kept.isEmpty() || kept.equals(was) ? Optional.of(kept) : tree().meant(kept));
            case TEXT, LONG, NUMBER, DATE, TICK, PERSON, COMPANY, LINK -> value;
        };
    }

    private boolean offered(String kept, String was) {
        List<String> had = field.values(was);
        return field.values(kept).stream().allMatch(one -> choices.contains(one) || had.contains(one));
    }
}

package rafter.app.house.forms;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldInput;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.form.FormLogic;

/** What tickets ask for, by the forms and the rules of this workspace. */
@Component
public class Forms {

    /** Fields that stand together in a form; the name may be blank. */
    public record Part(String name, List<FieldInput> fields) {}

    private final FormStore store;
    private final FieldRules rules;
    private final OwnFields fields;
    private final FieldInputs inputs;

    Forms(FormStore store, FieldRules rules, OwnFields fields, FieldInputs inputs) {
        this.store = store;
        this.rules = rules;
        this.fields = fields;
        this.inputs = inputs;
    }

    /** What forms and rules can ask about. */
    public List<Field> asked() {
        return Stream.concat(
                        Arrays.stream(KnownField.values()).filter(Terms.ASKED::contains),
                        fields.all().stream().filter(AddedField::shown).map(AddedField::field))
                .toList();
    }

    /** Whether what is filled in can change what is asked for. */
    public boolean moves() {
        return !store.all().isEmpty() || !rules.all().isEmpty();
    }

    /** What tickets ask for. */
    public FormLogic logic() {
        return new FormLogic(
                store.all().stream().map(FormStore.Kept::form).toList(),
                rules.all().stream().map(FieldRules.Kept::rule).toList(),
                fields.shown(OwnField.Bearer.TICKET).stream()
                        .map(field -> new FormLogic.Field(field.field(), field.choices()))
                        .toList());
    }

    /**
     * What a ticket is asked for, as a form draws it.
     *
     * @param facts as they would be with these values
     * @param values by the field's key, as they are kept or typed
     */
    public List<Part> parts(Facts facts, Map<String, String> values) {
        return logic().parts(facts).stream()
                .map(part -> new Part(
                        part.name(),
                        part.fields().stream()
                                .flatMap(asked -> drawn(asked, values).stream())
                                .toList()))
                .toList();
    }

    private Optional<FieldInput> drawn(FormLogic.Asked asked, Map<String, String> values) {
        return fields.asked(OwnField.Bearer.TICKET, asked.field().key())
                .map(field -> inputs.of(field.offering(asked.choices()), values, asked.required()));
    }

    /**
     * Refuses a choice that the form of a ticket does not offer there.
     *
     * @param facts as they would be
     * @param field the key of the field
     * @param value what is newly chosen
     */
    public void check(Facts facts, String field, String value) {
        logic().parts(facts).stream()
                .flatMap(part -> part.fields().stream())
                .filter(asked -> asked.field().key().equals(field))
                .filter(asked ->
                        !asked.choices().isEmpty() && asked.field().kind().hasChoices())
                .filter(asked -> !asked.choices().containsAll(asked.field().values(value)))
                .findFirst()
                .ifPresent(asked -> {
                    throw new Problem.Invalid("“" + value + "” is not offered for this ticket. Offered: "
                            + String.join(", ", asked.choices()) + ". Nothing was changed.");
                });
    }
}

package rafter.app.house.fields;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import rafter.core.criteria.OwnField;

/** Draws own fields as a form asks for them. */
@Component
public class FieldInputs {

    private final OwnFields fields;
    private final FieldNames names;

    FieldInputs(OwnFields fields, FieldNames names) {
        this.fields = fields;
        this.names = names;
    }

    /** The fields of something that are asked for, with what stands in them; nothing of new ones but what they begin with. */
    public List<FieldInput> of(OwnField.Bearer bearer, Map<String, String> values) {
        return fields.shown(bearer).stream()
                .map(field -> of(field, values, false))
                .toList();
    }

    /** What new ones of a kind begin with, by the field's key. */
    public Map<String, String> presets(OwnField.Bearer bearer) {
        var presets = new HashMap<String, String>();
        fields.shown(bearer).stream()
                .filter(field -> !field.preset().isEmpty())
                .forEach(field -> presets.put(field.key(), field.preset()));
        return presets;
    }

    /** One field. */
    public FieldInput of(AddedField field, Map<String, String> values, boolean required) {
        String typed = values.getOrDefault(field.key(), "");
        String value = fields.normalised(field, typed, typed).orElse(typed);
        return new FieldInput(
                field,
                value,
                fields.said(field.field(), value),
                required,
                names.offered(field.field().kind(), value));
    }
}

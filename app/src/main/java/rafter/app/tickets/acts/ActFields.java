package rafter.app.tickets.acts;

import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import rafter.app.house.access.Persons;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.core.criteria.OwnField;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Priority;

/** The form in which acts are filled in, wherever they are: what it offers to choose from, and what came of it. */
@Component
public class ActFields {

    private final Persons persons;
    private final SteeringChoices steers;
    private final TicketStates states;
    private final OwnFields fields;
    private final FieldInputs inputs;

    ActFields(Persons persons, SteeringChoices steers, TicketStates states, OwnFields fields, FieldInputs inputs) {
        this.persons = persons;
        this.steers = steers;
        this.states = states;
        this.fields = fields;
        this.inputs = inputs;
    }

    /** Puts into a page what the form offers, with what was typed into its own fields. */
    public void offer(Map<String, String> typed, Model model) {
        model.addAttribute("placeholders", Placeholder.forWriting());
        model.addAttribute("inputs", inputs.of(OwnField.Bearer.TICKET, typed));
        model.addAttribute("people", persons.active());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("steers", steers);
        model.addAttribute("states", states.all());
        model.addAttribute("priorities", Priority.values());
    }

    /** Whether tickets have own fields that could be filled. */
    public boolean any() {
        return !fields.shown(OwnField.Bearer.TICKET).isEmpty();
    }

    /**
     * The form as it was sent. What was filled into the input of the chosen own field stands under "value", as it is kept, or as it was typed
     * when it cannot be.
     */
    public Map<String, String> typed(MultiValueMap<String, String> sent) {
        Map<String, String> typed = OwnFields.typed(sent);
        String key = typed.getOrDefault("field", "");
        Optional.ofNullable(typed.get(key))
                .filter(value -> OwnField.of(key).isPresent())
                .ifPresent(value -> typed.put(
                        "value",
                        fields.asked(OwnField.Bearer.TICKET, key)
                                .flatMap(field -> fields.normalised(field, value, ""))
                                .orElse(value.strip())));
        return typed;
    }
}

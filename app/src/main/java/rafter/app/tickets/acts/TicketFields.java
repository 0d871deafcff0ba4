package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.forms.Forms;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.form.FormLogic;
import rafter.core.id.ContactId;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What tickets ask for in their own fields. */
@Component
public class TicketFields {

    private final Forms forms;
    private final OwnFields fields;
    private final FieldInputs inputs;
    private final CustomerFacts customers;

    TicketFields(Forms forms, OwnFields fields, FieldInputs inputs, CustomerFacts customers) {
        this.forms = forms;
        this.fields = fields;
        this.inputs = inputs;
        this.customers = customers;
    }

    /** Whether what is filled in can change what is asked for. */
    public boolean moves() {
        return forms.moves();
    }

    /**
     * What a ticket asks for.
     *
     * @param topic as it would be
     * @param typed own fields by their keys, as they stand there or as somebody typed them
     */
    public List<Forms.Part> of(Ticket ticket, String topic, Map<String, String> typed) {
        var values = new TreeMap<>(ticket.own());
        values.putAll(typed);
        return forms.parts(filled(facts(ticket).with(KnownField.TOPIC, topic), values), values);
    }

    /** What a ticket asks for that is not there yet. */
    public List<Forms.Part> ofNew(Facts facts, Map<String, String> typed) {
        var values = new TreeMap<>(inputs.presets(OwnField.Bearer.TICKET));
        values.putAll(typed);
        return forms.parts(filled(facts, values), values);
    }

    /** What is known of a ticket that is not there yet. */
    public Facts begun(Optional<ContactId> contact) {
        return contact.map(customers::ofContact).orElse(Facts.none());
    }

    /** Refuses a choice that the form of a ticket that is not there yet does not offer. */
    public void checkNew(Facts facts, Map<String, String> typed) {
        if (moves()) {
            Facts filled = filled(facts, typed);
            typed.forEach((key, value) -> fields.asked(OwnField.Bearer.TICKET, key)
                    .flatMap(field -> fields.normalised(field, value, ""))
                    .filter(kept -> !kept.isEmpty())
                    .ifPresent(kept -> forms.check(filled, key, kept)));
        }
    }

    /** What a ticket still wants before it ends, in words; blank when nothing. */
    public String wanted(Ticket ticket) {
        List<String> missing = ticket.state().ending() ? List.of() : unfilled(ticket, TicketState.RESOLVED);
        return missing.isEmpty() ? "" : " Before it ends it wants “" + String.join("”, “", missing) + "”.";
    }

    /** The facts once fields are filled so; what cannot stand in one counts as nothing. */
    private Facts filled(Facts facts, Map<String, String> values) {
        Facts filled = facts;
        for (AddedField field : fields.shown(OwnField.Bearer.TICKET)) {
            String value = values.getOrDefault(field.key(), "");
            filled = filled.with(
                    field.field(), fields.normalised(field, value, value).orElse(""));
        }
        return filled;
    }

    private Facts facts(Ticket ticket) {
        return TicketFacts.of(customers.ofContact(ticket.contact()), ticket);
    }

    /** What fills the fields of a new ticket that begin with something and are asked for. */
    List<TicketEvent> presets(Ticket ticket, Instant now) {
        Map<String, String> presets = inputs.presets(OwnField.Bearer.TICKET);
        if (presets.isEmpty()) {
            return List.of();
        }
        return forms.logic().parts(filled(facts(ticket), presets)).stream()
                .flatMap(part -> part.fields().stream())
                .map(asked -> asked.field().key())
                .filter(presets::containsKey)
                .<TicketEvent>map(
                        key -> new TicketEvent.FieldSet(now, Actor.system(), key, presets.getOrDefault(key, "")))
                .toList();
    }

    /** The names of the fields that must be filled before a ticket gets into a state, and are not. */
    List<String> unfilled(Ticket ticket, TicketState to) {
        FormLogic logic = forms.logic();
        if (!logic.requiresAny()) {
            return List.of();
        }
        return logic.missing(facts(ticket).with(KnownField.STATE, to.key())).stream()
                .map(field -> fields.name(field.key()))
                .toList();
    }

    /** Refuses a choice that the form of a ticket does not offer, as it would be filled. */
    void check(Ticket ticket, String topic, Map<String, String> after, String field) {
        if (moves() && !after.getOrDefault(field, "").isEmpty()) {
            forms.check(
                    filled(facts(ticket).with(KnownField.TOPIC, topic), after), field, after.getOrDefault(field, ""));
        }
    }
}

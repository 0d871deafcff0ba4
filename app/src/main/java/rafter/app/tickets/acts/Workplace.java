package rafter.app.tickets.acts;

import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.ticket.House;
import rafter.core.ticket.TicketState;

/** What there is in this workspace, for deciding what can be done to tickets. */
@Component
public class Workplace implements House {

    private final Persons persons;
    private final OwnFields fields;
    private final TicketStates states;

    Workplace(Persons persons, OwnFields fields, TicketStates states) {
        this.states = states;
        this.persons = persons;
        this.fields = fields;
    }

    @Override
    public boolean works(PersonId person) {
        return persons.find(person).filter(Person::active).isPresent();
    }

    @Override
    public String person(PersonId person) {
        return persons.find(person).map(Person::name).orElse("Somebody");
    }

    @Override
    public Optional<String> team(TeamId team) {
        return persons.teams().stream()
                .filter(one -> one.id().equals(team))
                .findFirst()
                .map(Team::name);
    }

    @Override
    public boolean in(TeamId team, PersonId person) {
        return persons.teamsOf(person).contains(team);
    }

    @Override
    public Optional<TicketState> state(String key) {
        return states.current().find(key);
    }

    @Override
    public boolean asksResolution(String state) {
        return states.asksResolution(state);
    }

    @Override
    public Optional<String> normalised(String field, String typed, String before) {
        return found(field).findFirst().flatMap(one -> one.normalised(typed, before));
    }

    @Override
    public String field(String key) {
        return found(key).findFirst().map(AddedField::name).orElse("a field");
    }

    @Override
    public String holds(String key) {
        return found(key)
                .findFirst()
                .map(field -> "“" + field.name() + "”, which holds " + field.holds())
                .orElse("a field that is gone");
    }

    private Stream<AddedField> found(String key) {
        return fields.shown(OwnField.Bearer.TICKET).stream()
                .filter(field -> field.key().equals(key));
    }
}

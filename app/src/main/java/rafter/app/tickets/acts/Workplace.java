package rafter.app.tickets.acts;

import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.criteria.ChannelNames;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.ticket.House;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** What there is in this workspace, for deciding what can be done to tickets. */
@Component
public class Workplace implements House {

    private final Persons persons;
    private final OwnFields fields;
    private final TicketStates states;
    private final TicketFields ticketFields;
    private final SteeringChoices choices;
    private final ChannelNames channels;

    Workplace(
            Persons persons,
            OwnFields fields,
            TicketStates states,
            TicketFields ticketFields,
            SteeringChoices choices,
            ChannelNames channels) {
        this.channels = channels;
        this.choices = choices;
        this.ticketFields = ticketFields;
        this.states = states;
        this.persons = persons;
        this.fields = fields;
    }

    @Override
    public Optional<String> channel(String key) {
        return Optional.ofNullable(channels.channelNames().get(key));
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
        return fields.asked(OwnField.Bearer.TICKET, field).flatMap(one -> fields.normalised(one, typed, before));
    }

    @Override
    public List<String> unfilled(Ticket ticket, TicketState to) {
        return ticketFields.unfilled(ticket, to);
    }

    @Override
    public String said(String field, String value) {
        return fields.said(field, value);
    }

    @Override
    public String field(String key) {
        return fields.name(key);
    }

    @Override
    public String holds(String key) {
        return fields.asked(OwnField.Bearer.TICKET, key)
                .map(field -> "“" + field.name() + "”, which holds " + field.holds())
                .orElse("a field that is gone");
    }

    @Override
    public Optional<String> policy(String key) {
        return SteeringChoices.name(choices.policies(), key);
    }

    @Override
    public Optional<String> queue(QueueId queue) {
        return SteeringChoices.name(choices.queues(), queue.toString());
    }

    @Override
    public Optional<String> skill(SkillId skill) {
        return SteeringChoices.name(choices.skills(), skill.toString());
    }
}

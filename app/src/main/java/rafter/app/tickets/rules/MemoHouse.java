package rafter.app.tickets.rules;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.ticket.House;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** The house as it was when it was first asked, for what asks a hundred thousand times. Not safe for several threads. */
final class MemoHouse implements House {

    private final House house;
    private final Map<PersonId, Boolean> works = new HashMap<>();
    private final Map<TeamId, Optional<String>> teams = new HashMap<>();
    private final Map<String, Optional<TicketState>> states = new HashMap<>();
    private final Map<String, Boolean> asks = new HashMap<>();
    private final Map<String, Optional<String>> policies = new HashMap<>();
    private final Map<QueueId, Optional<String>> queues = new HashMap<>();
    private final Map<SkillId, Optional<String>> skills = new HashMap<>();

    MemoHouse(House house) {
        this.house = house;
    }

    @Override
    public boolean works(PersonId person) {
        return works.computeIfAbsent(person, house::works);
    }

    @Override
    public String person(PersonId person) {
        return house.person(person);
    }

    @Override
    public Optional<String> team(TeamId team) {
        return teams.computeIfAbsent(team, house::team);
    }

    @Override
    public boolean in(TeamId team, PersonId person) {
        return house.in(team, person);
    }

    @Override
    public Optional<TicketState> state(String key) {
        return states.computeIfAbsent(key, house::state);
    }

    @Override
    public boolean asksResolution(String state) {
        return asks.computeIfAbsent(state, house::asksResolution);
    }

    @Override
    public List<String> unfilled(Ticket ticket, TicketState to) {
        return house.unfilled(ticket, to);
    }

    @Override
    public Optional<String> normalised(String field, String typed, String before) {
        return house.normalised(field, typed, before);
    }

    @Override
    public String field(String key) {
        return house.field(key);
    }

    @Override
    public String holds(String key) {
        return house.holds(key);
    }

    @Override
    public Optional<String> policy(String key) {
        return policies.computeIfAbsent(key, house::policy);
    }

    @Override
    public Optional<String> queue(QueueId queue) {
        return queues.computeIfAbsent(queue, house::queue);
    }

    @Override
    public Optional<String> skill(SkillId skill) {
        return skills.computeIfAbsent(skill, house::skill);
    }
}

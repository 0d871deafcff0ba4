package rafter.app.house.access;

import java.util.Map;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/**
 * Everybody there is, and every team, read at once for a page that names many of them.
 *
 * @param teams their names
 */
public record Colleagues(Map<PersonId, Person> people, Map<TeamId, String> teams) {

    /** One of them. */
    public Optional<Person> find(PersonId id) {
        return Optional.ofNullable(people.get(id));
    }

    /** What somebody is called. */
    public String name(PersonId id) {
        return find(id).map(Person::name).orElse("Somebody");
    }

    /** What a team is called. */
    public String team(TeamId id) {
        return teams.getOrDefault(id, "a team");
    }
}

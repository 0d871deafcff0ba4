package rafter.app.tickets.parts;

import java.util.Optional;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** A person or a team as a form chooses one of them: {@code person-3} or {@code team-2}. */
final class Whom {

    private static final String PERSON = "person-";
    private static final String TEAM = "team-";

    private Whom() {}

    static Optional<PersonId> person(String chosen) {
        return chosen.startsWith(PERSON) ? Id.read(chosen.substring(PERSON.length()), PersonId::new) : Optional.empty();
    }

    static Optional<TeamId> team(String chosen) {
        return chosen.startsWith(TEAM) ? Id.read(chosen.substring(TEAM.length()), TeamId::new) : Optional.empty();
    }
}

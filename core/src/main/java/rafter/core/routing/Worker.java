package rafter.core.routing;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;

/**
 * Somebody who may take a ticket, as they stand at a moment.
 *
 * @param taking whether they take work; apart from being here
 * @param used how many units of work they have
 * @param limit how many they take at once
 * @param languages that they write, as tags; empty: nothing is known
 */
public record Worker(
        PersonId id,
        String name,
        Set<TeamId> teams,
        Map<SkillId, SkillLevel> skills,
        Presence presence,
        boolean taking,
        double used,
        double limit,
        Set<String> languages) {

    public Worker {
        teams = Set.copyOf(teams);
        skills = Map.copyOf(skills);
        languages = Set.copyOf(languages);
    }

    /** Why they can be given nothing just now; nothing when they can. */
    public Optional<String> unavailable() {
        if (presence != Presence.HERE) {
            return Optional.of("is " + presence.words());
        }
        return taking ? Optional.empty() : Optional.of("takes no work");
    }

    /** Whether so much more fits. */
    public boolean hasRoom(double units) {
        // Units are added up from parts of one, so that what just fits may be a trifle too much.
        return used + units <= limit + 1e-9;
    }

    /** What they have of what they take, of one; more than one for who has too much. */
    public double load() {
        return limit <= 0 ? (used > 0 ? Double.MAX_VALUE : 1) : used / limit;
    }

    /** They with so much more to do. */
    public Worker with(double units) {
        return new Worker(id, name, teams, skills, presence, taking, used + units, limit, languages);
    }
}

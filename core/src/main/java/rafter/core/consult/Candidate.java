package rafter.core.consult;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.SkillId;
import rafter.core.routing.SkillLevel;

/**
 * Somebody who may be asked, as they stand at a moment.
 *
 * @param load what they have of what they take, of one
 * @param hindrance why they cannot come just now; nothing when they can
 * @param left how much of their day is left
 * @param next when they are there again, if that is planned
 */
public record Candidate(
        Who who,
        String name,
        Map<SkillId, SkillLevel> skills,
        double load,
        Optional<String> hindrance,
        Duration left,
        Optional<Instant> next) {

    public Candidate {
        skills = Map.copyOf(skills);
    }

    /** Whether they can come now. */
    public boolean can() {
        return hindrance.isEmpty();
    }

    /** Whether they can deal with it alone. */
    public boolean knows(SkillId skill) {
        return Optional.ofNullable(skills.get(skill)).filter(SkillLevel::covers).isPresent();
    }

    /** Whether they know any of these. */
    public boolean knowsAny(Set<SkillId> wanted) {
        return wanted.stream().anyMatch(this::knows);
    }

    /** They, when they cannot come for another reason. */
    Candidate hindered(String why) {
        return new Candidate(who, name, skills, load, Optional.of(why), left, Optional.empty());
    }

    boolean expert(SkillId skill) {
        return skills.get(skill) == SkillLevel.EXPERT;
    }
}

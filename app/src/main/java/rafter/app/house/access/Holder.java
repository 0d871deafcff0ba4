package rafter.app.house.access;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Whose something is that people make for themselves and for each other, such as a phrase or a macro. */
public sealed interface Holder {

    /** One person's, whom nobody else sees it of. */
    record One(PersonId person) implements Holder {}

    /** A team's. */
    record OfTeam(TeamId team) implements Holder {}

    /** Everybody's. */
    record Everybody() implements Holder {}

    /** As the two columns of a row say it, of which at most one has a value. */
    static Holder of(@Nullable PersonId person, @Nullable TeamId team) {
        return Optional.ofNullable(person)
                .<Holder>map(One::new)
                .or(() -> Optional.ofNullable(team).map(OfTeam::new))
                .orElseGet(Everybody::new);
    }

    /** As a form says it: {@code me}, {@code everybody}, or a team's id. */
    default String typed() {
        return switch (this) {
            case One one -> "me";
            case OfTeam of -> of.team().toString();
            case Everybody everybody -> "everybody";
        };
    }

    /** What a form said; nothing when it said nothing that is. */
    static Optional<Holder> read(String typed, PersonId me) {
        return switch (typed) {
            case "me" -> Optional.of(new One(me));
            case "everybody" -> Optional.of(new Everybody());
            default -> Id.read(typed, TeamId::new).map(OfTeam::new);
        };
    }

    /** Whose, for one person. */
    default Optional<PersonId> ofPerson() {
        return this instanceof One(PersonId person) ? Optional.of(person) : Optional.empty();
    }

    /** Whose, for a team. */
    default Optional<TeamId> ofTeam() {
        return this instanceof OfTeam(TeamId team) ? Optional.of(team) : Optional.empty();
    }
}

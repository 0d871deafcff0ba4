package rafter.app.tickets.phrases;

import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/**
 * A saved piece of what is written.
 *
 * @param folder where it stands in the phrasebook; its levels are parted by slashes; blank: in none
 * @param language the language that it is in, by its ISO 639 code; blank: whichever
 * @param html its formatted text, with placeholders
 * @param used how often it was put into a text
 */
public record Phrase(
        long id, String name, String folder, String language, Holder holder, String html, int used, int version) {

    /** Whose a phrase is. */
    public sealed interface Holder {
        /** One person's, whom nobody else sees it of. */
        record One(PersonId person) implements Holder {}

        /** A team's. */
        record OfTeam(TeamId team) implements Holder {}

        /** Everybody's. */
        record Everybody() implements Holder {}

        /** As a row says it. */
        static Holder of(Optional<PersonId> person, Optional<TeamId> team) {
            return person.<Holder>map(One::new).or(() -> team.map(OfTeam::new)).orElseGet(Everybody::new);
        }
    }
}

package rafter.core.ticket;

import java.time.Instant;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/**
 * A quick question beside a ticket; whoever of those asked sees it first answers.
 *
 * @param id its number on this ticket
 * @param person who is asked; nothing: anybody of the team
 * @param answer nothing while nobody answered
 * @param dropped whether whoever asked took it back
 */
public record Talk(
        int id,
        Optional<PersonId> person,
        Optional<TeamId> team,
        Actor by,
        Instant at,
        String question,
        Optional<Answer> answer,
        boolean dropped) {

    /** What somebody said to it. */
    public record Answer(Instant at, Actor by, String words) {}

    /** The question with what somebody said to it. */
    Talk answered(Answer said) {
        return new Talk(id, person, team, by, at, question, Optional.of(said), dropped);
    }

    /** The question once whoever asked took it back. */
    Talk takenBack() {
        return new Talk(id, person, team, by, at, question, answer, true);
    }

    /** Whether it still waits for an answer. */
    public boolean open() {
        return answer.isEmpty() && !dropped;
    }
}

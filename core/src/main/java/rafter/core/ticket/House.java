package rafter.core.ticket;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;

/** What must be known of the workspace to decide whether something can be done to a ticket. */
public interface House {

    /** Whether a person works here. */
    boolean works(PersonId person);

    /** What a person is called. */
    String person(PersonId person);

    /** What a team is called, if there is one. */
    Optional<String> team(TeamId team);

    /** Whether a person belongs to a team. */
    boolean in(TeamId team, PersonId person);

    /** The state of this key, if there is one. */
    Optional<TicketState> state(String key);

    /** Whether a ticket gets into a state only once somebody wrote down how it was resolved. */
    default boolean asksResolution(String state) {
        return false;
    }

    /** The names of the own fields that must be filled before a ticket gets into a state, and are not. */
    default List<String> unfilled(Ticket ticket, TicketState to) {
        return List.of();
    }

    /** What people call what stands in an own field. */
    default String said(String field, String value) {
        return value;
    }

    /**
     * What is kept when something is typed into an own field of tickets.
     *
     * @param before what stands there
     * @return blank to have no value; nothing when the field cannot hold it
     */
    Optional<String> normalised(String field, String typed, String before);

    /** What an own field is called. */
    String field(String key);

    /** An own field and what can stand in it, in words, such as “Metres”, which holds a number. */
    String holds(String key);

    /** What a policy is called that is in force, by its key, if there is one. */
    default Optional<String> policy(String key) {
        return Optional.empty();
    }

    /** What a queue is called, if there is one. */
    default Optional<String> queue(QueueId queue) {
        return Optional.empty();
    }

    /** What a skill is called, if there is one. */
    default Optional<String> skill(SkillId skill) {
        return Optional.empty();
    }

    /** What a channel is called, by its key, if this installation has it. */
    default Optional<String> channel(String key) {
        return Optional.empty();
    }

    /** The furthest time ahead that can be set for a ticket. */
    default Duration furthest() {
        return Duration.ofDays(2 * 365);
    }
}

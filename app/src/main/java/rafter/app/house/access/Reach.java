package rafter.app.house.access;

import static rafter.database.Tables.TICKET;

import java.util.Set;
import org.jooq.Condition;
import org.jooq.impl.DSL;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Which tickets somebody may see at all: one condition, laid on every query of tickets that is made for a person. */
public sealed interface Reach {

    /** All tickets there are. */
    record Everything() implements Reach {}

    /**
     * Those of some teams, and those that the person owns.
     *
     * @param teams the ids of the teams
     */
    record Teams(Set<TeamId> teams) implements Reach {
        public Teams {
            teams = Set.copyOf(teams);
        }
    }

    /** What holds for the tickets that a person of this reach may see. */
    default Condition condition(PersonId person) {
        return switch (this) {
            case Everything all -> DSL.noCondition();
            case Teams(Set<TeamId> teams) -> TICKET.TEAM_ID.in(teams).or(TICKET.OWNER_ID.eq(person));
        };
    }

    /** Says how far somebody sees. */
    interface Granting {
        /** The reach of a person. */
        Reach of(Person person);
    }
}

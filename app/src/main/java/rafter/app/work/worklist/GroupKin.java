package rafter.app.work.worklist;

import static rafter.database.Tables.TICKET;

import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;

/**
 * Groups that differ in one number alone. The first tickets of many of them are found by one plan that is gone through once for each number; planning each group
 * by itself took the database eight milliseconds for forty people, and going through the plans two.
 */
enum GroupKin {
    OWNED,
    OF_TEAM,
    OF_TEAM_UNOWNED;

    /**
     * Which group of its kin it is.
     *
     * @param id of the person or the team
     */
    public record Member(GroupKin kin, long id) {

        Condition in() {
            return kin.in(DSL.val(id));
        }
    }

    /** The person or team whose group has this key; nothing when the group is of another kind. */
    static Optional<Member> member(Grouping grouping, String key) {
        if (key.isEmpty()) {
            return Optional.empty();
        }
        return switch (grouping) {
            case OWNER -> Optional.of(new Member(OWNED, Long.parseLong(key)));
            case TEAM -> Optional.of(new Member(OF_TEAM, Long.parseLong(key)));
            case HOLDER -> Optional.of(holder(key));
            case STATE, TURN, PRIORITY, TOPIC, DUE -> Optional.empty();
        };
    }

    private static Member holder(String key) {
        return new Member(
                key.startsWith(GroupSql.PERSON_KEY) ? OWNED : OF_TEAM_UNOWNED, Long.parseLong(key.substring(1)));
    }

    /** Whether a ticket is in the group of this number. */
    Condition in(Field<Long> id) {
        Field<Long> owner = TICKET.OWNER_ID.coerce(Long.class);
        Field<Long> team = TICKET.TEAM_ID.coerce(Long.class);
        return switch (this) {
            case OWNED -> owner.eq(id);
            case OF_TEAM -> team.eq(id);
            case OF_TEAM_UNOWNED -> owner.isNull().and(team.eq(id));
        };
    }
}

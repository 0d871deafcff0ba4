package rafter.app.work.worklist;

import static rafter.database.Tables.TICKET;

import java.time.Instant;
import java.util.EnumSet;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;

/** In which group of a grouping a ticket is, as the database is asked for it. */
final class GroupSql {

    /** How the key of the group of what a person has begins, and of what a team has. */
    static final String PERSON_KEY = "p";

    static final String TEAM_KEY = "t";

    private GroupSql() {}

    /** Whether a ticket is in the group of this key, in a form that an index answers. */
    static Condition in(Grouping grouping, String key, Instant now) {
        return GroupKin.member(grouping, key).map(GroupKin.Member::in).orElseGet(() -> other(grouping, key, now));
    }

    private static Condition other(Grouping grouping, String key, Instant now) {
        return switch (grouping) {
            case STATE -> TICKET.STATE.eq(key);
            case TURN -> TICKET.TURN.eq(DSL.inline(key));
            case PRIORITY -> TICKET.PRIORITY.eq(key);
            case OWNER -> TICKET.OWNER_ID.isNull();
            case TEAM -> TICKET.TEAM_ID.isNull();
            case HOLDER -> TICKET.OWNER_ID.isNull().and(TICKET.TEAM_ID.isNull());
            case TOPIC -> TICKET.TOPIC.eq(key);
            case DUE ->
                key.isEmpty() ? TICKET.NEXT_DUE.isNull() : Within.valueOf(key).holds(TICKET.NEXT_DUE, now);
        };
    }

    /** The key of the group that a ticket is in. */
    static Field<String> key(Grouping grouping, Instant now) {
        return switch (grouping) {
            case STATE -> TICKET.STATE;
            case TURN -> TICKET.TURN;
            case PRIORITY -> TICKET.PRIORITY;
            case OWNER -> TICKET.OWNER_ID.cast(SQLDataType.CLOB);
            case TEAM -> TICKET.TEAM_ID.cast(SQLDataType.CLOB);
            case HOLDER ->
                DSL.coalesce(
                        DSL.inline(PERSON_KEY).concat(TICKET.OWNER_ID.cast(SQLDataType.CLOB)),
                        DSL.inline(TEAM_KEY).concat(TICKET.TEAM_ID.cast(SQLDataType.CLOB)));
            case TOPIC -> TICKET.TOPIC;
            case DUE -> within(now);
        };
    }

    private static Field<String> within(Instant now) {
        var step = DSL.when(TICKET.NEXT_DUE.isNull(), DSL.inline(""));
        for (Within one : EnumSet.complementOf(EnumSet.of(Within.LATER))) {
            step = step.when(TICKET.NEXT_DUE.le(one.end(now)), DSL.inline(one.name()));
        }
        return step.otherwise(DSL.inline(Within.LATER.name()));
    }
}

package rafter.app.work.today;

import static rafter.database.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaSql;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/** Counts of open tickets, each with the list it counts. */
@Component
class Tiles {

    private final DSLContext sql;
    private final Persons persons;

    Tiles(DSLContext sql, Persons persons) {
        this.sql = sql;
        this.persons = persons;
    }

    /** A tile that is still to be counted. */
    public record Wanted(String title, String help, String tone, Criteria criteria) {}

    /** A tile of the tickets of which all of these hold. */
    static Wanted tile(String title, String help, String tone, Criteria... parts) {
        return new Wanted(title, help, tone, new Criteria.All(List.of(parts)));
    }

    /** Counts each by itself, for each is a small range of some index of the open tickets. */
    List<Today.Tile> counted(List<Wanted> wanted, Viewer me, Instant now) {
        var asking = new Asking(now, me.id(), persons.teamsOf(me.id()));
        return wanted.stream()
                .map(w -> tile(
                        w,
                        sql.fetchCount(
                                me.tickets(),
                                DSL.condition(TICKET.OPEN).and(CriteriaSql.condition(asking.resolve(w.criteria()))))))
                .toList();
    }

    private static Today.Tile tile(Wanted w, int count) {
        return new Today.Tile(
                w.title(), w.help(), count, ChosenTickets.openWhere(w.criteria()), count == 0 ? "none" : w.tone());
    }

    static Criteria mine() {
        return Criteria.test(KnownField.OWNER, Operator.IS, Asking.ME);
    }

    static Criteria ours() {
        return Criteria.test(KnownField.TURN, Operator.IS, "OURS");
    }

    static Criteria late() {
        return Criteria.test(KnownField.NEXT_TARGET, Operator.LATE);
    }

    static Criteria within(Duration time) {
        return Criteria.test(KnownField.NEXT_TARGET, Operator.WITHIN, time.toMinutes() + " m");
    }

    static Criteria dueWithin(Duration time) {
        return new Criteria.All(List.of(within(time), new Criteria.Not(late())));
    }

    static Criteria backToday(Instant now, ZoneId zone) {
        Duration ofDay = Duration.between(
                now.atZone(zone).toLocalDate().atStartOfDay(zone).toInstant(), now);
        return Criteria.test(KnownField.SINCE_BACK, Operator.AT_MOST, Math.max(1, ofDay.toMinutes()) + " m");
    }

    static Duration restOfDay(Instant now, ZoneId zone) {
        return Duration.between(
                now,
                now.atZone(zone).toLocalDate().plusDays(1).atStartOfDay(zone).toInstant());
    }
}

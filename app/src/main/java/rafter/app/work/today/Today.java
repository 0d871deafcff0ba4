package rafter.app.work.today;

import static rafter.database.Tables.DRAFT;
import static rafter.database.Tables.NOTICE;
import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_TASK;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Work.Rating;

/** Counts what waits, each count in the one criteria language, so that it opens exactly the tickets that it counted. */
@Component
class Today {

    private static final int LISTED = 6;

    /** A figure that opens its tickets. */
    public record Tile(String title, String help, int count, String address, String tone) {}

    /** A ticket of a short list. */
    public record Line(TicketNumber number, String subject, String words) {}

    /**
     * A measure of a stretch of days, beside what it is compared with.
     *
     * @param mine the figure
     * @param other what it is compared with
     */
    public record Figure(String words, String mine, String other) {}

    /** What a person has on their hands. */
    public record Load(
            String name,
            String initials,
            boolean present,
            String seen,
            int open,
            int ours,
            int late,
            int risk,
            String address) {}

    /** What an agent sees. */
    public record Mine(
            List<Tile> tiles,
            List<Line> longest,
            List<Line> drafts,
            List<Line> mentions,
            List<Work> tasks,
            List<Line> ratings,
            List<Appointments.Line> questions,
            List<Appointments.Line> helps,
            List<Appointments.Line> meetings,
            List<Figure> figures) {}

    /** Something that a person is to do for a ticket. */
    public record Work(TicketNumber number, int task, String what, String due, boolean late) {}

    public record Floor(List<Tile> tiles, List<Load> loads, List<Tile> unowned, List<Figure> yesterday, String day) {}

    private static final int TASKS_LISTED = 12;

    private final DSLContext sql;
    private final Tiles tiles;
    private final Appointments appointments;
    private final WeekFigures week;
    private final Targets targets;
    private final Clock clock;

    Today(DSLContext sql, Tiles tiles, Appointments appointments, WeekFigures week, Targets targets, Clock clock) {
        this.week = week;
        this.sql = sql;
        this.tiles = tiles;
        this.appointments = appointments;
        this.targets = targets;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ an agent's day

    @Transactional(readOnly = true)
    Mine mine(Viewer me) {
        Instant now = clock.instant();
        Terms terms = targets.terms();
        List<Tile> tiles = this.tiles.counted(day(now, terms.zone()), me, now);
        return new Mine(
                tiles,
                longest(me, now),
                drafts(me, now, terms),
                mentions(me, now, terms),
                tasks(me, now, terms),
                ratings(me, now),
                appointments.questions(me, now, terms),
                appointments.helps(me, now, terms),
                appointments.meetings(me, now, terms),
                week.figures(me, now));
    }

    private static List<Tiles.Wanted> day(Instant now, ZoneId zone) {
        return List.of(
                Tiles.tile("wait for me", "It is our turn, and I own them", "plain", Tiles.mine(), Tiles.ours()),
                Tiles.tile("are late", "A target of mine has passed", "late", Tiles.mine(), Tiles.late()),
                Tiles.tile(
                        "fall due today",
                        "Still in time",
                        "soon",
                        Tiles.mine(),
                        Tiles.dueWithin(Tiles.restOfDay(now, zone))),
                Tiles.tile(
                        "came back today",
                        "At the time set for them",
                        "plain",
                        Tiles.mine(),
                        Tiles.backToday(now, zone)),
                Tiles.tile(
                        "wait for others",
                        "The customer’s or a partner’s turn",
                        "plain",
                        Tiles.mine(),
                        Criteria.test(KnownField.TURN, Operator.IS, "CUSTOMER", "PARTNER")),
                Tiles.tile(
                        "are unowned in my teams",
                        "Anybody may take them",
                        "plain",
                        Criteria.test(KnownField.TEAM, Operator.IS, Asking.MINE),
                        Criteria.test(KnownField.OWNER, Operator.IS_EMPTY)));
    }

    private List<Line> longest(Viewer me, Instant now) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.TURN_SINCE)
                .from(me.tickets())
                .where(DSL.condition(TICKET.OPEN))
                .and(TICKET.TURN.eq(DSL.inline("OURS")))
                .and(TICKET.OWNER_ID.eq(me.id()))
                .orderBy(TICKET.TURN_SINCE)
                .limit(LISTED)
                .fetch(r -> new Line(r.value1(), r.value2(), "for " + Say.amount(Duration.between(r.value3(), now))));
    }

    private List<Line> drafts(Viewer me, Instant now, Terms terms) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, DRAFT.UPDATED_AT, DRAFT.KIND)
                .from(DRAFT)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(DRAFT.TICKET))
                .where(DRAFT.PERSON_ID.eq(me.id()))
                .and(DRAFT.HTML.ne(""))
                .orderBy(DRAFT.UPDATED_AT.desc())
                .limit(LISTED)
                .fetch(r -> new Line(
                        r.value1(),
                        r.value2(),
                        (r.value4().equals("NOTE") ? "note, " : "reply, ") + Say.when(r.value3(), now, terms.zone())));
    }

    private List<Line> mentions(Viewer me, Instant now, Terms terms) {
        return sql.select(NOTICE.TICKET, NOTICE.WORDS, NOTICE.AT)
                .from(NOTICE)
                .where(NOTICE.PERSON_ID.eq(me.id()))
                .and(NOTICE.KIND.eq("MENTION"))
                .and(NOTICE.READ_AT.isNull())
                .and(me.sees(NOTICE.TICKET))
                .orderBy(NOTICE.ID.desc())
                .limit(LISTED)
                .fetch(r -> new Line(r.value1(), r.value2(), Say.when(r.value3(), now, terms.zone())));
    }

    /** What a person is to do, on whosever tickets: what is theirs by name, and on their own tickets what is nobody's by name. */
    private List<Work> tasks(Viewer me, Instant now, Terms terms) {
        return sql.select(TICKET_TASK.TICKET, TICKET_TASK.TASK, TICKET_TASK.WHAT, TICKET_TASK.DUE)
                .from(TICKET_TASK)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(TICKET_TASK.TICKET))
                .where(TICKET_TASK.DONE_AT.isNull())
                .and(TICKET.OPEN)
                .and(TICKET_TASK
                        .PERSON_ID
                        .eq(me.id())
                        .or(TICKET_TASK.PERSON_ID.isNull().and(TICKET.OWNER_ID.eq(me.id()))))
                .orderBy(TICKET_TASK.DUE.asc().nullsLast(), TICKET_TASK.TICKET, TICKET_TASK.PLACE)
                .limit(TASKS_LISTED)
                .fetch(r -> new Work(
                        r.value1(),
                        r.value2(),
                        r.value3(),
                        r.value4() == null ? "" : Say.when(r.value4(), now, terms.zone()),
                        r.value4() != null && r.value4().isBefore(now)));
    }

    /** What customers said of a person's tickets in the last seven days, the latest first. */
    private List<Line> ratings(Viewer me, Instant now) {
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.RATING)
                .from(RATING_REQUEST)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(RATING_REQUEST.TICKET))
                .where(RATING_REQUEST.RATED_AT.ge(now.minus(Duration.ofDays(7))))
                .and(TICKET.OWNER_ID.eq(me.id()))
                .and(TICKET.RATING.isNotNull())
                .orderBy(RATING_REQUEST.RATED_AT.desc())
                .limit(LISTED)
                .fetch(r -> new Line(
                        r.value1(), r.value2(), Rating.valueOf(r.value3()).word()));
    }

    static String share(int part, int whole) {
        return whole == 0 ? "–" : Math.round(100.0 * part / whole) + " % of " + whole;
    }
}

package rafter.app.work.today;

import static rafter.database.Tables.DRAFT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.NOTICE;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.PRESENCE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaSql;
import rafter.app.platform.CachedUntilChange;
import rafter.app.platform.Say;
import rafter.app.platform.TicketChanges;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;

/** Counts what waits, each count in the one criteria language, so that it opens exactly the tickets that it counted. */
@Component
class Today {

    private static final int LISTED = 6;
    private static final int WEEKS = 8;
    private static final Duration KEPT = Duration.ofSeconds(5);
    private static final Duration PRESENT = Duration.ofMinutes(5);

    /** A figure that opens its tickets. */
    record Tile(String title, String help, int count, String address, String tone) {}

    /** A ticket of a short list. */
    record Line(TicketNumber number, String subject, String words) {}

    /**
     * A measure of a stretch of days, beside what it is compared with.
     *
     * @param mine the figure
     * @param other what it is compared with
     */
    record Figure(String words, String mine, String other) {}

    /** What a person has on their hands. */
    record Load(
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
    record Mine(List<Tile> tiles, List<Line> longest, List<Line> drafts, List<Line> mentions, List<Figure> figures) {}

    /** What a lead sees besides. */
    private record FloorOf(Viewer.Sharing sharing, long slot) {}

    record Floor(List<Tile> tiles, List<Load> loads, List<Tile> unowned, List<Figure> yesterday, String day) {}

    private final DSLContext sql;
    private final Persons persons;
    private final Targets targets;
    private final Clock clock;
    private final CachedUntilChange<FloorOf, Floor> floors;

    Today(DSLContext sql, Persons persons, Targets targets, Clock clock, TicketChanges changes) {
        this.floors = new CachedUntilChange<>(changes, KEPT);
        this.sql = sql;
        this.persons = persons;
        this.targets = targets;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ tiles

    /** A tile that is still to be counted. */
    private record Wanted(String title, String help, String tone, Criteria criteria) {}

    private static Wanted tile(String title, String help, String tone, Criteria... parts) {
        return new Wanted(title, help, tone, new Criteria.All(List.of(parts)));
    }

    /** Counts each by itself, for each is a small range of some index of the open tickets. */
    private List<Tile> counted(List<Wanted> wanted, Viewer me, Instant now) {
        var asking = new Asking(now, me.id(), persons.teamsOf(me.id()));
        return wanted.stream()
                .map(w -> tile(
                        w,
                        sql.fetchCount(
                                me.tickets(),
                                DSL.condition(TICKET.OPEN).and(CriteriaSql.condition(asking.resolve(w.criteria()))))))
                .toList();
    }

    private static Tile tile(Wanted w, int count) {
        return new Tile(
                w.title(), w.help(), count, ChosenTickets.openWhere(w.criteria()), count == 0 ? "none" : w.tone());
    }

    private static Criteria mine() {
        return Criteria.test(KnownField.OWNER, Operator.IS, Asking.ME);
    }

    private static Criteria ours() {
        return Criteria.test(KnownField.TURN, Operator.IS, "OURS");
    }

    private static Criteria late() {
        return Criteria.test(KnownField.NEXT_TARGET, Operator.LATE);
    }

    private static Criteria within(Duration time) {
        return Criteria.test(KnownField.NEXT_TARGET, Operator.WITHIN, time.toMinutes() + " m");
    }

    private static Criteria dueWithin(Duration time) {
        return new Criteria.All(List.of(within(time), new Criteria.Not(late())));
    }

    private static Criteria backToday(Instant now, ZoneId zone) {
        Duration ofDay = Duration.between(
                now.atZone(zone).toLocalDate().atStartOfDay(zone).toInstant(), now);
        return Criteria.test(KnownField.SINCE_BACK, Operator.AT_MOST, Math.max(1, ofDay.toMinutes()) + " m");
    }

    private static Duration restOfDay(Instant now, ZoneId zone) {
        return Duration.between(
                now,
                now.atZone(zone).toLocalDate().plusDays(1).atStartOfDay(zone).toInstant());
    }

    // ------------------------------------------------------------------ an agent's day

    @Transactional(readOnly = true)
    Mine mine(Viewer me) {
        Instant now = clock.instant();
        Terms terms = targets.terms();
        List<Tile> tiles = counted(
                List.of(
                        tile("wait for me", "It is our turn, and I own them", "plain", mine(), ours()),
                        tile("are late", "A target of mine has passed", "late", mine(), late()),
                        tile(
                                "fall due today",
                                "Still in time",
                                "soon",
                                mine(),
                                dueWithin(restOfDay(now, terms.zone()))),
                        tile(
                                "came back today",
                                "At the time set for them",
                                "plain",
                                mine(),
                                backToday(now, terms.zone())),
                        tile(
                                "wait for others",
                                "The customer’s or a partner’s turn",
                                "plain",
                                mine(),
                                Criteria.test(KnownField.TURN, Operator.IS, "CUSTOMER", "PARTNER")),
                        tile(
                                "are unowned in my teams",
                                "Anybody may take them",
                                "plain",
                                Criteria.test(KnownField.TEAM, Operator.IS, Asking.MINE),
                                Criteria.test(KnownField.OWNER, Operator.IS_EMPTY))),
                me,
                now);
        return new Mine(tiles, longest(me, now), drafts(me, now, terms), mentions(me, now, terms), figures(me, now));
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

    /** The last seven days of one person, beside the average of those who worked in them. */
    private List<Figure> figures(Viewer me, Instant now) {
        Instant from = now.minus(Duration.ofDays(7));
        var answers = sql.select(MESSAGE.PERSON_ID, DSL.count())
                .from(MESSAGE)
                .where(MESSAGE.KIND.eq(DSL.inline("PUBLIC")))
                .and(MESSAGE.AT.ge(from))
                .and(me.sees(MESSAGE.TICKET))
                .and(MESSAGE.PERSON_ID.isNotNull())
                .groupBy(MESSAGE.PERSON_ID)
                .fetchMap(MESSAGE.PERSON_ID, DSL.count());
        var kept = DSL.count().filterWhere(DSL.not(TICKET_CLOCK.LATE));
        var targetsKept = sql.select(TICKET_CLOCK.OWNER_ID, kept, DSL.count())
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.ENDED_AT.ge(from))
                .and(TICKET_CLOCK.STATE.eq("MET"))
                .and(me.sees(TICKET_CLOCK.TICKET))
                .and(TICKET_CLOCK.OWNER_ID.isNotNull())
                .groupBy(TICKET_CLOCK.OWNER_ID)
                .fetch();
        int myKept = 0;
        int myAll = 0;
        int allKept = 0;
        int all = 0;
        for (var r : targetsKept) {
            boolean own = r.value1().equals(me.id());
            myKept += own ? r.value2() : 0;
            myAll += own ? r.value3() : 0;
            allKept += r.value2();
            all += r.value3();
        }
        int sum = answers.values().stream().mapToInt(n -> n).sum();
        String average = answers.isEmpty() ? "–" : Long.toString(Math.round(sum / (double) answers.size()));
        return List.of(
                new Figure("answers", Integer.toString(answers.getOrDefault(me.id(), 0)), average),
                new Figure("targets met", share(myKept, myAll), share(allKept, all)));
    }

    private static String share(int part, int whole) {
        return whole == 0 ? "–" : Math.round(100.0 * part / whole) + " % of " + whole;
    }

    // ------------------------------------------------------------------ a lead's day

    @Transactional(readOnly = true)
    Floor floor(Viewer me) {
        Instant now = clock.instant();
        return floors.get(
                new FloorOf(me.sharing(false), now.getEpochSecond() / KEPT.toSeconds()), () -> floor(me, now));
    }

    /** Nothing in it depends on who reads it, but for how far they see. */
    private Floor floor(Viewer me, Instant now) {
        Terms terms = targets.terms();
        List<Tile> tiles = counted(
                List.of(
                        tile("wait for us", "It is our turn", "plain", ours()),
                        tile("are late", "A target has passed", "late", late()),
                        tile(
                                "at risk",
                                "Not late yet, and most of the time is used or little is left",
                                "soon",
                                Criteria.test(KnownField.NEXT_TARGET, Operator.AT_RISK)),
                        tile("fall due today", "Still in time", "plain", dueWithin(restOfDay(now, terms.zone()))),
                        tile("came back today", "At the time set for them", "plain", backToday(now, terms.zone())),
                        tile(
                                "nobody owns",
                                "Open and unowned",
                                "plain",
                                Criteria.test(KnownField.OWNER, Operator.IS_EMPTY))),
                me,
                now);
        LocalDate yesterday = now.atZone(terms.zone()).toLocalDate().minusDays(1);
        return new Floor(
                tiles,
                loads(me, now, terms),
                unowned(me, now),
                yesterday(me, yesterday, terms.zone()),
                Say.capital(yesterday.getDayOfWeek().name().toLowerCase(java.util.Locale.ROOT)));
    }

    private List<Tile> unowned(Viewer me, Instant now) {
        Criteria nobody = Criteria.test(KnownField.OWNER, Operator.IS_EMPTY);
        var tiles = new ArrayList<Wanted>();
        String[][] ages = {
            {"under an hour", "", "1 h"},
            {"1 to 4 hours", "1 h", "4 h"},
            {"4 hours to a day", "4 h", "1 d"},
            {"over a day", "1 d", ""}
        };
        for (String[] age : ages) {
            var parts = new ArrayList<Criteria>(List.of(nobody));
            if (!age[1].isEmpty()) {
                parts.add(Criteria.test(KnownField.AGE, Operator.AT_LEAST, age[1]));
            }
            if (!age[2].isEmpty()) {
                parts.add(new Criteria.Not(Criteria.test(KnownField.AGE, Operator.AT_LEAST, age[2])));
            }
            tiles.add(tile(age[0], "", "plain", parts.toArray(Criteria[]::new)));
        }
        return counted(tiles, me, now);
    }

    private static Select<Record1<TicketNumber>> atRisk(Instant now) {
        return DSL.select(TICKET_CLOCK.TICKET)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.RISK_AT.le(now))
                .and(TICKET_CLOCK.DUE_AT.gt(now));
    }

    private List<Load> loads(Viewer me, Instant now, Terms terms) {
        // The tickets are counted by owner first, in an index alone, and then joined to forty people rather than a
        // hundred thousand times.
        var has = DSL.select(
                        TICKET.OWNER_ID,
                        DSL.count().as("open"),
                        DSL.count()
                                .filterWhere(TICKET.TURN.eq(DSL.inline("OURS")))
                                .as("ours"),
                        DSL.count().filterWhere(TICKET.NEXT_DUE.le(now)).as("late"),
                        DSL.count().filterWhere(TICKET.NUMBER.in(atRisk(now))).as("risk"))
                .from(me.tickets())
                .where(DSL.condition(TICKET.OPEN))
                .and(TICKET.OWNER_ID.isNotNull())
                .groupBy(TICKET.OWNER_ID)
                .asTable("has");
        return sql.select(
                        PERSON.ID,
                        PERSON.NAME,
                        PRESENCE.SEEN_AT,
                        of(has, "open"),
                        of(has, "ours"),
                        of(has, "late"),
                        of(has, "risk"))
                .from(PERSON)
                .leftJoin(PRESENCE)
                .on(PRESENCE.PERSON_ID.eq(PERSON.ID))
                .leftJoin(has)
                .on(DSL.field(DSL.name("has", "owner_id"), PERSON.ID.getDataType())
                        .eq(PERSON.ID))
                .where(PERSON.ACTIVE)
                .orderBy(of(has, "ours").desc(), PERSON.NAME)
                .limit(100)
                .fetch(r -> {
                    Optional<Instant> seen = Optional.ofNullable(r.value3());
                    boolean present =
                            seen.filter(at -> at.isAfter(now.minus(PRESENT))).isPresent();
                    String words = present
                            ? "here"
                            : seen.map(at -> "last here " + Say.when(at, now, terms.zone()))
                                    .orElse("not here yet");
                    return new Load(
                            r.value2(),
                            Say.initials(r.value2()),
                            present,
                            words,
                            r.value4(),
                            r.value5(),
                            r.value6(),
                            r.value7(),
                            ChosenTickets.openWhere(new Criteria.All(List.of(Criteria.test(
                                    KnownField.OWNER, Operator.IS, r.value1().toString())))));
                });
    }

    private static Field<Integer> of(Table<?> has, String count) {
        return DSL.coalesce(DSL.field(DSL.name(has.getName(), count), Integer.class), DSL.inline(0));
    }

    /** Yesterday beside the average of the same weekday in the weeks before. */
    private List<Figure> yesterday(Viewer me, LocalDate day, ZoneId zone) {
        var figures = new ArrayList<Figure>();
        String[][] kinds = {{"requests", "opened"}, {"answers", "we-wrote"}, {"resolved", "state"}};
        for (String[] kind : kinds) {
            int own = events(me, kind[1], day, zone);
            int sum = 0;
            for (int week = 1; week <= WEEKS; week++) {
                sum += events(me, kind[1], day.minusWeeks(week), zone);
            }
            figures.add(new Figure(kind[0], Integer.toString(own), Long.toString(Math.round(sum / (double) WEEKS))));
        }
        return figures;
    }

    private int events(Viewer me, String kind, LocalDate day, ZoneId zone) {
        Condition what = switch (kind) {
            case "we-wrote" -> DSL.condition("{0} ->> 'automatic' is distinct from 'true'", TICKET_EVENT.BODY);
            case "state" ->
                DSL.condition("coalesce({0} -> 'state' ->> 'key', {0} ->> 'state') = 'resolved'", TICKET_EVENT.BODY);
            default -> DSL.trueCondition();
        };
        return sql.fetchCount(
                TICKET_EVENT,
                TICKET_EVENT
                        .KIND
                        .eq(DSL.inline(kind))
                        .and(TICKET_EVENT.AT.ge(day.atStartOfDay(zone).toInstant()))
                        .and(TICKET_EVENT.AT.lt(
                                day.plusDays(1).atStartOfDay(zone).toInstant()))
                        .and(what)
                        .and(me.sees(TICKET_EVENT.TICKET)));
    }
}

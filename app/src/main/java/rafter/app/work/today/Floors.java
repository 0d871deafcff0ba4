package rafter.app.work.today;

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
import rafter.app.house.access.Viewer;
import rafter.app.platform.CachedUntilChange;
import rafter.app.platform.Say;
import rafter.app.platform.TicketChanges;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** What a lead sees of the day: how much there is, who has it, and how yesterday went. */
@Component
class Floors {

    private static final int WEEKS = 8;
    private static final Duration KEPT = Duration.ofSeconds(5);
    private static final Duration PRESENT = Duration.ofMinutes(5);

    /** For whom a floor was computed, and when. */
    private record FloorOf(Viewer.Sharing sharing, long slot) {}

    private final DSLContext sql;
    private final Tiles tiles;
    private final Targets targets;
    private final Clock clock;
    private final CachedUntilChange<FloorOf, Today.Floor> floors;

    Floors(DSLContext sql, Tiles tiles, Targets targets, Clock clock, TicketChanges changes) {
        this.sql = sql;
        this.tiles = tiles;
        this.targets = targets;
        this.clock = clock;
        this.floors = new CachedUntilChange<>(changes, KEPT);
    }

    @Transactional(readOnly = true)
    Today.Floor floor(Viewer me) {
        Instant now = clock.instant();
        return floors.get(
                new FloorOf(me.sharing(false), now.getEpochSecond() / KEPT.toSeconds()), () -> floor(me, now));
    }

    /** Nothing in it depends on who reads it, but for how far they see. */
    private Today.Floor floor(Viewer me, Instant now) {
        Terms terms = targets.terms();
        List<Today.Tile> counted = tiles.counted(wanted(now, terms.zone()), me, now);
        LocalDate yesterday = now.atZone(terms.zone()).toLocalDate().minusDays(1);
        return new Today.Floor(
                counted,
                loads(me, now, terms),
                unowned(me, now),
                yesterday(me, yesterday, terms.zone()),
                Say.capital(yesterday.getDayOfWeek().name().toLowerCase(java.util.Locale.ROOT)));
    }

    private static List<Tiles.Wanted> wanted(Instant now, ZoneId zone) {
        return List.of(
                Tiles.tile("wait for us", "It is our turn", "plain", Tiles.ours()),
                Tiles.tile("are late", "A target has passed", "late", Tiles.late()),
                Tiles.tile(
                        "at risk",
                        "Not late yet, and most of the time is used or little is left",
                        "soon",
                        Criteria.test(KnownField.NEXT_TARGET, Operator.AT_RISK)),
                Tiles.tile("fall due today", "Still in time", "plain", Tiles.dueWithin(Tiles.restOfDay(now, zone))),
                Tiles.tile("came back today", "At the time set for them", "plain", Tiles.backToday(now, zone)),
                Tiles.tile(
                        "nobody owns",
                        "Open and unowned",
                        "plain",
                        Criteria.test(KnownField.OWNER, Operator.IS_EMPTY)));
    }

    private List<Today.Tile> unowned(Viewer me, Instant now) {
        Criteria nobody = Criteria.test(KnownField.OWNER, Operator.IS_EMPTY);
        var wanted = new ArrayList<Tiles.Wanted>();
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
            wanted.add(Tiles.tile(age[0], "", "plain", parts.toArray(Criteria[]::new)));
        }
        return tiles.counted(wanted, me, now);
    }

    private static Select<Record1<TicketNumber>> atRisk(Instant now) {
        return DSL.select(TICKET_CLOCK.TICKET)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.RISK_AT.le(now))
                .and(TICKET_CLOCK.DUE_AT.gt(now));
    }

    private List<Today.Load> loads(Viewer me, Instant now, Terms terms) {
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
                .fetch(r -> load(
                        r.value1(),
                        r.value2(),
                        Optional.ofNullable(r.value3()),
                        List.of(r.value4(), r.value5(), r.value6(), r.value7()),
                        now,
                        terms.zone()));
    }

    /**
     * What one person has.
     *
     * @param counts how many are open, are ours to move, are late, are at risk
     */
    private static Today.Load load(
            PersonId person, String name, Optional<Instant> seen, List<Integer> counts, Instant now, ZoneId zone) {
        boolean present = seen.filter(at -> at.isAfter(now.minus(PRESENT))).isPresent();
        String words = present
                ? "here"
                : seen.map(at -> "last here " + Say.when(at, now, zone)).orElse("not here yet");
        return new Today.Load(
                name,
                Say.initials(name),
                present,
                words,
                counts.get(0),
                counts.get(1),
                counts.get(2),
                counts.get(3),
                ChosenTickets.openWhere(
                        new Criteria.All(List.of(Criteria.test(KnownField.OWNER, Operator.IS, person.toString())))));
    }

    private static Field<Integer> of(Table<?> has, String count) {
        return DSL.coalesce(DSL.field(DSL.name(has.getName(), count), Integer.class), DSL.inline(0));
    }

    /** Yesterday beside the average of the same weekday in the weeks before. */
    private List<Today.Figure> yesterday(Viewer me, LocalDate day, ZoneId zone) {
        var figures = new ArrayList<Today.Figure>();
        String[][] kinds = {{"requests", "opened"}, {"answers", "we-wrote"}, {"resolved", "state"}};
        for (String[] kind : kinds) {
            int own = events(me, kind[1], day, zone);
            int sum = 0;
            for (int week = 1; week <= WEEKS; week++) {
                sum += events(me, kind[1], day.minusWeeks(week), zone);
            }
            figures.add(
                    new Today.Figure(kind[0], Integer.toString(own), Long.toString(Math.round(sum / (double) WEEKS))));
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

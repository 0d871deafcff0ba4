package rafter.app.promises.board;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.PERSON;
import static rafter.database.Tables.TEAM;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;

import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectJoinStep;
import org.jooq.SelectSelectStep;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;

/** Counts how clocks ended and stand. */
@Component
class BoardStore {

    /** What clocks are sorted by. */
    enum Dimension {
        POLICY("policy"),
        TEAM("team"),
        AGENT("agent"),
        CHANNEL("channel"),
        TOPIC("topic"),
        PLAN("plan"),
        WEEK("week");

        private final String words;

        Dimension(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Which of the clocks of a group. */
    enum Kind {
        MET("met"),
        MISSED("missed"),
        RUNNING("running in time"),
        RISK("due within four working hours");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * Which clocks are counted.
     *
     * @param reachedLate only those that reached their owner late, or only those that did not; empty: both
     */
    public record Scope(
            Instant from,
            Instant to,
            Instant now,
            Optional<String> objective,
            Optional<String> policy,
            Optional<Boolean> reachedLate,
            ZoneId zone) {}

    /**
     * The clocks of a group.
     *
     * @param key what the group is, as a link names it; empty for none
     */
    public record Group(String key, String name, String objective, long met, long missed, long running, long risk) {}

    /** A ticket behind a figure. */
    public record Behind(
            TicketNumber number,
            String subject,
            String objective,
            String state,
            Instant started,
            Optional<Instant> due,
            String owner) {}

    private final DSLContext sql;

    BoardStore(DSLContext sql) {
        this.sql = sql;
    }

    private static Condition overdue(Instant now) {
        return TICKET_CLOCK.DUE_AT.le(now);
    }

    private static Condition live() {
        return TICKET_CLOCK.STATE.in(DSL.inline("RUNNING"), DSL.inline("HELD"));
    }

    /** What one kind of clocks is; a clock that is late is missed from its due time on, even while it runs. */
    private static Condition kind(Kind kind, Scope s) {
        Condition ended = TICKET_CLOCK.ENDED_AT.ge(s.from()).and(TICKET_CLOCK.ENDED_AT.lt(s.to()));
        return switch (kind) {
            case MET -> ended.and(TICKET_CLOCK.STATE.eq(DSL.inline("MET"))).andNot(TICKET_CLOCK.LATE);
            case MISSED ->
                ended.and(TICKET_CLOCK.LATE)
                        .and(TICKET_CLOCK.STATE.in(DSL.inline("MET"), DSL.inline("LIFTED")))
                        .or(live().and(overdue(s.now()))
                                .and(TICKET_CLOCK.DUE_AT.ge(s.from()))
                                .and(TICKET_CLOCK.DUE_AT.lt(s.to())));
            case RUNNING -> live().and(TICKET_CLOCK.DUE_AT.isNull().or(TICKET_CLOCK.DUE_AT.gt(s.now())));
            case RISK ->
                TICKET_CLOCK
                        .STATE
                        .eq(DSL.inline("RUNNING"))
                        .and(TICKET_CLOCK.DUE_AT.gt(s.now()))
                        .and(TICKET_CLOCK.RISK_AT.le(s.now()));
        };
    }

    /** The clocks that any figure is about: one range of an index each. */
    private static Condition any(Scope s) {
        Condition ended = TICKET_CLOCK.ENDED_AT.ge(s.from()).and(TICKET_CLOCK.ENDED_AT.lt(s.to()));
        Condition scope = ended.or(live());
        if (s.objective().isPresent()) {
            scope = scope.and(TICKET_CLOCK.OBJECTIVE.eq(s.objective().get()));
        }
        if (s.policy().isPresent()) {
            scope = scope.and(TICKET_CLOCK.POLICY.eq(s.policy().get()));
        }
        if (s.reachedLate().isPresent()) {
            scope = scope.and(TICKET_CLOCK.REACHED_LATE.eq(s.reachedLate().get()));
        }
        return scope;
    }

    private static Field<String> key(Dimension dimension, ZoneId zone) {
        return switch (dimension) {
            case POLICY -> TICKET_CLOCK.POLICY;
            case TEAM -> DSL.coalesce(TICKET.TEAM_ID.cast(String.class), "");
            case AGENT -> DSL.coalesce(TICKET_CLOCK.OWNER_ID.cast(String.class), "");
            case CHANNEL -> TICKET.CHANNEL;
            case TOPIC -> TICKET.TOPIC;
            case PLAN -> DSL.coalesce(COMPANY.PLAN, "");
            case WEEK ->
                DSL.field(
                        "to_char(date_trunc('week', coalesce({0}, {1}) at time zone {2}), 'YYYY-MM-DD')",
                        String.class, TICKET_CLOCK.ENDED_AT, TICKET_CLOCK.DUE_AT, DSL.inline(zone.getId()));
        };
    }

    private static Field<String> name(Dimension dimension) {
        return switch (dimension) {
            case TEAM -> DSL.coalesce(DSL.max(TEAM.NAME), "no team");
            case AGENT -> DSL.coalesce(DSL.max(PERSON.NAME), "nobody");
            default -> DSL.inline("");
        };
    }

    private static <R extends Record> SelectJoinStep<R> joined(SelectSelectStep<R> select, Viewer viewer) {
        return select.from(TICKET_CLOCK)
                .join(viewer.tickets())
                .on(TICKET.NUMBER.eq(TICKET_CLOCK.TICKET))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .leftJoin(TEAM)
                .on(TEAM.ID.eq(TICKET.TEAM_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(TICKET_CLOCK.OWNER_ID));
    }

    /** The groups of a dimension; for policies each objective by itself, else all objectives together. */
    List<Group> groups(Dimension dimension, Scope s, Viewer viewer) {
        Field<String> key = key(dimension, s.zone()).as("key");
        Field<String> objective =
                (dimension == Dimension.POLICY ? TICKET_CLOCK.OBJECTIVE : DSL.inline("")).as("objective_of");
        return joined(
                        sql.select(
                                key,
                                objective,
                                name(dimension).as("name"),
                                DSL.count().filterWhere(kind(Kind.MET, s)),
                                DSL.count().filterWhere(kind(Kind.MISSED, s)),
                                DSL.count().filterWhere(kind(Kind.RUNNING, s)),
                                DSL.count().filterWhere(kind(Kind.RISK, s))),
                        viewer)
                .where(any(s))
                .groupBy(DSL.field(DSL.name("key")), DSL.field(DSL.name("objective_of")))
                .orderBy(DSL.field(DSL.name("key")))
                .fetch(r ->
                        new Group(r.value1(), r.value3(), r.value2(), r.value4(), r.value5(), r.value6(), r.value7()));
    }

    /** The tickets behind one figure, the latest first. */
    List<Behind> behind(
            Optional<Dimension> dimension, String key, Kind kind, Scope s, int offset, int limit, Viewer viewer) {
        Condition where = any(s).and(kind(kind, s));
        if (dimension.isPresent()) {
            where = where.and(key(dimension.get(), s.zone()).eq(key));
        }
        return joined(
                        sql.select(
                                TICKET.NUMBER,
                                TICKET.SUBJECT,
                                TICKET_CLOCK.OBJECTIVE,
                                TICKET.STATE,
                                TICKET_CLOCK.STARTED_AT,
                                TICKET_CLOCK.DUE_AT,
                                PERSON.NAME),
                        viewer)
                .where(where)
                .orderBy(TICKET_CLOCK.STARTED_AT.desc(), TICKET.NUMBER.desc(), TICKET_CLOCK.OBJECTIVE)
                .offset(offset)
                .limit(limit)
                .fetch(r -> new Behind(
                        r.value1(),
                        r.value2(),
                        r.value3(),
                        r.value4(),
                        r.value5(),
                        Optional.ofNullable(r.value6()),
                        Optional.ofNullable(r.value7()).orElse("nobody")));
    }
}

package rafter.app.handout.queues;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.TICKET_READER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.handout.people.Whereabouts;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.platform.Whens;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Attendance;
import rafter.core.routing.Presence;
import rafter.core.routing.Worker;
import rafter.core.ticket.Turn;

/** The people of the floor: where each is, what they have, have open, have next, and are asked. */
@Component
class FloorPeople {

    /** A page that has not said for so long that it is open is gone. */
    private static final Duration OPEN = Duration.ofSeconds(150);

    private static final Duration LATELY = Duration.ofDays(7);

    /** A ticket that somebody has open, or has next, and since when or by when in words. */
    public record At(TicketNumber ticket, String when) {}

    /** A planned absence in words. */
    public record Planned(long id, String words) {}

    /**
     * Somebody who works here.
     *
     * @param share what they have of what they take, of a hundred at most
     * @param open what they look at just now
     * @param next what of theirs falls due first
     * @param asked the ticket that they are asked about
     * @param answers how they answered lately; for leads alone, else blank
     */
    public record Person(
            PersonId id,
            String name,
            String presence,
            Presence where,
            boolean taking,
            String back,
            String load,
            boolean full,
            long share,
            String channels,
            List<At> open,
            Optional<At> next,
            int late,
            int risk,
            Optional<TicketNumber> asked,
            String answers,
            List<Planned> absences) {}

    private record Trouble(int late, int risk) {
        static final Trouble NONE = new Trouble(0, 0);
    }

    private final DSLContext sql;
    private final Workforce workforce;
    private final Whereabouts whereabouts;
    private final Offers offers;
    private final Channels channels;
    private final Whens whens;
    private final Clock clock;

    FloorPeople(
            DSLContext sql,
            Workforce workforce,
            Whereabouts whereabouts,
            Offers offers,
            Channels channels,
            Whens whens,
            Clock clock) {
        this.sql = sql;
        this.workforce = workforce;
        this.whereabouts = whereabouts;
        this.offers = offers;
        this.channels = channels;
        this.whens = whens;
        this.clock = clock;
    }

    /** What somebody has of what they take at once, in words. */
    static String load(Worker worker) {
        return units(worker.used()) + " of " + units(worker.limit());
    }

    private static String units(double units) {
        return units == Math.rint(units)
                ? Long.toString(Math.round(units))
                : Double.toString(Math.round(units * 10) / 10.0);
    }

    /** Everybody, who is at work first; their tickets as far as somebody sees them. */
    List<Person> people(Viewer me, boolean lead) {
        Instant now = clock.instant();
        Map<PersonId, Attendance> attendances = whereabouts.all();
        Workforce.Staff staff = workforce.staff();
        Map<PersonId, List<At>> open = open(me, now);
        Map<PersonId, At> next = next(me);
        Map<PersonId, Trouble> trouble = trouble(me, now);
        Map<PersonId, TicketNumber> asked =
                offers.open().values().stream().collect(Collectors.toMap(Offers.Offer::person, Offers.Offer::ticket));
        Map<PersonId, Offers.Answers> answers = lead ? offers.answers(now.minus(LATELY)) : Map.of();
        return staff.workers().stream()
                .sorted(Comparator.comparing(Worker::presence).thenComparing(Worker::name))
                .map(one -> {
                    boolean seen = lead || one.id().equals(me.id());
                    Optional<Attendance> attendance = Optional.ofNullable(attendances.get(one.id()));
                    Trouble has = trouble.getOrDefault(one.id(), Trouble.NONE);
                    return new Person(
                            one.id(),
                            one.name(),
                            presence(one, attendance, now),
                            one.presence(),
                            one.taking(),
                            back(attendance, now),
                            load(one),
                            one.load() > 1,
                            Math.min(100, Math.round(100 * Math.min(1, one.load()))),
                            ofChannels(
                                    staff.loads().getOrDefault(one.id(), List.of()),
                                    staff.rooms().getOrDefault(one.id(), 0)),
                            open.getOrDefault(one.id(), List.of()),
                            Optional.ofNullable(next.get(one.id())),
                            has.late(),
                            has.risk(),
                            Optional.ofNullable(asked.get(one.id())).filter(ticket -> seen),
                            answered(answers.getOrDefault(one.id(), Offers.Answers.NONE)),
                            seen ? attendance.map(this::planned).orElse(List.of()) : List.of());
                })
                .toList();
    }

    private String back(Optional<Attendance> attendance, Instant now) {
        return attendance.flatMap(known -> known.back(now)).map(whens::say).orElse("");
    }

    private static String presence(Worker one, Optional<Attendance> attendance, Instant now) {
        String why = attendance.map(known -> known.at(now).reason()).orElse("");
        return one.presence().words()
                + (why.isBlank() ? "" : ", " + why)
                + (one.presence() == Presence.HERE && !one.taking() ? ", takes no work" : "");
    }

    private List<Planned> planned(Attendance attendance) {
        return attendance.absences().stream()
                .map(one -> new Planned(
                        one.id(),
                        whens.say(one.from()) + " to " + whens.say(one.to())
                                + (one.reason().isBlank() ? "" : ", " + one.reason())))
                .toList();
    }

    private String ofChannels(List<Workforce.OfChannel> all, int rooms) {
        Stream<String> room = rooms == 0 ? Stream.empty() : Stream.of(rooms + (rooms == 1 ? " room" : " rooms"));
        return Stream.concat(all.stream().map(one -> one.tickets() + " " + channels.name(one.channel())), room)
                .collect(Collectors.joining(", "));
    }

    /** Passing is nobody's fault by itself, so it is told with how often somebody was asked. */
    private static String answered(Offers.Answers answers) {
        return answers.asked() == 0
                ? ""
                : "asked " + answers.asked() + ", took " + answers.taken() + ", passed " + answers.passed() + ", "
                        + answers.ranOut() + " ran out";
    }

    private Map<PersonId, List<At>> open(Viewer me, Instant now) {
        return sql.select(TICKET_READER.PERSON_ID, TICKET_READER.TICKET, TICKET_READER.SINCE_AT)
                .from(TICKET_READER)
                .where(TICKET_READER.SEEN_AT.gt(now.minus(OPEN)))
                .and(me.sees(TICKET_READER.TICKET))
                .orderBy(TICKET_READER.SINCE_AT.desc())
                .fetchGroups(r -> r.value1(), r -> new At(r.value2(), Say.worked(Duration.between(r.value3(), now))));
    }

    /** Of each the ticket of theirs that falls due first. */
    private Map<PersonId, At> next(Viewer me) {
        return sql.select(TICKET.OWNER_ID, TICKET.NUMBER, TICKET.NEXT_DUE)
                .distinctOn(TICKET.OWNER_ID)
                .from(me.tickets())
                .where(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TICKET.NEXT_DUE.isNotNull())
                .orderBy(TICKET.OWNER_ID, TICKET.NEXT_DUE, TICKET.NUMBER)
                .fetchMap(r -> r.value1(), r -> new At(r.value2(), whens.say(r.value3())));
    }

    private Map<PersonId, Trouble> trouble(Viewer me, Instant now) {
        Field<Integer> late = DSL.countDistinct(TICKET_CLOCK.TICKET).filterWhere(TICKET_CLOCK.DUE_AT.le(now));
        Field<Integer> risk = DSL.countDistinct(TICKET_CLOCK.TICKET).filterWhere(TICKET_CLOCK.DUE_AT.gt(now));
        return sql.select(TICKET.OWNER_ID, late, risk)
                .from(me.tickets())
                .join(TICKET_CLOCK)
                .on(TICKET_CLOCK.TICKET.eq(TICKET.NUMBER))
                .where(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET_CLOCK.STATE.eq(DSL.inline("RUNNING")))
                .and(TICKET_CLOCK.RISK_AT.le(now))
                .groupBy(TICKET.OWNER_ID)
                .fetchMap(r -> r.value1(), r -> new Trouble(r.value2(), r.value3()));
    }
}

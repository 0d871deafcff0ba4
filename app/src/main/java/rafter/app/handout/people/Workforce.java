package rafter.app.handout.people;

import static rafter.database.Tables.CALL;
import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.OFFER;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.WORKING;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.routing.Attendance;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Presence;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Worker;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.WorkingRecord;

/** Everybody who works here, with where they are, what they can, and how much they have and take at once. */
@Component
public class Workforce {

    public static final int FEWEST = 0;
    public static final int MOST = 100;
    private static final int USUAL = 8;
    private static final int MOST_LANGUAGES = 10;

    /**
     * How somebody stands.
     *
     * @param where where they are now, whoever or whatever says so
     * @param units how much they take at once
     * @param calendar of their own hours; blank: their team's
     * @param languages that they write, as tags
     */
    public record Standing(Attendance.Where where, boolean taking, int units, String calendar, List<String> languages) {
        static final Standing OFF = new Standing(new Attendance.Where(Presence.OFF, ""), true, USUAL, "", List.of());

        public Presence presence() {
            return where.presence();
        }

        public String reason() {
            return where.reason();
        }
    }

    private final DSLContext sql;
    private final Persons persons;
    private final Skills skills;
    private final Whereabouts whereabouts;
    private final HandOutSettings settings;
    private final ConsultSettings consults;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;

    Workforce(
            DSLContext sql,
            Persons persons,
            Skills skills,
            Whereabouts whereabouts,
            HandOutSettings settings,
            ConsultSettings consults,
            Audit audit,
            Guard guard,
            Clock clock) {
        this.sql = sql;
        this.persons = persons;
        this.skills = skills;
        this.whereabouts = whereabouts;
        this.settings = settings;
        this.consults = consults;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    /** How everybody stands of whom anything is known. */
    public Map<PersonId, Standing> standings() {
        Instant now = clock.instant();
        var all = new HashMap<PersonId, Standing>();
        whereabouts
                .all()
                .forEach((person, attendance) ->
                        all.put(person, new Standing(attendance.at(now), true, USUAL, "", List.of())));
        sql.selectFrom(WORKING)
                .forEach(r ->
                        all.computeIfPresent(r.getPersonId(), (person, standing) -> standing(standing.where(), r)));
        return all;
    }

    private static Standing standing(Attendance.Where where, WorkingRecord said) {
        return new Standing(where, said.getTaking(), said.getUnits(), said.getCalendar(), List.of(said.getLanguages()));
    }

    /** How somebody stands. */
    public Standing standing(PersonId person) {
        Attendance.Where where = whereabouts.of(person).at(clock.instant());
        return sql.selectFrom(WORKING)
                .where(WORKING.PERSON_ID.eq(person))
                .fetchOptional(r -> standing(where, r))
                .orElseGet(() -> new Standing(where, true, USUAL, "", List.of()));
    }

    /**
     * Everybody who works here, with what they have just now: of each open ticket of theirs on which it is our turn, and of each that they are
     * asked about, so much as its channel takes; and of each room that they are in.
     */
    public List<Worker> workers() {
        return staff().workers();
    }

    /**
     * Everybody with what they have, read once.
     *
     * @param loads how much each has, by channel
     * @param rooms in how many rooms each is
     */
    public record Staff(List<Worker> workers, Map<PersonId, List<OfChannel>> loads, Map<PersonId, Integer> rooms) {}

    /** Everybody with what they have. */
    public Staff staff() {
        Map<PersonId, Standing> standings = standings();
        Map<PersonId, Map<SkillId, SkillLevel>> levels = skills.levels();
        Map<PersonId, List<OfChannel>> loads = loads();
        Map<PersonId, Integer> rooms = rooms();
        Map<PersonId, Double> used = used(loads, rooms);
        Map<PersonId, Set<TeamId>> teams = teams();
        Set<PersonId> calling = calling();
        HandOutRules rules = settings.rules();
        List<Worker> workers = persons.active().stream()
                .map(person -> worker(
                        person,
                        standings.getOrDefault(person.id(), Standing.OFF),
                        levels.getOrDefault(person.id(), Map.of()),
                        used.getOrDefault(person.id(), 0.0),
                        calling.contains(person.id()),
                        teams.getOrDefault(person.id(), Set.of()),
                        rules))
                .toList();
        return new Staff(workers, loads, rooms);
    }

    private static Worker worker(
            Person person,
            Standing standing,
            Map<SkillId, SkillLevel> levels,
            double used,
            boolean calling,
            Set<TeamId> teams,
            HandOutRules rules) {
        double limit = rules.limit(standing.units(), levels.values());
        return new Worker(
                person.id(),
                person.name(),
                teams,
                levels,
                standing.presence(),
                standing.taking(),
                // A call takes all of somebody, and so does what is written down after it.
                calling ? Math.max(used, limit) : used,
                limit,
                Set.copyOf(standing.languages()));
    }

    /** Who is on the telephone, or not free yet after a call. */
    private Set<PersonId> calling() {
        return sql.select(CALL.PERSON_ID)
                .from(CALL)
                .where(CALL.ENDED_AT.isNull().and(CALL.STATE.ne("WAITING")).or(CALL.AFTER_UNTIL.gt(clock.instant())))
                .and(CALL.PERSON_ID.isNotNull())
                .fetchSet(CALL.PERSON_ID);
    }

    private Map<PersonId, Set<TeamId>> teams() {
        var all = new HashMap<PersonId, Set<TeamId>>();
        for (Team team : persons.teams()) {
            for (PersonId person : persons.membersOf(team.id())) {
                all.computeIfAbsent(person, id -> new HashSet<>()).add(team.id());
            }
        }
        return all;
    }

    /** A channel with what somebody has of it. */
    public record OfChannel(String channel, int tickets, double units) {}

    /** How much each has, by channel: what waits for the customer or a partner takes nobody's time. */
    private Map<PersonId, List<OfChannel>> loads() {
        HandOutRules rules = settings.rules();
        return sql.select(TICKET.OWNER_ID, TICKET.CHANNEL, DSL.count())
                .from(TICKET)
                .where(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TICKET.DISCARDED.isFalse())
                .groupBy(TICKET.OWNER_ID, TICKET.CHANNEL)
                .orderBy(TICKET.OWNER_ID, TICKET.CHANNEL)
                .fetchGroups(
                        r -> r.value1(),
                        r -> new OfChannel(r.value2(), r.value3(), r.value3() * rules.units(r.value2())));
    }

    private Map<PersonId, Double> used(Map<PersonId, List<OfChannel>> loads, Map<PersonId, Integer> rooms) {
        HandOutRules rules = settings.rules();
        var used = new HashMap<PersonId, Double>();
        loads.forEach((person, all) ->
                used.put(person, all.stream().mapToDouble(OfChannel::units).sum()));
        sql.select(OFFER.PERSON_ID, TICKET.CHANNEL)
                .from(OFFER)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(OFFER.TICKET))
                .where(OFFER.STATE.eq("OPEN"))
                .forEach(r -> used.merge(r.value1(), rules.units(r.value2()), Double::sum));
        double room = consults.rules().units();
        rooms.forEach((person, count) -> used.merge(person, count * room, Double::sum));
        return used;
    }

    /** In how many rooms each is just now. */
    private Map<PersonId, Integer> rooms() {
        return sql.select(CONSULT_GUEST.PERSON_ID, DSL.count())
                .from(CONSULT_GUEST)
                .join(CONSULT)
                .on(CONSULT.ID.eq(CONSULT_GUEST.CONSULT_ID))
                .where(CONSULT.STATE.eq("OPEN"))
                .and(CONSULT_GUEST.STATE.eq("TAKEN"))
                .and(CONSULT_GUEST.PERSON_ID.isNotNull())
                .groupBy(CONSULT_GUEST.PERSON_ID)
                .fetchMap(r -> r.value1(), r -> r.value2());
    }

    // ------------------------------------------------------------------ changing it

    /** Says how much somebody takes at once. */
    @Transactional
    public void limit(PersonId person, int units, PersonId by) {
        guard.houseRules(by);
        if (units < FEWEST || units > MOST) {
            throw new Problem.Invalid(
                    "How much somebody takes at once is a number from " + FEWEST + " to " + MOST + ".");
        }
        sql.insertInto(WORKING)
                .set(WORKING.PERSON_ID, person)
                .set(WORKING.UNITS, units)
                .set(WORKING.SINCE, Instant.EPOCH)
                .onConflict(WORKING.PERSON_ID)
                .doUpdate()
                .set(WORKING.UNITS, units)
                .execute();
        audit.note(by, "changed how much somebody takes at once", person + ": " + units);
    }

    /**
     * Says which languages somebody writes.
     *
     * @param typed tags such as “en” and “de-CH”, with commas or spaces between them
     * @throws Problem.Invalid when one is no tag
     */
    @Transactional
    public void languages(PersonId person, String typed, PersonId by) {
        guard.houseRules(by);
        String[] tags = Arrays.stream(typed.split("[,\\s]+"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toArray(String[]::new);
        Optional<String> wrong = Arrays.stream(tags)
                .filter(tag -> !tag.matches("[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}"))
                .findFirst();
        if (wrong.isPresent() || tags.length > MOST_LANGUAGES) {
            throw new Problem.Invalid(
                    "“" + wrong.orElse(typed) + "” does not name languages. Write tags with commas, like en, de.");
        }
        sql.insertInto(WORKING)
                .set(WORKING.PERSON_ID, person)
                .set(WORKING.LANGUAGES, tags)
                .set(WORKING.SINCE, Instant.EPOCH)
                .onConflict(WORKING.PERSON_ID)
                .doUpdate()
                .set(WORKING.LANGUAGES, tags)
                .execute();
    }
}

package rafter.app.handout.people;

import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.WORKING;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.routing.Presence;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Worker;
import rafter.core.ticket.Turn;

/** Who is here, takes work, and how much they have and take at once. */
@Component
public class Workforce {

    public static final int FEWEST = 0;
    public static final int MOST = 100;
    private static final int USUAL = 8;
    private static final int LONGEST_REASON = 60;

    /**
     * How somebody stands.
     *
     * @param units how much they take at once
     */
    public record Standing(Presence presence, String reason, boolean taking, int units, Optional<Instant> since) {
        static final Standing OFF = new Standing(Presence.OFF, "", true, USUAL, Optional.empty());
    }

    private final DSLContext sql;
    private final Persons persons;
    private final Skills skills;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;

    Workforce(DSLContext sql, Persons persons, Skills skills, Audit audit, Guard guard, Clock clock) {
        this.sql = sql;
        this.persons = persons;
        this.skills = skills;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    /** How everybody stands who ever said so. */
    public Map<PersonId, Standing> standings() {
        return sql.selectFrom(WORKING)
                .fetchMap(
                        WORKING.PERSON_ID,
                        r -> new Standing(
                                Presence.valueOf(r.getPresence()),
                                r.getReason(),
                                r.getTaking(),
                                r.getUnits(),
                                Optional.of(r.getSince())));
    }

    /** How somebody stands. */
    public Standing standing(PersonId person) {
        return standings().getOrDefault(person, Standing.OFF);
    }

    /** Everybody who works here, with what they have just now: of each open ticket of theirs on which it is our turn one unit. */
    public List<Worker> workers() {
        Map<PersonId, Standing> standings = standings();
        Map<PersonId, Map<SkillId, SkillLevel>> levels = skills.levels();
        Map<PersonId, Integer> used = used();
        Map<PersonId, Set<TeamId>> teams = teams();
        return persons.active().stream()
                .map(person -> worker(
                        person,
                        standings.getOrDefault(person.id(), Standing.OFF),
                        levels.getOrDefault(person.id(), Map.of()),
                        used.getOrDefault(person.id(), 0),
                        teams.getOrDefault(person.id(), Set.of())))
                .toList();
    }

    private static Worker worker(
            Person person, Standing standing, Map<SkillId, SkillLevel> levels, int used, Set<TeamId> teams) {
        return new Worker(
                person.id(),
                person.name(),
                teams,
                levels,
                standing.presence(),
                standing.taking(),
                used,
                standing.units(),
                Set.of());
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

    /** How much each has: what waits for the customer or a partner takes nobody's time. */
    private Map<PersonId, Integer> used() {
        return new TreeMap<>(sql.select(TICKET.OWNER_ID, DSL.count())
                .from(TICKET)
                .where(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TICKET.DISCARDED.isFalse())
                .groupBy(TICKET.OWNER_ID)
                .fetchMap(TICKET.OWNER_ID, DSL.count()));
    }

    // ------------------------------------------------------------------ changing it

    /** Somebody says whether they are here and take work. */
    @Transactional
    public void say(Presence presence, String reason, boolean taking, Viewer me) {
        Access.require(me, Right.WORK);
        if (reason.strip().length() > LONGEST_REASON) {
            throw new Problem.Invalid("A reason has at most " + LONGEST_REASON + " letters.");
        }
        var row = standing(me.id());
        write(me.id(), presence, presence == Presence.AWAY ? reason.strip() : "", taking, row.units());
    }

    /** Says how much somebody takes at once. */
    @Transactional
    public void limit(PersonId person, int units, PersonId by) {
        guard.houseRules(by);
        if (units < FEWEST || units > MOST) {
            throw new Problem.Invalid(
                    "How much somebody takes at once is a number from " + FEWEST + " to " + MOST + ".");
        }
        Standing was = standing(person);
        write(person, was.presence(), was.reason(), was.taking(), units);
        audit.note(by, "changed how much somebody takes at once", person + ": " + units);
    }

    private void write(PersonId person, Presence presence, String reason, boolean taking, int units) {
        sql.insertInto(WORKING)
                .set(WORKING.PERSON_ID, person)
                .set(WORKING.PRESENCE, presence.name())
                .set(WORKING.REASON, reason)
                .set(WORKING.TAKING, taking)
                .set(WORKING.UNITS, units)
                .set(WORKING.SINCE, clock.instant())
                .onConflict(WORKING.PERSON_ID)
                .doUpdate()
                .setAllToExcluded()
                .execute();
    }
}

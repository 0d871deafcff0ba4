package rafter.app.handout.people;

import static rafter.database.Tables.ABSENCE;
import static rafter.database.Tables.PRESENCE_LOG;
import static rafter.database.Tables.TEAM_HOURS;
import static rafter.database.Tables.TEAM_MEMBER;
import static rafter.database.Tables.WORKING;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.TableField;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.routing.Attendance;
import rafter.core.routing.Presence;

/** Who is where: as they say, as a lead says, as their hours and their planned absences say, and whether a page of theirs is open. */
@Component
public class Whereabouts {

    /** A page renews every minute that it is open; after this long without that, nobody is there. */
    public static final Duration LEASE = Duration.ofMinutes(3);

    static final int LONGEST_REASON = 60;
    private static final Duration LONGEST_ABSENCE = Duration.ofDays(366);
    private static final Attendance NEVER_SAID =
            new Attendance(Presence.OFF, "", Optional.empty(), false, Optional.empty(), List.of(), Optional.empty());

    private final DSLContext sql;
    private final Hours hours;
    private final HandOutSettings settings;
    private final Persons persons;
    private final LiveNews news;
    private final Audit audit;
    private final Guard guard;
    private final Clock clock;

    Whereabouts(
            DSLContext sql,
            Hours hours,
            HandOutSettings settings,
            Persons persons,
            LiveNews news,
            Audit audit,
            Guard guard,
            Clock clock) {
        this.sql = sql;
        this.hours = hours;
        this.settings = settings;
        this.persons = persons;
        this.news = news;
        this.audit = audit;
        this.guard = guard;
        this.clock = clock;
    }

    /** What is known of everybody of whom anything is. */
    public Map<PersonId, Attendance> all() {
        return known(Optional.empty());
    }

    /** What is known of somebody, or of everybody. */
    private Map<PersonId, Attendance> known(Optional<PersonId> one) {
        Function<TableField<?, PersonId>, Condition> wanted =
                whose -> one.<Condition>map(whose::eq).orElse(DSL.noCondition());
        Map<PersonId, List<Attendance.Absence>> absences = absences(wanted.apply(ABSENCE.PERSON_ID));
        Map<PersonId, String> ofTeams = ofTeams(wanted.apply(TEAM_MEMBER.PERSON_ID));
        var all = new HashMap<PersonId, Attendance>();
        ofTeams.forEach((person, calendar) -> all.put(
                person,
                new Attendance(
                        Presence.OFF,
                        "",
                        Optional.empty(),
                        false,
                        Optional.empty(),
                        absences.getOrDefault(person, List.of()),
                        hours.of(calendar))));
        sql.selectFrom(WORKING)
                .where(wanted.apply(WORKING.PERSON_ID))
                .forEach(r -> all.put(
                        r.getPersonId(),
                        new Attendance(
                                Presence.valueOf(r.getPresence()),
                                r.getReason(),
                                Optional.of(r.getSince()),
                                r.getIdle(),
                                Optional.ofNullable(r.getSeenUntil()),
                                absences.getOrDefault(r.getPersonId(), List.of()),
                                hours.of(
                                        r.getCalendar().isEmpty()
                                                ? ofTeams.getOrDefault(r.getPersonId(), "")
                                                : r.getCalendar()))));
        absences.forEach((person, planned) -> all.putIfAbsent(
                person,
                new Attendance(
                        Presence.OFF, "", Optional.empty(), false, Optional.empty(), planned, Optional.empty())));
        return all;
    }

    /** What is known of somebody. */
    public Attendance of(PersonId person) {
        return known(Optional.of(person)).getOrDefault(person, NEVER_SAID);
    }

    /** The names of the calendars by which people can work, by their ids. */
    public Map<String, String> calendars() {
        var names = new LinkedHashMap<String, String>();
        hours.calendars().forEach(plan -> names.put(plan.id(), plan.name()));
        return names;
    }

    /** Of somebody who says nothing, and is there as a calendar says; blank: always. */
    public Attendance byHours(String calendar) {
        return new Attendance(
                Presence.HERE, "", Optional.empty(), false, Optional.of(Instant.MAX), List.of(), hours.of(calendar));
    }

    private Map<PersonId, List<Attendance.Absence>> absences(Condition whose) {
        return sql.selectFrom(ABSENCE)
                .where(ABSENCE.TO_AT.gt(clock.instant()))
                .and(whose)
                .orderBy(ABSENCE.FROM_AT)
                .fetchGroups(
                        ABSENCE.PERSON_ID,
                        r -> new Attendance.Absence(r.getId(), r.getFromAt(), r.getToAt(), r.getReason()));
    }

    /** Whose team has hours; of several teams the first counts. */
    private Map<PersonId, String> ofTeams(Condition whose) {
        var all = new HashMap<PersonId, String>();
        sql.select(TEAM_MEMBER.PERSON_ID, TEAM_HOURS.CALENDAR)
                .from(TEAM_MEMBER)
                .join(TEAM_HOURS)
                .on(TEAM_HOURS.TEAM_ID.eq(TEAM_MEMBER.TEAM_ID))
                .where(whose)
                .orderBy(TEAM_MEMBER.TEAM_ID)
                .forEach(r -> all.putIfAbsent(r.value1(), r.value2()));
        return all;
    }

    // ------------------------------------------------------------------ saying it

    /** Somebody says whether they are here and take work. */
    @Transactional
    public void say(Presence presence, String reason, boolean taking, Viewer me) {
        Access.require(me, Right.WORK);
        write(me.id(), presence, reason, taking);
    }

    /**
     * A lead says it for somebody else.
     *
     * @throws Problem.Forbidden when they are no lead
     */
    @Transactional
    public void sayFor(PersonId person, Presence presence, String reason, boolean taking, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        String name = persons.find(person)
                .map(one -> one.name())
                .orElseThrow(() -> new Problem.NotFound("There is no such person."));
        write(person, presence, reason, taking);
        audit.note(lead.id(), "said where somebody is", name + ": " + presence.words());
    }

    private void write(PersonId person, Presence presence, String reason, boolean taking) {
        if (reason.strip().length() > LONGEST_REASON) {
            throw new Problem.Invalid("A reason has at most " + LONGEST_REASON + " letters.");
        }
        Instant now = clock.instant();
        Instant seen = now.plus(LEASE);
        sql.insertInto(WORKING)
                .set(WORKING.PERSON_ID, person)
                .set(WORKING.PRESENCE, presence.name())
                .set(WORKING.REASON, presence == Presence.AWAY ? reason.strip() : "")
                .set(WORKING.TAKING, taking)
                .set(WORKING.SINCE, now)
                .set(WORKING.SEEN_UNTIL, seen)
                .onConflict(WORKING.PERSON_ID)
                .doUpdate()
                .set(WORKING.PRESENCE, presence.name())
                .set(WORKING.REASON, presence == Presence.AWAY ? reason.strip() : "")
                .set(WORKING.TAKING, taking)
                .set(WORKING.SINCE, now)
                .set(WORKING.IDLE, false)
                // Demo worlds and leads lend further than a page does.
                .set(WORKING.SEEN_UNTIL, DSL.greatest(WORKING.SEEN_UNTIL, DSL.val(seen)))
                .execute();
        log(person, presence, taking);
        news.floorChanged();
    }

    private void log(PersonId person, Presence presence, boolean taking) {
        sql.insertInto(PRESENCE_LOG)
                .set(PRESENCE_LOG.AT, clock.instant())
                .set(PRESENCE_LOG.PERSON_ID, person)
                .set(PRESENCE_LOG.PRESENCE, presence.name())
                .set(PRESENCE_LOG.TAKING, taking)
                .execute();
    }

    /**
     * A page of somebody's is open: they count as there for a while more. Who touched nothing for as long as the workspace says is set away, and
     * comes back by touching something.
     *
     * @param idle how long they have touched nothing on that page
     */
    @Transactional
    public void beat(Viewer me, Duration idle) {
        Instant now = clock.instant();
        sql.update(WORKING)
                .set(WORKING.SEEN_UNTIL, now.plus(LEASE))
                .where(WORKING.PERSON_ID.eq(me.id()))
                .and(WORKING.SEEN_UNTIL.isNull().or(WORKING.SEEN_UNTIL.lt(now.plus(LEASE))))
                .execute();
        Optional<Duration> after = settings.rules().idleAfter();
        boolean away = after.filter(limit -> idle.compareTo(limit) >= 0).isPresent();
        int changed = away
                ? sql.update(WORKING)
                        .set(WORKING.PRESENCE, Presence.AWAY.name())
                        .set(WORKING.IDLE, true)
                        .set(WORKING.SINCE, now)
                        .where(WORKING.PERSON_ID.eq(me.id()))
                        .and(WORKING.PRESENCE.eq(Presence.HERE.name()))
                        .execute()
                : sql.update(WORKING)
                        .set(WORKING.PRESENCE, Presence.HERE.name())
                        .set(WORKING.IDLE, false)
                        .set(WORKING.SINCE, now)
                        .where(WORKING.PERSON_ID.eq(me.id()))
                        .and(WORKING.IDLE)
                        .execute();
        if (changed > 0) {
            log(me.id(), away ? Presence.AWAY : Presence.HERE, true);
            news.floorChanged();
        }
    }

    // ------------------------------------------------------------------ what is planned

    /**
     * Plans that somebody is not there; people plan their own, leads everybody's.
     *
     * @throws Problem.Invalid when it ends before it begins, is over already, or longer than a year
     */
    @Transactional
    public void plan(PersonId person, Instant from, Instant to, String reason, Viewer by) {
        Access.require(by, person.equals(by.id()) ? Right.WORK : Right.HAND_OVER_ANY);
        if (!to.isAfter(from)) {
            throw new Problem.Invalid("An absence ends after it begins.");
        }
        if (!to.isAfter(clock.instant())) {
            throw new Problem.Invalid("That is over already. Plan what is to come.");
        }
        if (Duration.between(from, to).compareTo(LONGEST_ABSENCE) > 0) {
            throw new Problem.Invalid("An absence lasts at most a year.");
        }
        if (reason.strip().length() > LONGEST_REASON) {
            throw new Problem.Invalid("A reason has at most " + LONGEST_REASON + " letters.");
        }
        sql.insertInto(ABSENCE)
                .set(ABSENCE.PERSON_ID, person)
                .set(ABSENCE.FROM_AT, from)
                .set(ABSENCE.TO_AT, to)
                .set(ABSENCE.REASON, reason.strip())
                .execute();
        news.floorChanged();
    }

    /** Takes a planned absence away. */
    @Transactional
    public void unplan(long absence, Viewer by) {
        PersonId person = sql.select(ABSENCE.PERSON_ID)
                .from(ABSENCE)
                .where(ABSENCE.ID.eq(absence))
                .fetchOptional(ABSENCE.PERSON_ID)
                .orElseThrow(() -> new Problem.NotFound("That absence is not planned any more."));
        Access.require(by, person.equals(by.id()) ? Right.WORK : Right.HAND_OVER_ANY);
        sql.deleteFrom(ABSENCE).where(ABSENCE.ID.eq(absence)).execute();
        news.floorChanged();
    }

    /** Says by which calendar somebody works; blank: by that of their team. */
    @Transactional
    public void calendar(PersonId person, String calendar, PersonId by) {
        guard.houseRules(by);
        known(calendar);
        sql.insertInto(WORKING)
                .set(WORKING.PERSON_ID, person)
                .set(WORKING.CALENDAR, calendar)
                .set(WORKING.SINCE, Instant.EPOCH)
                .onConflict(WORKING.PERSON_ID)
                .doUpdate()
                .set(WORKING.CALENDAR, calendar)
                .execute();
    }

    /** Says by which calendar the people of a team work who have none of their own; blank: by none. */
    @Transactional
    public void teamCalendar(TeamId team, String calendar, PersonId by) {
        guard.houseRules(by);
        known(calendar);
        sql.deleteFrom(TEAM_HOURS).where(TEAM_HOURS.TEAM_ID.eq(team)).execute();
        if (!calendar.isEmpty()) {
            sql.insertInto(TEAM_HOURS)
                    .set(TEAM_HOURS.TEAM_ID, team)
                    .set(TEAM_HOURS.CALENDAR, calendar)
                    .execute();
        }
        audit.note(by, "changed the hours of a team", team + ": " + calendar);
    }

    /** The calendars of teams that have one. */
    public Map<TeamId, String> teamCalendars() {
        return sql.selectFrom(TEAM_HOURS).fetchMap(TEAM_HOURS.TEAM_ID, TEAM_HOURS.CALENDAR);
    }

    private void known(String calendar) {
        boolean there = calendar.isEmpty()
                || hours.calendars().stream().anyMatch(plan -> plan.id().equals(calendar));
        if (!there) {
            throw new Problem.Invalid("There is no such calendar any more. Nothing was changed.");
        }
    }
}

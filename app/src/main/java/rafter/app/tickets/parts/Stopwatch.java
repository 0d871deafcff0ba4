package rafter.app.tickets.parts;

import static rafter.database.Tables.STOPWATCH;
import static rafter.database.Tables.WATCH_CHOICE;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalInt;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Awaiting;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Work;
import rafter.database.tables.records.StopwatchRecord;

/** The watch with which a person measures the time that they spend: one at a time, on one ticket, wherever in Rafter they are. */
@Component
public class Stopwatch implements Awaiting {

    /** Left running over a night, it says nothing; more than this is cut and said. */
    static final Duration LONGEST = Duration.ofHours(12);

    /**
     * A watch.
     *
     * @param began when it was started
     * @param since since when it runs; nothing: it is paused
     * @param before what it had measured before that
     */
    public record Running(TicketNumber ticket, Instant began, Optional<Instant> since, Duration before) {

        /** What it has measured by now. */
        public Duration measured(Instant now) {
            return before.plus(since.filter(now::isAfter)
                    .map(from -> Duration.between(from, now))
                    .orElse(Duration.ZERO));
        }

        /** Whether it runs. */
        public boolean runs() {
            return since.isPresent();
        }
    }

    /**
     * What a stopped watch came to.
     *
     * @param time what was written down; nothing: it was too short to count
     * @param cut whether it had run so long that only a part was written down
     */
    public record Stopped(TicketNumber ticket, Optional<Duration> time, boolean cut) {}

    private final DSLContext sql;
    private final Acts acts;
    private final Viewers viewers;
    private final Clock clock;

    Stopwatch(DSLContext sql, Acts acts, Viewers viewers, Clock clock) {
        this.sql = sql;
        this.acts = acts;
        this.viewers = viewers;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "watch";
    }

    /** A watch that runs or is paused, and whether one is to be started by itself. */
    @Override
    public Field<Integer> waitingFor(Viewer me) {
        return Awaiting.count(STOPWATCH, STOPWATCH.PERSON_ID.eq(me.id()))
                .plus(Awaiting.count(
                        WATCH_CHOICE, WATCH_CHOICE.PERSON_ID.eq(me.id()).and(WATCH_CHOICE.STARTS)));
    }

    /** The watch that a person has. */
    public Optional<Running> of(PersonId person) {
        return sql.selectFrom(STOPWATCH)
                .where(STOPWATCH.PERSON_ID.eq(person))
                .fetchOptional(r -> new Running(
                        r.getTicket(),
                        r.getBeganAt(),
                        Optional.ofNullable(r.getSince()),
                        Duration.ofSeconds(r.getGatheredSeconds())));
    }

    /**
     * Starts a watch on a ticket; one on another ticket is stopped, and its time written down there.
     *
     * @return what the other one came to
     */
    @Transactional
    public Optional<Stopped> start(TicketNumber ticket, Viewer me) {
        Access.require(me, Right.WORK);
        viewers.insist(me, ticket);
        Optional<Running> there = hold(me);
        if (there.filter(one -> one.ticket().equals(ticket)).isPresent()) {
            resume(me);
            return Optional.empty();
        }
        Optional<Stopped> other = there.map(one -> stop(one, "", "", false, me));
        Instant now = clock.instant();
        sql.insertInto(STOPWATCH)
                .set(STOPWATCH.PERSON_ID, me.id())
                .set(STOPWATCH.TICKET, ticket)
                .set(STOPWATCH.BEGAN_AT, now)
                .set(STOPWATCH.SINCE, now)
                .onConflictDoNothing()
                .execute();
        return other;
    }

    private Optional<Running> hold(Viewer me) {
        sql.select(STOPWATCH.TICKET)
                .from(STOPWATCH)
                .where(STOPWATCH.PERSON_ID.eq(me.id()))
                .forUpdate()
                .fetch();
        return of(me.id());
    }

    /**
     * How a person wants their watch to go by itself.
     *
     * @param starts whether it starts on a ticket that they open
     * @param idleMinutes after so long in which they did nothing it pauses; 0: never
     */
    public record Choice(boolean starts, int idleMinutes) {
        static final Choice NONE = new Choice(false, 0);
    }

    /** What a person chose. */
    public Choice choice(PersonId person) {
        return sql.selectFrom(WATCH_CHOICE)
                .where(WATCH_CHOICE.PERSON_ID.eq(person))
                .fetchOptional(r -> new Choice(r.getStarts(), r.getIdleMinutes()))
                .orElse(Choice.NONE);
    }

    /**
     * Notes what a person chose.
     *
     * @throws Problem.Invalid when it is no sensible time
     */
    @Transactional
    public void choose(Choice choice, Viewer me) {
        Access.require(me, Right.WORK);
        if (choice.idleMinutes() < 0 || choice.idleMinutes() > 120) {
            throw new Problem.Invalid("It pauses after 1 to 120 minutes, or with 0 never. Nothing was changed.");
        }
        sql.insertInto(WATCH_CHOICE)
                .set(WATCH_CHOICE.PERSON_ID, me.id())
                .set(WATCH_CHOICE.STARTS, choice.starts())
                .set(WATCH_CHOICE.IDLE_MINUTES, choice.idleMinutes())
                .onConflict(WATCH_CHOICE.PERSON_ID)
                .doUpdate()
                .set(WATCH_CHOICE.STARTS, choice.starts())
                .set(WATCH_CHOICE.IDLE_MINUTES, choice.idleMinutes())
                .execute();
    }

    /** Pauses the watch; time goes by without being measured. */
    @Transactional
    public void pause(Viewer me) {
        pause(Duration.ZERO, me);
    }

    /**
     * Pauses the watch as though it had been done a while ago.
     *
     * @param idle for so long nothing was done; it does not count
     */
    @Transactional
    public void pause(Duration idle, Viewer me) {
        Duration ago = idle.isNegative() || idle.compareTo(LONGEST) > 0 ? Duration.ZERO : idle;
        Instant now = clock.instant().minus(ago);
        hold(me).filter(Running::runs).ifPresent(one -> {
            StopwatchRecord row = new StopwatchRecord();
            row.setSince(null);
            row.touched(STOPWATCH.SINCE, true);
            row.setGatheredSeconds((int) one.measured(now).toSeconds());
            sql.update(STOPWATCH)
                    .set(row)
                    .where(STOPWATCH.PERSON_ID.eq(me.id()))
                    .execute();
        });
    }

    /** Lets a paused watch run on. */
    @Transactional
    public void resume(Viewer me) {
        sql.update(STOPWATCH)
                .set(STOPWATCH.SINCE, clock.instant())
                .where(STOPWATCH.PERSON_ID.eq(me.id()))
                .and(STOPWATCH.SINCE.isNull())
                .execute();
    }

    /**
     * Stops the watch and writes its time down on its ticket.
     *
     * @param kind what it was spent on; may be blank
     * @throws Problem.NotFound when there is no watch
     */
    @Transactional
    public Stopped stop(String kind, String note, boolean billable, Viewer me) {
        Access.require(me, Right.WORK);
        Running one = hold(me).orElseThrow(() -> new Problem.NotFound("You have no watch running."));
        return stop(one, kind, note, billable, me);
    }

    private Stopped stop(Running one, String kind, String note, boolean billable, Viewer me) {
        sql.deleteFrom(STOPWATCH).where(STOPWATCH.PERSON_ID.eq(me.id())).execute();
        Duration measured = one.measured(clock.instant());
        boolean cut = measured.compareTo(LONGEST) > 0;
        // A minute that was begun counts; a mistaken press does not.
        Duration time =
                Duration.ofMinutes((cut ? LONGEST : measured).plusSeconds(59).toMinutes());
        if (measured.toSeconds() < 15) {
            return new Stopped(one.ticket(), Optional.empty(), false);
        }
        var spent = new Work.Spent(me.id(), one.began(), time, kind.strip(), billable, note.strip());
        acts.perform(one.ticket(), new Act.SpendTime(OptionalInt.empty(), spent), me);
        return new Stopped(one.ticket(), Optional.of(time), cut);
    }

    /** Throws the watch away; nothing is written down. */
    @Transactional
    public void discard(Viewer me) {
        sql.deleteFrom(STOPWATCH).where(STOPWATCH.PERSON_ID.eq(me.id())).execute();
    }
}

package rafter.app.tickets.acts;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Right;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.core.target.Objective;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.TicketEvent;

/** Times that people set for a ticket: one agreed with the customer for its resolution, and one at which it comes back. */
@Component
public class TicketTimes {

    private static final Duration FURTHEST = Duration.ofDays(2 * 365);
    private static final int LONGEST_REASON = 200;

    private final DSLContext sql;
    private final TicketStore store;
    private final Targets targets;
    private final Notices notices;
    private final Clock clock;

    TicketTimes(DSLContext sql, TicketStore store, Targets targets, Notices notices, Clock clock) {
        this.sql = sql;
        this.store = store;
        this.targets = targets;
        this.notices = notices;
        this.clock = clock;
    }

    /**
     * Notes that another time was agreed with the customer for the resolution, or takes that back.
     *
     * @param due that time; empty: what the policy says holds again
     * @param why in words; may be blank
     * @return when the resolution is due now: the last working moment before the time agreed; empty while it is paused or nothing runs
     * @throws Problem.Invalid when it cannot be agreed
     */
    @Transactional
    public Optional<Instant> agree(long number, Optional<Instant> due, String why, Person by) {
        return agree(number, due, why, Optional.empty(), by);
    }

    /**
     * The same by somebody who saw what was agreed before.
     *
     * @param was the time that the person saw; blank for none
     * @throws Problem.Stale when another one was agreed meanwhile
     */
    @Transactional
    public Optional<Instant> agree(long number, Optional<Instant> due, String why, Optional<String> was, Person by) {
        Access.require(by, Right.WORK);
        Instant now = clock.instant();
        due.ifPresent(at -> check(at, now));
        if (why.length() > LONGEST_REASON) {
            throw new Problem.Invalid("The reason has at most " + LONGEST_REASON + " letters. Nothing was changed.");
        }
        TicketStore.Held held = open(number);
        unchanged(was, held.ticket().agreedDue(), "Another time was agreed meanwhile, or the one agreed was taken back.");
        if (held.ticket().agreedDue().equals(due)) {
            return resolution(number, held, now).flatMap(TargetClock::dueMark);
        }
        TicketStore.Held after = store.append(held, List.of(new TicketEvent.TimeAgreed(now, new Actor.Person(by.id()), due, why.strip())), now);
        Optional<TargetClock> resolution = resolution(number, after, now);
        if (due.isPresent() && resolution.filter(clock -> !clock.left().isPositive()).isPresent()) {
            throw new Problem.Invalid("Nobody works between now and then, so it would be late at once. Choose a time when we are open. Nothing was changed.");
        }
        return resolution.flatMap(TargetClock::dueMark);
    }

    private Optional<TargetClock> resolution(long number, TicketStore.Held held, Instant now) {
        List<TargetClock> clocks = targets.reckon(held.events(), store.customer(number), now);
        return Optional.ofNullable(Reckoning.latest(clocks).get(Objective.RESOLUTION)).filter(TargetClock::live);
    }

    /**
     * Has a ticket come back at a time, should nothing be heard of the customer before; or not any more.
     *
     * @throws Problem.Invalid when the time cannot be chosen
     */
    @Transactional
    public void bringBack(long number, Optional<Instant> when, Person by) {
        bringBack(number, when, Optional.empty(), by);
    }

    /**
     * The same by somebody who saw when it was to come back.
     *
     * @param was the time that the person saw; blank for none
     * @throws Problem.Stale when another one was set meanwhile
     */
    @Transactional
    public void bringBack(long number, Optional<Instant> when, Optional<String> was, Person by) {
        Access.require(by, Right.WORK);
        Instant now = clock.instant();
        when.ifPresent(at -> check(at, now));
        TicketStore.Held held = open(number);
        unchanged(was, held.ticket().bringBackAt(), "Somebody else set when it comes back meanwhile.");
        if (!held.ticket().bringBackAt().equals(when)) {
            store.append(held, List.of(new TicketEvent.BringBackSet(now, new Actor.Person(by.id()), when)), now);
        }
    }

    /**
     * A time as a form writes it: local to the zone of this workspace, or an instant; blank for none.
     *
     * @throws Problem.Invalid when it is neither
     */
    public Optional<Instant> read(String written) {
        if (written.isBlank()) {
            return Optional.empty();
        }
        try {
            return Optional.of(written.endsWith("Z")
                    ? Instant.parse(written)
                    : LocalDateTime.parse(written.strip()).atZone(targets.terms().zone()).toInstant());
        } catch (DateTimeParseException e) {
            throw new Problem.Invalid("“" + written + "” is no date with a time. Nothing was changed.");
        }
    }

    /** The same as a form shows it. */
    public String local(Instant at) {
        return LocalDateTime.ofInstant(at, targets.terms().zone()).truncatedTo(ChronoUnit.MINUTES).toString();
    }

    private void unchanged(Optional<String> was, Optional<Instant> now, String words) {
        if (was.isPresent() && !read(was.get()).equals(now)) {
            throw new Problem.Stale(words + " Nothing was changed; look again and choose.");
        }
    }

    private TicketStore.Held open(long number) {
        TicketStore.Held held = store.hold(number);
        Ends.mayChange(number, held.ticket());
        if (!held.ticket().open()) {
            throw new Problem.Invalid("Ticket " + number + " is " + held.ticket().state().name().toLowerCase(java.util.Locale.ROOT) + ", so no time is set for it. Nothing was changed.");
        }
        return held;
    }

    private static void check(Instant at, Instant now) {
        if (!at.isAfter(now)) {
            throw new Problem.Invalid("That time has passed. Choose one that is to come. Nothing was changed.");
        }
        if (at.isAfter(now.plus(FURTHEST))) {
            throw new Problem.Invalid("That is more than two years ahead. Choose an earlier time. Nothing was changed.");
        }
    }

    /**
     * Brings back what is to come back by now, each ticket once, and tells its owner.
     *
     * @param most so many at once
     * @return how many came back
     */
    @Transactional
    public int broughtBack(Instant now, int most) {
        List<Long> due = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.BRING_BACK_AT.le(now))
                .and(TicketStore.understood())
                .orderBy(TICKET.BRING_BACK_AT)
                .limit(most)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
        for (long number : due) {
            TicketStore.Held held = store.hold(number);
            store.append(held, Conduct.broughtBack(held.ticket(), now), now);
            held.ticket().owner().ifPresent(owner -> notices.tell(owner, number, Notices.Kind.BACK, number + " came back, as set: " + held.ticket().subject()));
        }
        return due.size();
    }
}

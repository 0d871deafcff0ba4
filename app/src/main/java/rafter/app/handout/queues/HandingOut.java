package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE_ENTRY;

import java.time.Clock;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.ConcurrencyFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Looks;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.HandOut;
import rafter.core.routing.Handing;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;

/** What people do with what waits in queues: they ask for the next one, take or pass what they are asked, and leads move tickets. */
@Component
public class HandingOut {

    private static final Logger LOG = LoggerFactory.getLogger(HandingOut.class);
    private static final int LONGEST_REASON = 200;

    private final Queues queues;
    private final Places places;
    private final Workforce workforce;
    private final Offers offers;
    private final GivingOut giving;
    private final HandOutSettings settings;
    private final Acts acts;
    private final Looks looks;
    private final TransactionTemplate transaction;
    private final Clock clock;

    HandingOut(
            Queues queues,
            Places places,
            Workforce workforce,
            Offers offers,
            GivingOut giving,
            HandOutSettings settings,
            Acts acts,
            Looks looks,
            TransactionTemplate transaction,
            Clock clock) {
        this.queues = queues;
        this.places = places;
        this.workforce = workforce;
        this.offers = offers;
        this.giving = giving;
        this.settings = settings;
        this.acts = acts;
        this.looks = looks;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** A ticket that somebody got, and out of which queue. */
    public record Got(TicketNumber number, String queue) {}

    /**
     * Hands one ticket over, or back to nobody.
     *
     * @param from who must have it still
     * @throws Problem.Stale when somebody else has it
     */
    @Transactional
    public void move(TicketNumber number, Optional<PersonId> from, Optional<PersonId> to, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        giving.oneAtATime();
        acts.perform(
                number,
                new Act.HandToPerson(to),
                Optional.of(from.map(PersonId::toString).orElse("")),
                lead);
        giving.leaves(number);
    }

    /**
     * Gives somebody the best ticket that they can take.
     *
     * @return nothing when nothing waits that they can take
     * @throws Problem.Invalid when they are not here, take no work or have no room
     */
    @Transactional
    public Optional<Got> next(Viewer me) {
        Access.require(me, Right.WORK);
        giving.oneAtATime();
        List<Worker> people = workforce.workers();
        Worker worker = people.stream()
                .filter(one -> one.id().equals(me.id()))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("You do not work here any more."));
        if (worker.unavailable().isPresent()) {
            throw new Problem.Invalid("Say first that you are at work and take work: you are set to "
                    + worker.presence().words() + (worker.taking() ? "." : ", and take no work."));
        }
        if (worker.load() >= 1) {
            throw new Problem.Invalid("You have " + Math.round(worker.used()) + " of the " + Math.round(worker.limit())
                    + " tickets that you take at once. Finish one first.");
        }
        Map<QueueId, List<Waiting>> waiting = places.waiting(me.sees(QUEUE_ENTRY.TICKET));
        var found = next(worker, people, waiting);
        found.ifPresent(next -> {
            acts.perform(next.ticket().number(), new Act.HandToPerson(Optional.of(me.id())), me);
            giving.leaves(next.ticket().number());
        });
        return found.map(next -> new Got(next.ticket().number(), next.queue().name()));
    }

    /** The best ticket that they can take and that nobody takes or changes at this moment; it is held. */
    private Optional<HandOut.Next> next(Worker worker, List<Worker> people, Map<QueueId, List<Waiting>> waiting) {
        var busy = new HashSet<TicketNumber>();
        Optional<HandOut.Next> found = best(worker, people, waiting, busy);
        while (found.isPresent() && !looks.holdWaiting(found.get().ticket().number())) {
            busy.add(found.get().ticket().number());
            found = best(worker, people, waiting, busy);
        }
        return found;
    }

    private Optional<HandOut.Next> best(
            Worker worker, List<Worker> people, Map<QueueId, List<Waiting>> waiting, Set<TicketNumber> without) {
        List<HandOut.Line> lines = queues.all().stream()
                .filter(queue -> queue.on() && queue.way() == Handing.PULL)
                .map(queue -> new HandOut.Line(
                        queue,
                        waiting.getOrDefault(queue.id(), List.of()).stream()
                                .filter(ticket -> !without.contains(ticket.number()))
                                .toList()))
                .toList();
        return HandOut.next(worker, lines, people, clock.instant());
    }

    /** What somebody is asked just now. */
    @Transactional(readOnly = true)
    public Optional<Asked> asked(Viewer me) {
        return offers.of(me.id()).map(offer -> new Asked(offer.id(), offer.ticket(), offer.why(), offer.until()));
    }

    /** What somebody is asked: to take a ticket, and why they. */
    public record Asked(long id, TicketNumber ticket, String why, Instant until) {}

    /**
     * Somebody takes what they are asked about. As long as it was not passed on it is theirs, whatever a clock says: the one who asks next decides by
     * the same rows.
     *
     * @throws Problem.Stale when it was passed on, or somebody has the ticket
     */
    @Transactional
    public TicketNumber take(long offer, Viewer me) {
        Access.require(me, Right.WORK);
        giving.oneAtATime();
        Offers.Offer mine = mine(offer, me);
        // The ticket first, then the offer: who reads the rules for it holds them in this order, too.
        acts.perform(mine.ticket(), new Act.HandToPerson(Optional.of(me.id())), Optional.of(""), me);
        end(mine, "TAKEN", "");
        giving.leaves(mine.ticket());
        return mine.ticket();
    }

    /**
     * Somebody passes what they are asked about; the next one is asked at once.
     *
     * @throws Problem.Stale when they are not asked any more
     * @throws Problem.Invalid when the workspace wants to know why, and nothing is said
     */
    public void pass(long offer, String reason, Viewer me) {
        Access.require(me, Right.WORK);
        if (settings.rules().passAsksWhy() && reason.isBlank()) {
            throw new Problem.Invalid("Say in a word why you pass it. You are still asked.");
        }
        if (reason.strip().length() > LONGEST_REASON) {
            throw new Problem.Invalid("A reason has at most " + LONGEST_REASON + " letters. You are still asked.");
        }
        transaction.executeWithoutResult(status -> {
            giving.oneAtATime();
            end(mine(offer, me), "PASSED", reason.strip());
        });
        try {
            giving.giveOut();
        } catch (ConcurrencyFailureException e) {
            LOG.info("Who passed is done; the next one is asked a second later: {}", e.getMessage());
        }
    }

    private void end(Offers.Offer offer, String state, String reason) {
        if (!offers.end(offer, state, reason)) {
            throw over();
        }
    }

    private static Problem.Stale over() {
        return new Problem.Stale(
                "You are not asked about this ticket any more: the time was over, or somebody has it.");
    }

    private Offers.Offer mine(long offer, Viewer me) {
        return offers.of(me.id()).filter(one -> one.id() == offer).orElseThrow(HandingOut::over);
    }
}

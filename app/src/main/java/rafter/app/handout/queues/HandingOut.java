package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE;
import static rafter.database.Tables.QUEUE_ENTRY;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.routing.BestFit;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOut;
import rafter.core.routing.Handing;
import rafter.core.routing.Knowledge;
import rafter.core.routing.Queue;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;

/** Hands out what waits in queues: to who asks for the next one, and to people in turn or by their load. One hand-out at a time, on all nodes. */
@Component
public class HandingOut {

    private static final Logger LOG = LoggerFactory.getLogger(HandingOut.class);
    private static final int LOCK = 7420;

    private final DSLContext sql;
    private final Queues queues;
    private final Places places;
    private final Workforce workforce;
    private final Acts acts;
    private final Clock clock;

    HandingOut(DSLContext sql, Queues queues, Places places, Workforce workforce, Acts acts, Clock clock) {
        this.sql = sql;
        this.queues = queues;
        this.places = places;
        this.workforce = workforce;
        this.acts = acts;
        this.clock = clock;
    }

    /** A ticket that somebody got, and out of which queue. */
    public record Got(TicketNumber number, String queue) {}

    private void oneAtATime() {
        sql.execute("select pg_advisory_xact_lock(?)", LOCK);
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
        oneAtATime();
        List<Worker> people = workforce.workers();
        Worker worker = people.stream()
                .filter(one -> one.id().equals(me.id()))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("You do not work here any more."));
        if (worker.unavailable().isPresent()) {
            throw new Problem.Invalid("Say first that you are at work and take work: you are set to "
                    + worker.presence().words() + (worker.taking() ? "." : ", and take no work."));
        }
        if (!worker.hasRoom(1)) {
            throw new Problem.Invalid("You have " + Math.round(worker.used()) + " of the " + Math.round(worker.limit())
                    + " tickets that you take at once. Finish one first.");
        }
        Map<QueueId, List<Waiting>> waiting = places.waiting(me.sees(QUEUE_ENTRY.TICKET));
        List<HandOut.Line> lines = queues.all().stream()
                .filter(queue -> queue.on() && queue.way() == Handing.PULL)
                .map(queue -> new HandOut.Line(queue, waiting.getOrDefault(queue.id(), List.of())))
                .toList();
        Optional<HandOut.Next> found = HandOut.next(worker, lines, people, clock.instant());
        found.ifPresent(next -> {
            acts.perform(next.ticket().number(), new Act.HandToPerson(Optional.of(me.id())), me);
            leaves(next.ticket().number());
        });
        return found.map(next -> new Got(next.ticket().number(), next.queue().name()));
    }

    private void leaves(TicketNumber number) {
        sql.deleteFrom(QUEUE_ENTRY).where(QUEUE_ENTRY.TICKET.eq(number)).execute();
    }

    /**
     * Gives what waits in queues that give to people in turn or by their load.
     *
     * @return how many tickets found somebody
     */
    @Transactional
    public int giveOut() {
        List<Queue> giving = queues.all().stream()
                .filter(queue -> queue.on() && queue.way().gives())
                .toList();
        if (giving.isEmpty()) {
            return 0;
        }
        oneAtATime();
        List<Worker> people = new ArrayList<>(workforce.workers());
        Map<QueueId, List<Waiting>> waiting = places.waiting(DSL.noCondition());
        Instant now = clock.instant();
        int given = 0;
        for (Queue queue : giving) {
            Optional<PersonId> last = lastOf(queue.id());
            for (Waiting ticket : queue.order().sorted(waiting.getOrDefault(queue.id(), List.of()), now)) {
                Optional<Worker> to = give(queue, ticket, people, last, now);
                if (to.isPresent()) {
                    last = to.map(Worker::id);
                    people.replaceAll(one -> one.id().equals(to.get().id()) ? one.with(ticket.units()) : one);
                    given++;
                }
            }
            last.ifPresent(person -> remember(queue.id(), person));
        }
        return given;
    }

    private Optional<Worker> give(
            Queue queue, Waiting ticket, List<Worker> people, Optional<PersonId> last, Instant now) {
        HandOut.Free free = HandOut.among(people, queue);
        Set<TeamId> pool = queue.pool(ticket, teams -> free.of(ticket, teams), now);
        var question = new BestFit.Question(
                ticket, pool, queue.needs(ticket), Factor.weights(), new Share(0, 0), person -> Knowledge.NOTHING, now);
        if (!(HandOut.decide(queue, question, people, last, Set.of()) instanceof HandOut.Decision.Give give)) {
            return Optional.empty();
        }
        Worker to = give.to().worker();
        Optional<String> refused = acts.byItself(ticket.number(), new Act.HandToPerson(Optional.of(to.id())));
        if (refused.isPresent()) {
            LOG.info("Ticket {} could not be handed out: {}", ticket.number(), refused.get());
            return Optional.empty();
        }
        leaves(ticket.number());
        return Optional.of(to);
    }

    private Optional<PersonId> lastOf(QueueId queue) {
        return sql.select(QUEUE.LAST_GIVEN)
                .from(QUEUE)
                .where(QUEUE.ID.eq(queue.value()))
                .fetchOptional(QUEUE.LAST_GIVEN)
                .map(PersonId::new);
    }

    private void remember(QueueId queue, PersonId person) {
        sql.update(QUEUE)
                .set(QUEUE.LAST_GIVEN, person.value())
                .where(QUEUE.ID.eq(queue.value()))
                .execute();
    }
}

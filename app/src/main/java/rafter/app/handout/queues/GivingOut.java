package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE;
import static rafter.database.Tables.QUEUE_ENTRY;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Workforce;
import rafter.app.platform.Writes;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Looks;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.routing.BestFit;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOut;
import rafter.core.routing.Handing;
import rafter.core.routing.Queue;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.ticket.Act;

/** Gives out what waits in queues that do so by themselves, and asks people. One hand-out at a time, on all nodes. */
@Component
class GivingOut {

    private static final Logger LOG = LoggerFactory.getLogger(GivingOut.class);
    private static final int LOCK = 7420;
    /** So many at once: who passes or asks for the next one waits no longer. */
    static final int PART = 100;

    private final DSLContext sql;
    private final Queues queues;
    private final Places places;
    private final Workforce workforce;
    private final Offers offers;
    private final Flow flow;
    private final Knowing knowing;
    private final HandOutSettings settings;
    private final Acts acts;
    private final Looks looks;
    private final Writes writes;
    private final TransactionTemplate transaction;
    private final Clock clock;

    GivingOut(
            DSLContext sql,
            Queues queues,
            Places places,
            Workforce workforce,
            Offers offers,
            Flow flow,
            Knowing knowing,
            HandOutSettings settings,
            Acts acts,
            Looks looks,
            Writes writes,
            TransactionTemplate transaction,
            Clock clock) {
        this.sql = sql;
        this.queues = queues;
        this.places = places;
        this.workforce = workforce;
        this.offers = offers;
        this.flow = flow;
        this.knowing = knowing;
        this.settings = settings;
        this.acts = acts;
        this.looks = looks;
        this.writes = writes;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** Within the running transaction nobody else hands anything out. */
    void oneAtATime() {
        sql.execute("select pg_advisory_xact_lock(?)", LOCK);
    }

    /** A ticket waits no more, and nobody is asked about it. */
    void leaves(TicketNumber number) {
        if (flow.leaves(number)) {
            offers.withdraw(number);
        }
    }

    /**
     * Hands out a part of what waits in queues that do so by themselves: to people in turn, by their load or by how they fit, or by asking them.
     *
     * @return how many tickets found somebody or are asked about; a part is full with {@link #PART}
     */
    int giveOut() {
        if (queues.all().stream().noneMatch(GivingOut::byItself)) {
            return 0;
        }
        // Each by itself: what ended is let go before tickets are held.
        transaction.executeWithoutResult(status -> {
            oneAtATime();
            offers.runOut();
        });
        return Optional.ofNullable(transaction.execute(status -> {
                    oneAtATime();
                    return writes.gather(() -> handOut(PART));
                }))
                .orElse(0);
    }

    private static boolean byItself(Queue queue) {
        return queue.on() && (queue.way().gives() || queue.way() == Handing.OFFERS);
    }

    private int handOut(int most) {
        List<Queue> by = queues.all().stream().filter(GivingOut::byItself).toList();
        var round = new Round(new ArrayList<>(workforce.workers()), offers.open(), most);
        Map<QueueId, List<Waiting>> waiting = places.waiting(DSL.noCondition());
        for (Queue queue : by) {
            List<Waiting> line = waiting.getOrDefault(queue.id(), List.of());
            if (!line.isEmpty() && round.goesOn()) {
                round.through(queue, line);
            }
        }
        return round.done;
    }

    /** One look through the queues, in which everybody's load grows with what they get. */
    private final class Round {
        private final List<Worker> people;
        private final Map<TicketNumber, Offers.Offer> open;
        private final Set<PersonId> busy = new HashSet<>();
        private final Instant now = clock.instant();
        private final Map<Factor, Integer> weights = settings.rules().weights();
        private int left;
        private int done;

        Round(List<Worker> people, Map<TicketNumber, Offers.Offer> open, int most) {
            this.people = people;
            this.open = open;
            this.left = most;
            open.values().forEach(offer -> busy.add(offer.person()));
        }

        boolean goesOn() {
            return left > 0 && people.stream().anyMatch(one -> one.unavailable().isEmpty() && one.load() < 1);
        }

        void through(Queue queue, List<Waiting> line) {
            Optional<PersonId> last = lastOf(queue.id());
            Map<TicketNumber, Asking> asking = queue.way() == Handing.OFFERS ? asking(queue.id()) : Map.of();
            for (Waiting ticket : queue.order().sorted(line, now)) {
                if (!goesOn()) {
                    break;
                }
                if (open.containsKey(ticket.number())) {
                    continue;
                }
                Optional<PersonId> to = one(queue, ticket, last, asking.getOrDefault(ticket.number(), Asking.FIRST));
                if (to.isPresent()) {
                    last = to;
                    left--;
                    done++;
                }
            }
            last.ifPresent(person -> remember(queue.id(), person));
        }

        /** Who gets the ticket, or is asked. */
        private Optional<PersonId> one(Queue queue, Waiting ticket, Optional<PersonId> last, Asking asking) {
            if (asking.pause().filter(now::isBefore).isPresent()) {
                return Optional.empty();
            }
            Set<PersonId> asked = asking.asked();
            List<Worker> free = people.stream()
                    .filter(one -> !asked.contains(one.id()))
                    .filter(one -> queue.way() != Handing.OFFERS || !busy.contains(one.id()))
                    .toList();
            HandOut.Free among = HandOut.among(free, queue);
            Set<TeamId> pool = queue.pool(ticket, teams -> among.of(ticket, teams), now);
            if (!among.of(ticket, pool) && queue.ownFirst().isEmpty()) {
                // Nobody can, whoever knows what, so that need not be asked.
                return nobody(queue, ticket, asking, pool);
            }
            Knowing.Known known = knows(queue) ? knowing.of(ticket) : new Knowing.Known(new Share(0, 0), Map.of());
            var question =
                    new BestFit.Question(ticket, pool, queue.needs(ticket), weights, known.topic(), known::of, now);
            HandOut.Decision decision =
                    HandOut.decide(queue, question, queue.way() == Handing.OFFERS ? free : people, last, asked);
            if (!(decision instanceof HandOut.Decision.Wait) && !looks.holdWaiting(ticket.number())) {
                return Optional.empty();
            }
            return switch (decision) {
                case HandOut.Decision.Give(BestFit.Candidate to, String why) -> give(ticket, to.worker());
                case HandOut.Decision.Ask(BestFit.Candidate whom, String why) ->
                    ask(queue, ticket, whom.worker(), asking.round(), why);
                case HandOut.Decision.Wait wait -> nobody(queue, ticket, asking, pool);
            };
        }

        private Optional<PersonId> give(Waiting ticket, Worker to) {
            Optional<String> refused = acts.byItself(ticket.number(), new Act.HandToPerson(Optional.of(to.id())));
            if (refused.isPresent()) {
                LOG.info("Ticket {} could not be handed out: {}", ticket.number(), refused.get());
                return Optional.empty();
            }
            leaves(ticket.number());
            loaded(to, ticket.units());
            return Optional.of(to.id());
        }

        private Optional<PersonId> ask(Queue queue, Waiting ticket, Worker whom, int round, String why) {
            offers.make(ticket.number(), queue.id(), whom.id(), round, why, queue.answerWithin());
            busy.add(whom.id());
            loaded(whom, ticket.units());
            return Optional.of(whom.id());
        }

        private void loaded(Worker who, double units) {
            people.replaceAll(one -> one.id().equals(who.id()) ? one.with(units) : one);
        }

        /** When everybody was asked who could take it, a new round begins after a pause. */
        private Optional<PersonId> nobody(Queue queue, Waiting ticket, Asking asking, Set<TeamId> pool) {
            boolean over = queue.way() == Handing.OFFERS
                    && !asking.asked().isEmpty()
                    && people.stream()
                            .filter(one -> one.teams().stream().anyMatch(pool::contains))
                            .filter(one -> one.unavailable().isEmpty()
                                    && one.hasRoom(ticket.units())
                                    && BestFit.covers(one, queue.needs(ticket)))
                            .allMatch(one -> asking.asked().contains(one.id()));
            if (over) {
                sql.update(QUEUE_ENTRY)
                        .set(QUEUE_ENTRY.ROUND, asking.round() + 1)
                        .set(QUEUE_ENTRY.PAUSE_UNTIL, now.plus(queue.answerWithin()))
                        .where(QUEUE_ENTRY.TICKET.eq(ticket.number()))
                        .execute();
            }
            return Optional.empty();
        }
    }

    /** How far the asking about a ticket is: its round, whom it asked, and until when it pauses. */
    private record Asking(int round, Optional<Instant> pause, Set<PersonId> asked) {
        static final Asking FIRST = new Asking(1, Optional.empty(), Set.of());
    }

    private Map<TicketNumber, Asking> asking(QueueId queue) {
        var rows = sql.select(QUEUE_ENTRY.TICKET, QUEUE_ENTRY.ROUND, QUEUE_ENTRY.PAUSE_UNTIL)
                .from(QUEUE_ENTRY)
                .where(QUEUE_ENTRY.QUEUE_ID.eq(queue.value()))
                .fetch();
        Map<TicketNumber, Map<Integer, List<PersonId>>> asked =
                offers.asked(Set.copyOf(rows.getValues(QUEUE_ENTRY.TICKET)));
        var all = new HashMap<TicketNumber, Asking>();
        rows.forEach(r -> all.put(
                r.value1(),
                new Asking(
                        r.value2(),
                        Optional.ofNullable(r.value3()),
                        Set.copyOf(asked.getOrDefault(r.value1(), Map.of()).getOrDefault(r.value2(), List.of())))));
        return all;
    }

    private static boolean knows(Queue queue) {
        return queue.way() == Handing.FIT
                || queue.way() == Handing.OFFERS
                || queue.ownFirst().isPresent();
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

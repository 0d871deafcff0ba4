package rafter.core.routing;

import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Who gets a ticket of a queue, or is asked, and what somebody gets who asks for the next one. */
public final class HandOut {

    private HandOut() {}

    /** What is to be done with a ticket that waits. */
    public sealed interface Decision {
        /** Somebody gets it. */
        record Give(BestFit.Candidate to, String why) implements Decision {}

        /** Somebody is asked whether they take it. */
        record Ask(BestFit.Candidate whom, String why) implements Decision {}

        /** It goes on waiting. */
        record Wait(String why) implements Decision {}
    }

    /**
     * Decides about one ticket.
     *
     * @param people everybody who works here
     * @param last who got the last ticket of the queue
     * @param passed who was asked in this round and did not take it; they are not asked again before the round is over
     */
    public static Decision decide(
            Queue queue,
            BestFit.Question question,
            Collection<Worker> people,
            Optional<PersonId> last,
            Set<PersonId> passed) {
        if (queue.way() == Handing.HAND || queue.way() == Handing.PULL) {
            return new Decision.Wait(queue.way().meaning());
        }
        List<BestFit.Candidate> ranked = BestFit.rank(question, people);
        Optional<BestFit.Candidate> awaited = awaited(queue, question, ranked, passed);
        if (awaited.isPresent()) {
            return new Decision.Wait(awaited.get().worker().name()
                    + " knows this customer or this ticket, and comes first for a while.");
        }
        List<BestFit.Candidate> able =
                ranked.stream().filter(BestFit.Candidate::can).toList();
        if (able.isEmpty()) {
            return new Decision.Wait("Nobody can take it just now.");
        }
        List<BestFit.Candidate> fresh =
                able.stream().filter(one -> !passed.contains(one.worker().id())).toList();
        Optional<BestFit.Candidate> own = own(queue, question, fresh);
        if (queue.way() == Handing.OFFERS) {
            return own.or(() -> fresh.stream().findFirst())
                    .<Decision>map(one -> new Decision.Ask(one, why(queue, one, own.isPresent())))
                    .orElse(new Decision.Wait("Everybody who could take it was asked."));
        }
        BestFit.Candidate chosen = own.orElseGet(() -> chosen(queue.way(), able, last));
        return new Decision.Give(chosen, why(queue, chosen, own.isPresent()));
    }

    private static Optional<BestFit.Candidate> own(
            Queue queue, BestFit.Question question, List<BestFit.Candidate> among) {
        return queue.ownFirst().isEmpty()
                ? Optional.empty()
                : among.stream()
                        .filter(one ->
                                question.knowledge().apply(one.worker().id()).ownAgent())
                        .findFirst();
    }

    /** Who knows the customer, cannot take it just now, and is waited for; nobody waits for who is off or did not take it. */
    private static Optional<BestFit.Candidate> awaited(
            Queue queue, BestFit.Question question, List<BestFit.Candidate> ranked, Set<PersonId> passed) {
        boolean over = queue.ownFirst()
                .filter(time ->
                        question.now().isBefore(question.ticket().since().plus(time)))
                .isEmpty();
        return over
                ? Optional.empty()
                : own(queue, question, ranked)
                        .filter(one -> !one.can()
                                && one.worker().presence() != Presence.OFF
                                && BestFit.covers(one.worker(), question.needs())
                                && !passed.contains(one.worker().id()));
    }

    private static BestFit.Candidate chosen(Handing way, List<BestFit.Candidate> able, Optional<PersonId> last) {
        return switch (way) {
            case ROTATION -> {
                List<BestFit.Candidate> inTurn = able.stream()
                        .sorted(Comparator.comparing(one -> one.worker().id()))
                        .toList();
                yield inTurn.stream()
                        .filter(one -> last.isEmpty() || one.worker().id().compareTo(last.get()) > 0)
                        .findFirst()
                        .orElse(inTurn.getFirst());
            }
            case LEAST ->
                able.stream()
                        .min(Comparator.comparingDouble(
                                        (BestFit.Candidate one) -> one.worker().load())
                                .thenComparing(one -> one.worker().id()))
                        .orElseThrow();
            case FIT, OFFERS, HAND, PULL -> able.getFirst();
        };
    }

    private static String why(Queue queue, BestFit.Candidate one, boolean own) {
        String name = one.worker().name();
        if (own) {
            return name + " knows this customer or this ticket.";
        }
        return switch (queue.way()) {
            case ROTATION -> name + " is next in turn.";
            case LEAST -> name + " has least of what they take at once.";
            case FIT, OFFERS -> name + " fits best, " + Math.round(one.score()) + " of 100.";
            case HAND, PULL -> "";
        };
    }

    /** A queue with what waits in it. */
    public record Line(Queue queue, List<Waiting> waiting) {
        public Line {
            waiting = List.copyOf(waiting);
        }
    }

    /** What somebody gets. */
    public record Next(Queue queue, Waiting ticket) {}

    /**
     * The best ticket that somebody can take who asks for the next one: the first in order of the first queue, in the order of the queues, of
     * which they are. A ticket that only others can take is left to them. O(n log n) for n tickets.
     *
     * @param people everybody who works here, for an overflow that waits for nobody being free
     */
    public static Optional<Next> next(Worker worker, List<Line> lines, Collection<Worker> people, Instant now) {
        if (worker.unavailable().isPresent()) {
            return Optional.empty();
        }
        for (Line line : lines) {
            Queue queue = line.queue();
            Free free = among(people, queue);
            Optional<Waiting> first = queue.order().sorted(line.waiting(), now).stream()
                    .filter(ticket -> worker.hasRoom(ticket.units()))
                    .filter(ticket -> queue.pool(ticket, teams -> free.of(ticket, teams), now).stream()
                            .anyMatch(worker.teams()::contains))
                    .filter(ticket -> BestFit.covers(worker, queue.needs(ticket)))
                    .findFirst();
            if (queue.on() && first.isPresent()) {
                return Optional.of(new Next(queue, first.get()));
            }
        }
        return Optional.empty();
    }

    /** Whether somebody of some teams could take a ticket. */
    public interface Free {
        boolean of(Waiting ticket, Collection<TeamId> teams);
    }

    /** As these people stand. */
    public static Free among(Collection<Worker> people, Queue queue) {
        return (ticket, teams) -> people.stream()
                .filter(one -> one.teams().stream().anyMatch(teams::contains))
                .anyMatch(one -> one.unavailable().isEmpty()
                        && one.hasRoom(ticket.units())
                        && BestFit.covers(one, queue.needs(ticket)));
    }
}

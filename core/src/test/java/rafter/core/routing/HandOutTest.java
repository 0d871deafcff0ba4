package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.routing.Scene.BILLING;
import static rafter.core.routing.Scene.FREIGHT;
import static rafter.core.routing.Scene.NOW;
import static rafter.core.routing.Scene.PASSENGERS;
import static rafter.core.routing.Scene.away;
import static rafter.core.routing.Scene.question;
import static rafter.core.routing.Scene.queue;
import static rafter.core.routing.Scene.ticket;
import static rafter.core.routing.Scene.worker;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TeamId;
import rafter.core.measure.Share;
import rafter.core.routing.HandOut.Decision;
import rafter.core.ticket.Priority;

/** Who gets a ticket of a queue, and what somebody gets who asks for the next one. */
class HandOutTest {

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static Decision decide(Queue queue, Set<PersonId> passed, Optional<Long> last, Worker... people) {
        return HandOut.decide(
                queue, question(queue, ticket(1), Map.of()), List.of(people), last.map(PersonId::new), passed);
    }

    private static long given(Decision decision) {
        return decision instanceof Decision.Give give ? give.to().worker().id().value() : 0;
    }

    private static long asked(Decision decision) {
        return decision instanceof Decision.Ask ask ? ask.whom().worker().id().value() : 0;
    }

    @Test
    void in_turn_means_the_next_after_who_got_the_last_and_who_cannot_is_left_out() {
        Queue queue = queue(Handing.ROTATION);
        Worker[] people = {worker(1), away(worker(2)), worker(3)};
        assertThat(given(decide(queue, Set.of(), Optional.empty(), people))).isEqualTo(1);
        assertThat(given(decide(queue, Set.of(), Optional.of(1L), people))).isEqualTo(3);
        assertThat(given(decide(queue, Set.of(), Optional.of(3L), people))).isEqualTo(1);
    }

    @Test
    void the_least_loaded_is_by_what_they_take_and_not_by_what_they_have() {
        Queue queue = queue(Handing.LEAST);
        assertThat(given(decide(
                        queue,
                        Set.of(),
                        Optional.empty(),
                        worker(1, FREIGHT, 2, 4, Map.of()),
                        worker(2, FREIGHT, 3, 10, Map.of()))))
                .isEqualTo(2);
    }

    @Test
    void offers_go_to_the_next_best_until_everybody_was_asked() {
        Queue queue = queue(Handing.OFFERS);
        Worker[] people = {worker(1, FREIGHT, 0, 5, Map.of()), worker(2, FREIGHT, 2, 5, Map.of())};
        assertThat(asked(decide(queue, Set.of(), Optional.empty(), people))).isEqualTo(1);
        assertThat(asked(decide(queue, Set.of(new PersonId(1)), Optional.empty(), people)))
                .isEqualTo(2);
        assertThat(decide(queue, Set.of(new PersonId(1), new PersonId(2)), Optional.empty(), people))
                .isEqualTo(new Decision.Wait("Everybody who could take it was asked."));
    }

    @ParameterizedTest
    @EnumSource
    void when_nobody_can_it_waits_whatever_the_way(Handing way) {
        assertThat(decide(queue(way), Set.of(), Optional.empty(), away(worker(1))))
                .isInstanceOf(Decision.Wait.class);
        assertThat(decide(queue(way), Set.of(), Optional.empty())).isInstanceOf(Decision.Wait.class);
    }

    @Test
    void by_hand_and_pull_give_nothing_by_themselves() {
        assertThat(decide(queue(Handing.HAND), Set.of(), Optional.empty(), worker(1)))
                .isInstanceOf(Decision.Wait.class);
        assertThat(decide(queue(Handing.PULL), Set.of(), Optional.empty(), worker(1)))
                .isInstanceOf(Decision.Wait.class);
        assertThat(Handing.FIT.gives()).isTrue();
        assertThat(Handing.OFFERS.gives()).isFalse();
    }

    @Test
    void who_looks_after_the_customer_comes_first_where_the_queue_says_so() {
        Queue plain = queue(Handing.FIT);
        var own = new Queue(
                plain.id(),
                plain.name(),
                true,
                plain.criteria(),
                plain.order(),
                plain.teams(),
                Set.of(),
                Handing.LEAST,
                plain.answerWithin(),
                Optional.of(Duration.ofMinutes(30)),
                List.of());
        Map<PersonId, Knowledge> known = Map.of(new PersonId(2), new Knowledge(0, true, new Share(0, 0), 0));
        List<Worker> people = List.of(worker(1), worker(2, FREIGHT, 4, 5, Map.of()));
        Decision decision = HandOut.decide(own, question(own, ticket(1), known), people, Optional.empty(), Set.of());
        assertThat(given(decision)).isEqualTo(2);
        assertThat(decision).asString().contains("knows this customer");
        List<Worker> full = List.of(worker(1), worker(2, FREIGHT, 5, 5, Map.of()));
        assertThat(HandOut.decide(
                        own,
                        question(own, ticket(1, Priority.P3, 29, Optional.empty()), known),
                        full,
                        Optional.empty(),
                        Set.of()))
                .asString()
                .contains("comes first for a while");
        assertThat(given(HandOut.decide(
                        own,
                        question(own, ticket(1, Priority.P3, 30, Optional.empty()), known),
                        full,
                        Optional.empty(),
                        Set.of())))
                .as("it waited long enough")
                .isEqualTo(1);
        Worker off = new Worker(new PersonId(2), "P2", Set.of(FREIGHT), Map.of(), Presence.OFF, true, 0, 5, Set.of());
        assertThat(given(HandOut.decide(
                        own, question(own, ticket(1), known), List.of(worker(1), off), Optional.empty(), Set.of())))
                .as("nobody waits for who has gone home")
                .isEqualTo(1);
    }

    // ------------------------------------------------------------------ queues and their order

    @Test
    void a_ticket_waits_in_the_first_queue_that_it_fits() {
        Criteria urgent = Criteria.test(KnownField.PRIORITY, Operator.IS, "P1");
        Queue all = queue(Handing.PULL);
        var first = new Queue(
                new QueueId(2),
                "Urgent",
                true,
                urgent,
                new Ordering.Oldest(),
                Set.of(FREIGHT),
                Set.of(),
                Handing.PULL,
                Duration.ofMinutes(1),
                Optional.empty(),
                List.of());
        Facts urgently = Facts.none().with(KnownField.PRIORITY, "P1");
        Asking asking = Asking.ofNobody(NOW);
        assertThat(Queue.of(List.of(first, all), urgently, asking, Optional.empty()))
                .contains(first);
        assertThat(Queue.of(
                        List.of(first, all), Facts.none().with(KnownField.PRIORITY, "P2"), asking, Optional.empty()))
                .contains(all);
        assertThat(Queue.of(List.of(first), Facts.none(), asking, Optional.empty()))
                .isEmpty();
        assertThat(Queue.of(List.of(first, all), urgently, asking, Optional.of(all.id())))
                .as("put into another one")
                .contains(all);
        assertThat(Queue.of(List.of(first, all), urgently, asking, Optional.of(new QueueId(77))))
                .as("put into one that is gone")
                .contains(first);
    }

    @Test
    void the_order_is_by_what_falls_due_by_age_or_by_points() {
        Waiting old = ticket(1, Priority.P4, 300, Optional.of(400));
        Waiting soon = ticket(2, Priority.P3, 10, Optional.of(30));
        Waiting urgent = ticket(3, Priority.P1, 5, Optional.empty());
        List<Waiting> all = List.of(old, soon, urgent);
        assertThat(new Ordering.Due().sorted(all, NOW)).containsExactly(soon, old, urgent);
        assertThat(new Ordering.Oldest().sorted(all, NOW)).containsExactly(old, soon, urgent);
        assertThat(new Ordering.Weighted(10, 0, 1).sorted(all, NOW)).containsExactly(urgent, soon, old);
        assertThat(new Ordering.Weighted(1, 0, 10).sorted(all, NOW)).containsExactly(old, urgent, soon);
    }

    @Test
    void overflow_widens_step_by_step_and_never_skips_one() {
        var waited = new Overflow(new Overflow.When.Waited(Duration.ofMinutes(30)), Set.of(PASSENGERS));
        var due = new Overflow(new Overflow.When.DueWithin(Duration.ofHours(1)), Set.of(PASSENGERS));
        var nobody = new Overflow(new Overflow.When.NobodyFree(), Set.of(PASSENGERS));
        assertThat(queue(Handing.FIT, waited).pool(ticket(1, Priority.P3, 29, Optional.empty()), teams -> true, NOW))
                .containsExactly(FREIGHT);
        assertThat(queue(Handing.FIT, waited).pool(ticket(1, Priority.P3, 30, Optional.empty()), teams -> true, NOW))
                .containsExactlyInAnyOrder(FREIGHT, PASSENGERS);
        assertThat(queue(Handing.FIT, due).pool(ticket(1, Priority.P3, 0, Optional.of(60)), teams -> true, NOW))
                .hasSize(2);
        assertThat(queue(Handing.FIT, due).pool(ticket(1, Priority.P3, 0, Optional.of(61)), teams -> true, NOW))
                .hasSize(1);
        assertThat(queue(Handing.FIT, nobody).pool(ticket(1), teams -> false, NOW))
                .hasSize(2);
        assertThat(queue(Handing.FIT, nobody).pool(ticket(1), teams -> true, NOW))
                .hasSize(1);
        var third = new Overflow(new Overflow.When.NobodyFree(), Set.of(new TeamId(3)));
        assertThat(queue(Handing.FIT, waited, third)
                        .pool(ticket(1, Priority.P3, 0, Optional.empty()), teams -> false, NOW))
                .containsExactly(FREIGHT);
    }

    @Test
    void an_overflow_that_leads_nowhere_new_is_a_fault() {
        var circle = new Overflow(new Overflow.When.NobodyFree(), Set.of(FREIGHT));
        assertThat(queue(Handing.FIT, circle).faults()).hasSize(1);
        assertThat(queue(Handing.FIT).faults()).isEmpty();
        assertThat(queue(Handing.FIT, new Overflow(new Overflow.When.NobodyFree(), Set.of()))
                        .faults())
                .hasSize(1);
    }

    @Test
    void the_next_one_is_the_first_that_this_person_can_take_in_the_order_of_the_queues() {
        Queue queue = queue(Handing.PULL);
        Waiting hard = ticket(1, Priority.P3, 60, Optional.of(10), BILLING);
        Waiting easy = ticket(2, Priority.P3, 60, Optional.of(50));
        var lines = List.of(new HandOut.Line(queue, List.of(easy, hard)));
        assertThat(HandOut.next(worker(1), lines, List.of(), NOW).orElseThrow().ticket())
                .isEqualTo(easy);
        Worker able = worker(1, FREIGHT, 0, 5, Map.of(BILLING, SkillLevel.ABLE));
        assertThat(HandOut.next(able, lines, List.of(), NOW).orElseThrow().ticket())
                .isEqualTo(hard);
        assertThat(HandOut.next(worker(1, FREIGHT, 5, 5, Map.of()), lines, List.of(), NOW))
                .isEmpty();
        assertThat(HandOut.next(away(worker(1)), lines, List.of(), NOW)).isEmpty();
        assertThat(HandOut.next(worker(1, PASSENGERS, 0, 5, Map.of()), lines, List.of(), NOW))
                .isEmpty();
    }

    // ------------------------------------------------------------------ laws

    @ParameterizedTest
    @MethodSource("seeds")
    void capacity_is_never_passed_and_nobody_who_cannot_gets_anything(long seed) {
        var random = new Random(seed);
        var people = new ArrayList<>(Scene.people(random, 8));
        var known = Scene.knowledge(random, people);
        Queue queue =
                queue(List.of(Handing.ROTATION, Handing.LEAST, Handing.FIT).get(random.nextInt(3)));
        Optional<PersonId> last = Optional.empty();
        for (int i = 0; i < 40; i++) {
            Waiting ticket = random.nextInt(3) == 0 ? ticket(i, BILLING) : ticket(i);
            Decision decision = HandOut.decide(queue, question(queue, ticket, known), people, last, Set.of());
            if (decision instanceof Decision.Give give) {
                Worker to = give.to().worker();
                assertThat(to.unavailable()).isEmpty();
                assertThat(to.used() + ticket.units()).isLessThanOrEqualTo(to.limit());
                assertThat(BestFit.covers(to, queue.needs(ticket))).isTrue();
                people.replaceAll(one -> one.id().equals(to.id()) ? one.with(ticket.units()) : one);
                last = Optional.of(to.id());
            } else {
                assertThat(people)
                        .noneMatch(one -> one.teams().contains(FREIGHT)
                                && one.unavailable().isEmpty()
                                && one.hasRoom(1)
                                && BestFit.covers(one, queue.needs(ticket)));
            }
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void nobody_is_asked_twice_in_a_round_and_everybody_who_can_is_asked(long seed) {
        var random = new Random(seed);
        List<Worker> people = Scene.people(random, 8);
        Queue queue = queue(Handing.OFFERS);
        BestFit.Question question = question(queue, ticket(1), Scene.knowledge(random, people));
        var asked = new HashSet<PersonId>();
        Decision decision = HandOut.decide(queue, question, people, Optional.empty(), asked);
        while (decision instanceof Decision.Ask ask) {
            assertThat(asked.add(ask.whom().worker().id())).isTrue();
            decision = HandOut.decide(queue, question, people, Optional.empty(), asked);
        }
        assertThat(asked).hasSize((int) BestFit.rank(question, people).stream()
                .filter(BestFit.Candidate::can)
                .count());
    }
}

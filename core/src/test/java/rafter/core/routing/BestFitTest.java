package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.core.routing.Scene.BILLING;
import static rafter.core.routing.Scene.CUSTOMS;
import static rafter.core.routing.Scene.FREIGHT;
import static rafter.core.routing.Scene.PASSENGERS;
import static rafter.core.routing.Scene.away;
import static rafter.core.routing.Scene.question;
import static rafter.core.routing.Scene.queue;
import static rafter.core.routing.Scene.ticket;
import static rafter.core.routing.Scene.worker;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.measure.Share;
import rafter.core.text.Words;

/** Who fits best, and why. */
class BestFitTest {

    private static final Queue QUEUE = queue(Handing.FIT);

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static List<Long> order(Waiting ticket, Map<PersonId, Knowledge> known, Worker... people) {
        return BestFit.rank(question(QUEUE, ticket, known), List.of(people)).stream()
                .map(one -> one.worker().id().value())
                .toList();
    }

    private static BestFit.Candidate first(Waiting ticket, Worker... people) {
        return BestFit.rank(question(QUEUE, ticket, Map.of()), List.of(people)).getFirst();
    }

    @Test
    void who_has_the_skill_comes_before_who_is_learning_it_and_who_lacks_it() {
        Worker expert = worker(3, FREIGHT, 2, 5, Map.of(BILLING, SkillLevel.EXPERT));
        Worker able = worker(2, FREIGHT, 2, 5, Map.of(BILLING, SkillLevel.ABLE));
        Worker learning = worker(1, FREIGHT, 0, 5, Map.of(BILLING, SkillLevel.LEARNING));
        assertThat(order(ticket(1, BILLING), Map.of(), learning, able, expert, worker(4)))
                .containsExactly(3L, 2L, 1L, 4L);
        assertThat(first(ticket(1, BILLING), learning).hindrance()).contains("lacks a skill");
        assertThat(first(ticket(1), learning).hindrance()).isEmpty();
    }

    @Test
    void who_has_more_room_comes_first_and_who_has_none_cannot() {
        assertThat(order(ticket(1), Map.of(), worker(1, FREIGHT, 4, 5, Map.of()), worker(2, FREIGHT, 1, 5, Map.of())))
                .containsExactly(2L, 1L);
        assertThat(first(ticket(1), worker(1, FREIGHT, 5, 5, Map.of())).hindrance())
                .contains("has no room");
        assertThat(first(ticket(1), worker(1, FREIGHT, 4, 5, Map.of())).can()).isTrue();
        assertThat(first(ticket(1), worker(1, FREIGHT, 0, 0, Map.of())).hindrance())
                .contains("has no room");
    }

    @Test
    void who_is_away_or_takes_no_work_cannot_and_all_reasons_are_told() {
        assertThat(first(ticket(1), away(worker(1))).hindrance()).contains("is away");
        Worker away = away(worker(1, FREIGHT, 5, 5, Map.of()));
        assertThat(first(ticket(1, CUSTOMS), away).hindrance()).contains("is away, has no room, lacks a skill");
        var refusing =
                new Worker(new PersonId(1), "P", Set.of(FREIGHT), Map.of(), Presence.HERE, false, 0, 5, Set.of());
        assertThat(first(ticket(1), refusing).hindrance()).contains("takes no work");
    }

    @Test
    void people_of_other_teams_do_not_come_into_question() {
        assertThat(order(ticket(1), Map.of(), worker(1, PASSENGERS, 0, 5, Map.of()), worker(2)))
                .containsExactly(2L);
    }

    @Test
    void who_knows_the_customer_or_the_topic_or_is_sooner_there_comes_first() {
        assertThat(order(
                        ticket(1),
                        Map.of(new PersonId(2), new Knowledge(3, false, new Share(0, 0), 0)),
                        worker(1),
                        worker(2)))
                .containsExactly(2L, 1L);
        assertThat(order(
                        ticket(1),
                        Map.of(new PersonId(2), new Knowledge(0, false, new Share(30, 30), 0)),
                        worker(1),
                        worker(2)))
                .containsExactly(2L, 1L);
        assertThat(order(
                        ticket(1),
                        Map.of(new PersonId(1), new Knowledge(0, false, new Share(0, 0), 100)),
                        worker(1),
                        worker(2)))
                .containsExactly(2L, 1L);
    }

    @Test
    void few_tickets_make_nobody_an_expert() {
        Share all = new Share(80, 100);
        double lucky = new Knowledge(0, false, new Share(1, 1), 0).topicScore(all);
        double proven = new Knowledge(0, false, new Share(36, 40), 0).topicScore(all);
        double poor = new Knowledge(0, false, new Share(10, 40), 0).topicScore(all);
        assertThat(proven).isGreaterThan(lucky);
        assertThat(proven).isGreaterThan(poor);
        assertThat(Knowledge.NOTHING.topicScore(all)).isBetween(0.0, lucky);
        assertThat(Knowledge.NOTHING.topicScore(new Share(0, 0))).isBetween(0.0, 1.0);
    }

    @Test
    void needs_come_from_what_was_said_the_topic_and_the_words_in_this_order() {
        Words text = Words.of("The invoice and the customs papers");
        List<Skill> catalogue = List.of(BILLING, CUSTOMS);
        assertThat(Need.of(catalogue, "billing", text, Set.of(), Set.of()))
                .extracting(need -> need.why().words())
                .containsExactly("for its topic, billing", "for the word “customs papers”");
        assertThat(Need.of(catalogue, "", text, Set.of(BILLING.id()), Set.of(CUSTOMS.id())))
                .extracting(need -> need.why().words())
                .containsExactly("put there by hand or by a rule");
        assertThat(Need.of(catalogue, "", Words.of(""), Set.of(), Set.of())).isEmpty();
    }

    @Test
    void a_skill_needs_a_name() {
        assertThat(BILLING.faults()).isEmpty();
        assertThat(new Skill(new SkillId(1), " ", "", List.of(), List.of()).faults())
                .hasSize(1);
        assertThat(new Skill(new SkillId(1), "N", "", List.of("w".repeat(61)), List.of()).faults())
                .hasSize(1);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_ranking_does_not_depend_on_the_order_of_the_people(long seed) {
        var random = new Random(seed);
        List<Worker> people = new ArrayList<>(Scene.people(random, 12));
        Waiting ticket = random.nextBoolean() ? ticket(1, BILLING, CUSTOMS) : ticket(1);
        BestFit.Question question = question(QUEUE, ticket, Scene.knowledge(random, people));
        List<BestFit.Candidate> ranked = BestFit.rank(question, people);
        Collections.shuffle(people, random);
        assertThat(BestFit.rank(question, people)).isEqualTo(ranked);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void scores_are_of_a_hundred_and_nobody_who_cannot_comes_before_who_can(long seed) {
        var random = new Random(seed);
        List<Worker> people = Scene.people(random, 12);
        List<BestFit.Candidate> ranked =
                BestFit.rank(question(QUEUE, ticket(1, BILLING), Scene.knowledge(random, people)), people);
        for (int i = 0; i < ranked.size(); i++) {
            BestFit.Candidate one = ranked.get(i);
            assertThat(one.score()).isBetween(0.0, 100.0);
            assertThat(one.values()).hasSize(Factor.values().length);
            assertThat(one.values().values()).allMatch(value -> value >= 0 && value <= 1);
            if (i > 0 && one.can()) {
                assertThat(ranked.get(i - 1).can()).isTrue();
                assertThat(ranked.get(i - 1).score()).isGreaterThanOrEqualTo(one.score());
            }
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void less_to_do_never_makes_anybody_fit_worse(long seed) {
        var random = new Random(seed);
        List<Worker> people = Scene.people(random, 1);
        Worker one = people.getFirst();
        BestFit.Question question = question(queue(Handing.FIT), ticket(1), Scene.knowledge(random, people));
        List<BestFit.Candidate> busy = BestFit.rank(question, List.of(one.with(1)));
        List<BestFit.Candidate> free = BestFit.rank(question, List.of(one));
        if (!free.isEmpty()) {
            assertThat(free.getFirst().score())
                    .isGreaterThanOrEqualTo(busy.getFirst().score());
        }
    }
}

package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Priority;

/** What handing out anew proposes, by example and against every other way to hand out. */
class RebalanceTest {

    private static final Instant NOW = Instant.parse("2027-06-01T08:00:00Z");
    private static final TeamId TEAM = new TeamId(1);

    static LongStream seeds() {
        return Seeds.upTo(120);
    }

    private static Worker person(long id, double limit, Presence presence, SkillId... skills) {
        var can = new java.util.HashMap<SkillId, SkillLevel>();
        Arrays.stream(skills).forEach(skill -> can.put(skill, SkillLevel.EXPERT));
        return new Worker(new PersonId(id), "P" + id, Set.of(TEAM), can, presence, true, 0, limit, Set.of());
    }

    private static Rebalance.Item item(long number, long owner, long dueMinutes, SkillId... needs) {
        return new Rebalance.Item(
                new Waiting(
                        new TicketNumber(number),
                        Priority.P3,
                        "",
                        "",
                        new ContactId(1),
                        NOW,
                        dueMinutes < 0 ? Optional.empty() : Optional.of(NOW.plus(Duration.ofMinutes(dueMinutes))),
                        1,
                        "",
                        List.of()),
                owner == 0 ? Optional.empty() : Optional.of(new PersonId(owner)),
                Set.of(TEAM),
                Set.of(needs));
    }

    @Test
    void what_nobody_has_goes_to_who_has_least_and_what_is_well_where_it_is_stays() {
        var plan = Rebalance.plan(
                List.of(item(1, 1, -1), item(2, 1, -1), item(3, 0, -1)),
                List.of(person(1, 5, Presence.HERE), person(2, 5, Presence.HERE)),
                NOW);
        assertThat(plan.moves()).hasSize(1);
        assertThat(plan.moves().getFirst().to()).isEqualTo(new PersonId(2));
        assertThat(plan.moves().getFirst().why()).contains("nobody has it");
        assertThat(plan.gap()).isZero();
    }

    @Test
    void what_would_be_late_where_it_is_goes_to_who_comes_to_it_in_time() {
        var items = new ArrayList<Rebalance.Item>();
        for (int i = 1; i <= 6; i++) {
            items.add(item(i, 1, 45));
        }
        var plan = Rebalance.plan(items, List.of(person(1, 9, Presence.HERE), person(2, 9, Presence.HERE)), NOW);
        assertThat(plan.lateNow()).isEqualTo(4);
        assertThat(plan.lateThen()).isLessThan(plan.lateNow());
        assertThat(plan.moves()).isNotEmpty().allMatch(move -> move.to().equals(new PersonId(2)));
        assertThat(plan.cost()).isLessThan(plan.costNow());
    }

    @Test
    void who_is_away_loses_what_falls_due_before_long_and_keeps_the_rest() {
        var plan = Rebalance.plan(
                List.of(item(1, 1, 60), item(2, 1, 6000)),
                List.of(person(1, 5, Presence.OFF), person(2, 5, Presence.HERE)),
                NOW);
        assertThat(plan.moves().stream().map(move -> move.ticket().number().value()))
                .contains(1L);
        assertThat(plan.moves().getFirst().why()).contains("P1 is off");
    }

    @Test
    void nobody_gets_what_they_cannot_do_or_more_than_they_take() {
        var customs = new SkillId(7);
        var plan = Rebalance.plan(
                List.of(item(1, 0, 30, customs), item(2, 0, 30, customs), item(3, 0, 30)),
                List.of(
                        person(1, 1, Presence.HERE, customs),
                        person(2, 1, Presence.HERE),
                        person(3, 9, Presence.AWAY, customs)),
                NOW);
        assertThat(plan.moves()).hasSize(2);
        assertThat(plan.moves().stream().filter(move -> move.to().equals(new PersonId(1))))
                .hasSize(1);
        assertThat(plan.moves().stream().noneMatch(move -> move.to().equals(new PersonId(3))))
                .isTrue();
    }

    @Test
    void with_nobody_or_nothing_there_is_nothing_to_propose() {
        assertThat(Rebalance.plan(List.of(), List.of(person(1, 5, Presence.HERE)), NOW)
                        .moves())
                .isEmpty();
        assertThat(Rebalance.plan(List.of(item(1, 0, 30)), List.of(), NOW).moves())
                .isEmpty();
    }

    private record Scene(List<Rebalance.Item> items, List<Worker> people) {
        static Scene random(long seed, int mostTickets, int mostPeople) {
            var random = new Random(seed);
            SkillId[] skills = {new SkillId(1), new SkillId(2)};
            var people = new ArrayList<Worker>();
            int many = 1 + random.nextInt(mostPeople);
            for (int p = 1; p <= many; p++) {
                SkillId[] can = Arrays.copyOf(skills, random.nextInt(3));
                people.add(person(p, random.nextInt(4), random.nextInt(5) == 0 ? Presence.OFF : Presence.HERE, can));
            }
            var items = new ArrayList<Rebalance.Item>();
            int tickets = 1 + random.nextInt(mostTickets);
            for (int t = 1; t <= tickets; t++) {
                SkillId[] needs = random.nextInt(3) == 0 ? new SkillId[] {skills[random.nextInt(2)]} : new SkillId[0];
                items.add(item(t, random.nextInt(many + 1), random.nextInt(8) * 40 - 40, needs));
            }
            return new Scene(items, people);
        }

        HandOutCosts costs() {
            return new HandOutCosts(items, people, NOW);
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void no_way_to_hand_out_costs_less_than_the_bound_and_the_proposal_costs_as_much(long seed) {
        Scene scene = Scene.random(seed, 5, 3);
        HandOutCosts costs = scene.costs();
        HandOutFlow.Solution solution = HandOutFlow.solve(costs);
        long best = best(costs, new int[costs.tickets()], 0);
        assertThat(costs.total(solution.to())).as("the optimum").isEqualTo(best);
        assertThat(solution.bound()).as("the bound").isLessThanOrEqualTo(best);
        assertThat(best - solution.bound()).as("and it is tight").isLessThanOrEqualTo(1);
    }

    /** Every way there is. */
    private static long best(HandOutCosts costs, int[] to, int t) {
        if (t == to.length) {
            return allowed(costs, to) ? costs.total(to) : Long.MAX_VALUE;
        }
        long best = Long.MAX_VALUE;
        for (int p = -1; p < costs.people(); p++) {
            boolean may = p < 0 ? costs.owner(t) < 0 : costs.able(t, p) || costs.owner(t) == p;
            if (may) {
                to[t] = p;
                best = Math.min(best, best(costs, to, t + 1));
            }
        }
        return best;
    }

    private static boolean allowed(HandOutCosts costs, int[] to) {
        for (int p = 0; p < costs.people(); p++) {
            int own = 0;
            int others = 0;
            for (int t = 0; t < to.length; t++) {
                own += to[t] == p && costs.owner(t) == p ? 1 : 0;
                others += to[t] == p && costs.owner(t) != p ? 1 : 0;
            }
            if (others > costs.slots(p) || own + others > costs.slots(p) + costs.over(p)) {
                return false;
            }
        }
        return true;
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void it_costs_no_more_than_handing_out_one_by_one_passes_no_capacity_and_does_not_depend_on_the_order(long seed) {
        Scene scene = Scene.random(seed, 60, 12);
        Rebalance.Plan plan = Rebalance.plan(scene.items(), scene.people(), NOW);
        HandOutCosts costs = scene.costs();
        assertThat(plan.cost()).isLessThanOrEqualTo(costs.total(greedy(costs)));
        assertThat(plan.bound()).isLessThanOrEqualTo(plan.cost());
        assertThat(plan.gap()).isLessThan(2);
        for (Worker one : scene.people()) {
            long gets = plan.moves().stream()
                    .filter(move -> move.to().equals(one.id()))
                    .count();
            assertThat((double) gets).isLessThanOrEqualTo(one.limit());
        }
        var turned = new ArrayList<>(scene.people());
        java.util.Collections.reverse(turned);
        assertThat(Rebalance.plan(scene.items(), turned, NOW)).isEqualTo(plan);
    }

    private static int[] greedy(HandOutCosts costs) {
        int[] to = costs.owners();
        int[] has = new int[costs.people()];
        for (int owner : to) {
            if (owner >= 0) {
                has[owner]++;
            }
        }
        for (int t = 0; t < to.length; t++) {
            int best = -1;
            for (int p = 0; to[t] < 0 && p < costs.people(); p++) {
                boolean fits = costs.able(t, p) && has[p] < costs.slots(p);
                if (fits && (best < 0 || costs.of(t, p) + 4 * has[p] < costs.of(t, best) + 4 * has[best])) {
                    best = p;
                }
            }
            if (best >= 0) {
                to[t] = best;
                has[best]++;
            }
        }
        return to;
    }

    @Test
    void what_takes_much_of_a_person_is_counted_as_much() {
        var heavy = new ArrayList<Rebalance.Item>();
        for (int i = 1; i <= 4; i++) {
            Rebalance.Item plain = item(i, 0, -1);
            Waiting w = plain.ticket();
            heavy.add(new Rebalance.Item(
                    new Waiting(
                            w.number(), w.priority(), "", "", w.contact(), NOW, w.due(), i == 1 ? 4 : 1, "", List.of()),
                    Optional.empty(),
                    plain.pool(),
                    plain.needs()));
        }
        var plan = Rebalance.plan(heavy, List.of(person(1, 4, Presence.HERE)), NOW);
        Map<Long, Double> units = Map.of(1L, 4.0, 2L, 1.0, 3L, 1.0, 4L, 1.0);
        assertThat(plan.moves().stream()
                        .mapToDouble(move ->
                                units.getOrDefault(move.ticket().number().value(), 0.0))
                        .sum())
                .isLessThanOrEqualTo(4);
    }
}

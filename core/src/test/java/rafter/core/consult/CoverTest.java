package rafter.core.consult;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.SkillLevel;

class CoverTest {

    private static final SkillId CUSTOMS = new SkillId(1);
    private static final SkillId REEFER = new SkillId(2);
    private static final SkillId BILLING = new SkillId(3);

    static LongStream seeds() {
        return Seeds.upTo(60);
    }

    @Test
    void one_who_knows_all_of_it_is_asked_and_not_two_who_know_a_part_each() {
        Cover cover = Cover.of(
                Set.of(CUSTOMS, REEFER),
                List.of(able(1, 0, CUSTOMS), able(2, 0, REEFER), able(3, 0.9, CUSTOMS, REEFER)));

        assertThat(names(cover)).containsExactly("P3");
        assertThat(cover.asked().getFirst().knows()).containsOnlyKeys(CUSTOMS, REEFER);
        assertThat(cover.missing()).isEmpty();
    }

    @Test
    void of_two_who_know_it_the_one_with_less_to_do_is_asked() {
        assertThat(names(Cover.of(Set.of(CUSTOMS), List.of(able(1, 0.5, CUSTOMS), able(2, 0.2, CUSTOMS)))))
                .containsExactly("P2");
    }

    @Test
    void a_trifle_of_load_does_not_decide_but_who_is_an_expert_does() {
        assertThat(names(Cover.of(
                        Set.of(CUSTOMS),
                        List.of(
                                able(1, 0.50, CUSTOMS),
                                person(2, 0.52, Map.of(CUSTOMS, SkillLevel.EXPERT), Duration.ofHours(1))))))
                .containsExactly("P2");
    }

    @Test
    void all_else_alike_those_are_asked_who_have_more_of_the_day_left_together() {
        var able = Map.of(CUSTOMS, SkillLevel.ABLE);

        assertThat(names(Cover.of(
                        Set.of(CUSTOMS),
                        List.of(
                                person(1, 0, able, Duration.ofHours(1)),
                                person(2, 0, able, Duration.ofHours(5)),
                                person(3, 0, able, Duration.ofHours(3))))))
                .containsExactly("P2");
    }

    @Test
    void who_learns_a_skill_is_not_asked_for_it() {
        Cover cover = Cover.of(
                Set.of(CUSTOMS), List.of(person(1, 0, Map.of(CUSTOMS, SkillLevel.LEARNING), Duration.ofHours(1))));

        assertThat(cover.asked()).isEmpty();
        assertThat(cover.missing()).containsExactly(new Cover.Missing(CUSTOMS, List.of()));
    }

    @Test
    void what_nobody_knows_who_can_come_is_said_with_those_who_know_it_the_soonest_back_first() {
        Instant nine = Instant.parse("2026-03-02T09:00:00Z");
        Candidate tomorrow = away(able(1, 0, CUSTOMS), Optional.of(nine.plus(Duration.ofDays(1))));
        Candidate unknown = away(able(2, 0, CUSTOMS), Optional.empty());
        Candidate today = away(able(3, 0, CUSTOMS), Optional.of(nine));

        Cover cover = Cover.of(Set.of(CUSTOMS, BILLING), List.of(tomorrow, unknown, today, able(4, 0, BILLING)));

        assertThat(names(cover)).containsExactly("P4");
        assertThat(cover.missing()).singleElement().satisfies(missing -> {
            assertThat(missing.skill()).isEqualTo(CUSTOMS);
            assertThat(missing.others()).containsExactly(today, tomorrow, unknown);
        });
    }

    @Test
    void nothing_needed_asks_nobody() {
        assertThat(Cover.of(Set.of(), List.of(able(1, 0, CUSTOMS)))).isEqualTo(new Cover(List.of(), List.of()));
    }

    @Test
    void more_than_thirty_skills_are_refused() {
        Set<SkillId> many = IntStream.rangeClosed(1, 31).mapToObj(SkillId::new).collect(Collectors.toSet());

        assertThatThrownBy(() -> Cover.of(many, List.of())).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void when_somebody_declines_the_next_is_asked_for_what_only_they_knew() {
        List<Candidate> people = List.of(
                able(1, 0, CUSTOMS, REEFER), able(2, 0, REEFER), able(3, 0.5, CUSTOMS), able(4, 0.1, CUSTOMS, BILLING));

        Cover next = Cover.next(
                Set.of(CUSTOMS, REEFER, BILLING), people, who -> who.equals(who(4)), who -> who.equals(who(1)));

        assertThat(names(next)).containsExactly("P2");
        assertThat(next.missing()).isEmpty();
    }

    @Test
    void colleagues_come_before_people_from_outside_where_all_else_is_alike() {
        var outside = new Candidate(
                new Who.Outside(new ExpertId(1)),
                "Outside",
                Map.of(CUSTOMS, SkillLevel.ABLE),
                0,
                Optional.empty(),
                Duration.ofHours(4),
                Optional.empty());

        assertThat(names(Cover.of(Set.of(CUSTOMS), List.of(outside, able(7, 0, CUSTOMS)))))
                .containsExactly("P7");
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void it_is_what_trying_all_groups_finds(long seed) {
        var random = new Random(seed);
        List<SkillId> skills = IntStream.rangeClosed(1, 1 + random.nextInt(6))
                .mapToObj(SkillId::new)
                .toList();
        List<Candidate> people = crowd(random, 1 + random.nextInt(9), skills, 0.35);

        Cover cover = Cover.of(Set.copyOf(skills), people);

        Set<SkillId> known = skills.stream()
                .filter(skill -> people.stream().anyMatch(one -> one.knows(skill)))
                .collect(Collectors.toSet());
        List<Candidate> chosen =
                cover.asked().stream().map(Cover.Chosen::candidate).toList();
        assertThat(covered(chosen)).containsAll(known);
        assertThat(worth(chosen, known)).isEqualTo(bestOfAll(people, known));
        assertThat(cover.missing().stream().map(Cover.Missing::skill))
                .containsExactlyInAnyOrderElementsOf(
                        skills.stream().filter(one -> !known.contains(one)).toList());
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void it_does_not_depend_on_the_order_of_the_people(long seed) {
        var random = new Random(seed);
        List<SkillId> skills =
                IntStream.rangeClosed(1, 12).mapToObj(SkillId::new).toList();
        List<Candidate> people = crowd(random, 40, skills, 0.2);
        var shuffled = new ArrayList<>(people);
        Collections.shuffle(shuffled, random);

        assertThat(Cover.of(Set.copyOf(skills), shuffled)).isEqualTo(Cover.of(Set.copyOf(skills), people));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void nobody_of_it_can_be_left_out(long seed) {
        var random = new Random(seed);
        List<SkillId> skills =
                IntStream.rangeClosed(1, 30).mapToObj(SkillId::new).toList();

        List<Candidate> chosen = Cover.of(Set.copyOf(skills), crowd(random, 200, skills, 0.15)).asked().stream()
                .map(Cover.Chosen::candidate)
                .toList();

        for (Candidate one : chosen) {
            List<Candidate> others =
                    chosen.stream().filter(other -> other != one).toList();
            assertThat(covered(others)).isNotEqualTo(covered(chosen));
        }
    }

    /** How good a group is, in the order in which it counts; less is better. */
    private static List<Long> worth(List<Candidate> group, Set<SkillId> needed) {
        return List.of(
                (long) group.size(),
                group.stream().mapToLong(one -> Math.round(one.load() * 10)).sum(),
                -group.stream()
                        .mapToLong(one -> needed.stream().filter(one::expert).count())
                        .sum(),
                -group.stream()
                        .mapToLong(one -> one.left().toMinutes() / 15)
                        .min()
                        .orElse(0));
    }

    private static List<Long> bestOfAll(List<Candidate> people, Set<SkillId> needed) {
        Comparator<List<Long>> byWorth = (a, b) -> IntStream.range(0, a.size())
                .map(i -> Long.compare(a.get(i), b.get(i)))
                .filter(less -> less != 0)
                .findFirst()
                .orElse(0);
        return IntStream.range(0, 1 << people.size())
                .mapToObj(bits -> IntStream.range(0, people.size())
                        .filter(i -> (bits >> i & 1) == 1)
                        .mapToObj(people::get)
                        .toList())
                .filter(group -> covered(group).containsAll(needed))
                .map(group -> worth(group, needed))
                .min(byWorth)
                .orElseThrow();
    }

    private static Set<SkillId> covered(List<Candidate> group) {
        return group.stream()
                .flatMap(one -> one.skills().keySet().stream().filter(one::knows))
                .collect(Collectors.toSet());
    }

    private static List<Candidate> crowd(Random random, int people, List<SkillId> skills, double share) {
        return IntStream.rangeClosed(1, people)
                .mapToObj(i -> {
                    var levels = new HashMap<SkillId, SkillLevel>();
                    skills.stream()
                            .filter(skill -> random.nextDouble() < share)
                            .forEach(skill -> levels.put(skill, SkillLevel.values()[random.nextInt(3)]));
                    return person(i, random.nextInt(5) / 10.0, levels, Duration.ofMinutes(15L * random.nextInt(20)));
                })
                .toList();
    }

    private static Who who(long id) {
        return new Who.Colleague(new PersonId(id));
    }

    private static Candidate able(long id, double load, SkillId... skills) {
        return person(
                id,
                load,
                List.of(skills).stream().collect(Collectors.toMap(skill -> skill, skill -> SkillLevel.ABLE)),
                Duration.ofHours(4));
    }

    private static Candidate person(long id, double load, Map<SkillId, SkillLevel> skills, Duration left) {
        return new Candidate(who(id), "P" + id, skills, load, Optional.empty(), left, Optional.empty());
    }

    private static Candidate away(Candidate one, Optional<Instant> next) {
        return new Candidate(one.who(), one.name(), one.skills(), one.load(), Optional.of("is away"), one.left(), next);
    }

    private static List<String> names(Cover cover) {
        return cover.asked().stream().map(one -> one.candidate().name()).toList();
    }
}

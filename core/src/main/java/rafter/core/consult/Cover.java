package rafter.core.consult;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import rafter.core.id.SkillId;
import rafter.core.routing.SkillLevel;

/**
 * Who is asked into a consult: the fewest people who can come and together know all that is needed. Of as few, those with the least load, counted
 * in tenths of what each takes; of these, those who know the most of it as experts; of these, those who have the most of the day left together.
 *
 * @param asked who is asked, each with what they know of it
 * @param missing what nobody knows who can come, each with those who know it and why they cannot
 */
public record Cover(List<Chosen> asked, List<Missing> missing) {

    /** A consult needs no more than this. */
    public static final int MOST_SKILLS = 30;

    private static final long TENTH_OF_LOAD = 1_000;
    private static final int MOST_TENTHS = 30;
    private static final long QUARTER = Duration.ofMinutes(15).toSeconds();

    public Cover {
        asked = List.copyOf(asked);
        missing = List.copyOf(missing);
    }

    /** Somebody who is asked, and the levels at which they know what is needed. */
    public record Chosen(Candidate candidate, Map<SkillId, SkillLevel> knows) {}

    /** What nobody knows who can come; of those who know it, who is there soonest comes first. */
    public record Missing(SkillId skill, List<Candidate> others) {}

    /**
     * Finds them. Does not depend on the order of the people; the search is exact.
     *
     * @param wanted what is needed, at most {@value #MOST_SKILLS}
     * @throws IllegalArgumentException when more is needed than that
     */
    public static Cover of(Set<SkillId> wanted, Collection<Candidate> people) {
        if (wanted.size() > MOST_SKILLS) {
            throw new IllegalArgumentException("a consult needs at most " + MOST_SKILLS + " skills");
        }
        List<Candidate> here = people.stream()
                .filter(one -> one.can() && one.knowsAny(wanted))
                .sorted(Comparator.comparing(Candidate::who))
                .toList();
        Set<SkillId> known = new TreeSet<>(Comparator.comparingLong(SkillId::value));
        wanted.stream()
                .filter(skill -> here.stream().anyMatch(one -> one.knows(skill)))
                .forEach(known::add);
        List<Chosen> asked = known.isEmpty()
                ? List.of()
                : longestTogether(List.copyOf(known), here).stream()
                        .map(one -> new Chosen(one, levels(one, wanted)))
                        .toList();
        Set<SkillId> missing = new HashSet<>(wanted);
        missing.removeAll(known);
        return new Cover(asked, missing(missing, people));
    }

    /**
     * Who is asked when somebody did not come: the fewest for what nobody knows now of those who came or are asked.
     *
     * @param there who came or is still asked
     * @param not who is not asked again
     */
    public static Cover next(
            Set<SkillId> wanted, Collection<Candidate> people, Predicate<Who> there, Predicate<Who> not) {
        Set<SkillId> open = new HashSet<>(wanted);
        people.stream().filter(one -> there.test(one.who())).forEach(one -> open.removeIf(one::knows));
        return of(
                open,
                people.stream()
                        .filter(one -> !there.test(one.who()))
                        .map(one -> not.test(one.who()) ? one.hindered("was asked already") : one)
                        .toList());
    }

    /** Among the covers that cost the least: the one whose people have the most of their day left together, in quarters of an hour. */
    private static List<Candidate> longestTogether(List<SkillId> skills, List<Candidate> here) {
        long whole = (1L << skills.size()) - 1;
        long[] sets = here.stream().mapToLong(one -> bits(skills, one::knows)).toArray();
        long[] costs = here.stream().mapToLong(one -> cost(skills, one)).toArray();
        List<Integer> best = LeastCover.of(whole, sets, costs);
        long cost = best.stream().mapToLong(i -> costs[i]).sum();
        List<Long> times =
                here.stream().map(Cover::quarters).distinct().sorted().toList();
        int low = times.indexOf(together(best, here));
        int high = times.size() - 1;
        while (low < high) {
            long middle = times.get((low + high + 1) / 2);
            long[] longer = IntStream.range(0, sets.length)
                    .mapToLong(i -> quarters(here.get(i)) >= middle ? sets[i] : 0)
                    .toArray();
            List<Integer> cover = LeastCover.within(whole, longer, costs, best.size(), cost);
            if (cover.isEmpty()) {
                high = times.indexOf(middle) - 1;
            } else {
                best = cover;
                low = times.indexOf(together(cover, here));
            }
        }
        return best.stream().map(here::get).toList();
    }

    private static long quarters(Candidate one) {
        return one.left().toSeconds() / QUARTER;
    }

    private static long together(List<Integer> cover, List<Candidate> here) {
        return cover.stream().mapToLong(i -> quarters(here.get(i))).min().orElse(0);
    }

    private static long bits(List<SkillId> skills, Predicate<SkillId> has) {
        long bits = 0;
        for (int i = 0; i < skills.size(); i++) {
            bits |= has.test(skills.get(i)) ? 1L << i : 0;
        }
        return bits;
    }

    private static long cost(List<SkillId> skills, Candidate one) {
        long experts = skills.stream().filter(one::expert).count();
        return TENTH_OF_LOAD * tenths(one) + MOST_SKILLS - experts;
    }

    private static long tenths(Candidate one) {
        return Math.round(Math.min(MOST_TENTHS, one.load() * 10));
    }

    private static Map<SkillId, SkillLevel> levels(Candidate one, Set<SkillId> wanted) {
        return one.skills().entrySet().stream()
                .filter(skill ->
                        wanted.contains(skill.getKey()) && skill.getValue().covers())
                .collect(Collectors.toMap(
                        Map.Entry::getKey,
                        Map.Entry::getValue,
                        (a, b) -> a,
                        () -> new TreeMap<>(Comparator.comparingLong(SkillId::value))));
    }

    private static List<Missing> missing(Set<SkillId> skills, Collection<Candidate> people) {
        Comparator<Candidate> soonest = Comparator.comparing(
                        (Candidate one) -> one.next().orElse(Instant.MAX))
                .thenComparing(Candidate::who);
        return skills.stream()
                .sorted(Comparator.comparingLong(SkillId::value))
                .map(skill -> new Missing(
                        skill,
                        people.stream()
                                .filter(one -> one.knows(skill))
                                .sorted(soonest)
                                .toList()))
                .toList();
    }
}

package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.measure.Share;

/** Who should take a ticket: everybody in order, each with what speaks for them. O(p log p + p · s) for p people and s skills needed. */
public final class BestFit {

    /** A target further away than this leaves everybody enough time. */
    private static final Duration FAR = Duration.ofHours(8);

    private BestFit() {}

    /**
     * Somebody, as far as they fit.
     *
     * @param score of a hundred
     * @param values each factor's value, of one
     * @param hindrance why they cannot take it now; nothing when they can
     */
    public record Candidate(Worker worker, double score, Map<Factor, Double> values, Optional<String> hindrance) {
        /** Whether they can take it now. */
        public boolean can() {
            return hindrance.isEmpty();
        }
    }

    /**
     * What is asked of a ranking.
     *
     * @param pool the teams whose people come into question
     * @param needs all that is needed, see {@link Queue#needs}
     * @param weights what each factor counts
     * @param topic of all tickets on its topic that were resolved, how many did not come back
     */
    public record Question(
            Waiting ticket,
            Set<TeamId> pool,
            Set<SkillId> needs,
            Map<Factor, Integer> weights,
            Share topic,
            Function<PersonId, Knowledge> knowledge,
            Instant now) {}

    /** Everybody of the pool, who can take it first and the best before the others. Does not depend on the order of the people. */
    public static List<Candidate> rank(Question question, Collection<Worker> people) {
        return people.stream()
                .filter(worker -> worker.teams().stream().anyMatch(question.pool()::contains))
                .map(worker -> candidate(question, worker))
                .sorted(Comparator.comparingInt((Candidate one) -> one.can() ? 0 : 1)
                        .thenComparing(
                                Comparator.comparingDouble(Candidate::score).reversed())
                        .thenComparingDouble(one -> one.worker().load())
                        .thenComparing(one -> one.worker().id()))
                .toList();
    }

    private static Candidate candidate(Question question, Worker worker) {
        Set<SkillId> needed = question.needs();
        var values = new EnumMap<Factor, Double>(Factor.class);
        Knowledge known = question.knowledge().apply(worker.id());
        values.put(Factor.SKILLS, skills(worker, needed));
        values.put(Factor.ROOM, Math.max(0, 1 - Math.min(1, worker.load())));
        values.put(Factor.CUSTOMER, known.customerScore());
        values.put(Factor.TOPIC, known.topicScore(question.topic()));
        values.put(Factor.LANGUAGE, language(worker, question.ticket().language()));
        values.put(Factor.TIME, time(question, known));
        double sum = 0;
        int all = 0;
        for (Factor factor : Factor.values()) {
            int weight = question.weights().getOrDefault(factor, 0);
            sum += weight * values.getOrDefault(factor, 0.0);
            all += weight;
        }
        return new Candidate(
                worker, all == 0 ? 0 : 100 * sum / all, values, hindrance(worker, needed, question.ticket()));
    }

    private static Optional<String> hindrance(Worker worker, Set<SkillId> needed, Waiting ticket) {
        List<String> why = new ArrayList<>();
        worker.unavailable().ifPresent(why::add);
        if (!worker.hasRoom(ticket.units())) {
            why.add("has no room");
        }
        if (!covers(worker, needed)) {
            why.add("lacks a skill");
        }
        return why.isEmpty() ? Optional.empty() : Optional.of(String.join(", ", why));
    }

    /** Whether somebody has all that is needed, and well enough. */
    public static boolean covers(Worker worker, Set<SkillId> needed) {
        return needed.stream()
                .allMatch(skill -> Optional.ofNullable(worker.skills().get(skill))
                        .filter(SkillLevel::covers)
                        .isPresent());
    }

    static double skills(Worker worker, Set<SkillId> needed) {
        return needed.stream()
                .mapToDouble(skill -> Optional.ofNullable(worker.skills().get(skill))
                        .map(SkillLevel::worth)
                        .orElse(0.0))
                .average()
                .orElse(1);
    }

    static double language(Worker worker, String language) {
        if (language.isBlank() || worker.languages().isEmpty()) {
            return 0.5;
        }
        String spoken = language.split("-", 2)[0];
        return worker.languages().stream().anyMatch(one -> one.split("-", 2)[0].equalsIgnoreCase(spoken)) ? 1 : 0;
    }

    /** Of the time until it is due, how much is left when they come to it. */
    private static double time(Question question, Knowledge known) {
        Duration left = question.ticket()
                .due()
                .map(due -> Duration.between(question.now(), due))
                .orElse(FAR);
        if (left.isNegative() || left.isZero()) {
            return known.ahead() == 0 ? 1 : 0;
        }
        double of = Math.min((double) FAR.toMinutes(), left.toMinutes() + 1.0);
        return Math.max(0, Math.min(1, 1 - (double) known.ahead() / of));
    }
}

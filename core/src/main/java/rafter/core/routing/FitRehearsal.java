package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/**
 * What best fit would have done over a time that has passed, against what people did. Its own choices change who has what from then on: a ticket
 * counts as load of whom it would have chosen for as long as it was load of whom people chose.
 */
public final class FitRehearsal {

    private static final int FIRST_FEW = 3;
    private static final int EXAMPLES = 20;

    private FitRehearsal() {}

    /**
     * That a ticket was handed to somebody.
     *
     * @param question what would have been asked of a ranking then
     * @param people everybody as they stood then, with what they really had, this ticket not among it
     * @param until how long it was load of theirs; empty: it is still
     */
    public record Choice(BestFit.Question question, List<Worker> people, PersonId chosen, Optional<Instant> until) {
        public Choice {
            people = List.copyOf(people);
        }

        Instant at() {
            return question.now();
        }
    }

    /** One on which they differ. */
    public record Example(
            TicketNumber ticket, Instant at, PersonId chosen, double itsScore, PersonId best, double bestScore) {}

    /**
     * What came of one of the two.
     *
     * @param highest the largest load of anybody here, of one, on average over the choices
     * @param late how many tickets somebody would have come to when they were late: who has so many before it, each of which takes the same time
     * @param got how many each got
     */
    public record Way(double highest, int late, Map<PersonId, Integer> got) {
        public Way {
            got = Map.copyOf(got);
        }
    }

    /**
     * What came out.
     *
     * @param same in how many they agree, {@code few} of how many people chose one of the first three
     * @param could in how many the chosen one could have taken it, by what best fit asks
     * @param nobody in how many best fit would have found nobody, so that the choice of people stands
     */
    public record Report(
            int choices, int same, int few, int could, int nobody, Way people, Way fit, List<Example> examples) {
        public Report {
            examples = List.copyOf(examples);
        }
    }

    /**
     * Rehearses. O(c · (p log p + c)) for c choices and p people.
     *
     * @param choices in any order
     * @param each how long a ticket takes of somebody
     */
    public static Report of(Collection<Choice> choices, Duration each) {
        var run = new Run(each);
        choices.stream()
                .sorted(Comparator.comparing(Choice::at)
                        .thenComparing(one -> one.question().ticket().number()))
                .forEach(run::take);
        return run.report();
    }

    /** A ticket that the two gave to different people, for as long as it is load. */
    private record Moved(PersonId from, PersonId to, double units, Optional<Instant> until) {}

    private static final class Run {
        private final Duration each;
        private final List<Moved> moved = new ArrayList<>();
        private final List<Example> examples = new ArrayList<>();
        private final Tally people = new Tally();
        private final Tally fit = new Tally();
        private int choices;
        private int same;
        private int few;
        private int could;
        private int nobody;

        Run(Duration each) {
            this.each = each;
        }

        void take(Choice choice) {
            choices++;
            moved.removeIf(
                    one -> one.until().filter(end -> !end.isAfter(choice.at())).isPresent());
            List<Worker> then = choice.people().stream().map(this::as).toList();
            List<BestFit.Candidate> ranked = BestFit.rank(choice.question(), then);
            List<BestFit.Candidate> able =
                    ranked.stream().filter(BestFit.Candidate::can).toList();
            PersonId best =
                    able.isEmpty() ? choice.chosen() : able.getFirst().worker().id();
            if (able.isEmpty()) {
                nobody++;
            }
            same += best.equals(choice.chosen()) ? 1 : 0;
            few += able.stream().limit(FIRST_FEW).anyMatch(one -> is(one, choice.chosen())) ? 1 : 0;
            could += able.stream().anyMatch(one -> is(one, choice.chosen())) ? 1 : 0;
            people.got(choice, choice.people(), choice.chosen(), each);
            fit.got(choice, then, best, each);
            if (!best.equals(choice.chosen())) {
                moved.add(new Moved(
                        choice.chosen(), best, choice.question().ticket().units(), choice.until()));
                example(choice, best, ranked);
            }
        }

        private static boolean is(BestFit.Candidate one, PersonId person) {
            return one.worker().id().equals(person);
        }

        /** Somebody with what they would have had. */
        private Worker as(Worker worker) {
            double more = 0;
            for (Moved one : moved) {
                more += one.to().equals(worker.id()) ? one.units() : 0;
                more -= one.from().equals(worker.id()) ? one.units() : 0;
            }
            return worker.with(Math.max(-worker.used(), more));
        }

        private void example(Choice choice, PersonId best, List<BestFit.Candidate> ranked) {
            if (examples.size() >= EXAMPLES) {
                examples.removeFirst();
            }
            examples.add(new Example(
                    choice.question().ticket().number(),
                    choice.at(),
                    choice.chosen(),
                    score(ranked, choice.chosen()),
                    best,
                    score(ranked, best)));
        }

        private static double score(List<BestFit.Candidate> ranked, PersonId person) {
            return ranked.stream()
                    .filter(one -> is(one, person))
                    .mapToDouble(BestFit.Candidate::score)
                    .findFirst()
                    .orElse(0);
        }

        Report report() {
            return new Report(
                    choices, same, few, could, nobody, people.way(choices), fit.way(choices), examples.reversed());
        }
    }

    private static final class Tally {
        private final Map<PersonId, Integer> got = new HashMap<>();
        private double highest;
        private int late;

        void got(Choice choice, List<Worker> people, PersonId by, Duration each) {
            got.merge(by, 1, Integer::sum);
            double units = choice.question().ticket().units();
            double most = 0;
            for (Worker worker : people) {
                Worker after = worker.id().equals(by) ? worker.with(units) : worker;
                most = after.presence() == Presence.HERE && after.limit() > 0 ? Math.max(most, after.load()) : most;
                if (worker.id().equals(by)) {
                    Instant comes = choice.at().plus(each.multipliedBy((long) Math.ceil(after.used())));
                    late += choice.question()
                                    .ticket()
                                    .due()
                                    .filter(comes::isAfter)
                                    .isPresent()
                            ? 1
                            : 0;
                }
            }
            highest += most;
        }

        Way way(int choices) {
            return new Way(choices == 0 ? 0 : highest / choices, late, got);
        }
    }
}

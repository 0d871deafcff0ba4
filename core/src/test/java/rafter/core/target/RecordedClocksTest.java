package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.Recorded;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.ticket.Priority;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.time.Entry;
import rafter.core.time.Repeat;

/** Random histories under random versions of hours and targets: what each clock said stays said. */
class RecordedClocksTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

    private static List<Entry> week(int opens, int closes) {
        LocalDate first = LocalDate.of(2027, 3, 1);
        return List.of(Entry.of(
                "week",
                "",
                Entry.Kind.OPENING,
                first.atTime(opens, 0),
                first.atTime(closes, 0),
                Optional.of(Repeat.of("FREQ=WEEKLY;COUNT=120;BYDAY=MO,TU,WE,TH,FR"))));
    }

    private static Policy policy(Random random, String id, Criteria criteria) {
        var goals = new HashMap<Objective, Goal>();
        var steps = new ArrayList<Step>();
        for (Objective objective : Objective.values()) {
            var within = new EnumMap<Priority, Duration>(Priority.class);
            for (Priority priority : Priority.values()) {
                if (random.nextInt(5) > 0) {
                    within.put(priority, Duration.ofMinutes(30L * (1 + random.nextInt(30))));
                }
            }
            if (!within.isEmpty()) {
                Set<Turn> held = random.nextBoolean()
                        ? Set.of(Turn.CUSTOMER)
                        : random.nextBoolean() ? Set.of(Turn.CUSTOMER, Turn.PARTNER) : Set.of();
                goals.put(objective, new Goal(within, held, 90 + random.nextInt(11), random.nextInt(4) == 0));
            }
            steps.add(new Step(id + objective + 1, objective, new Step.When.Used(20 + random.nextInt(80)), List.of()));
            steps.add(new Step(
                    id + objective + 2,
                    objective,
                    random.nextBoolean()
                            ? new Step.When.After(Duration.ofHours(random.nextInt(5)))
                            : new Step.When.Before(Duration.ofMinutes(45)),
                    List.of()));
        }
        return new Policy(
                id,
                id,
                "",
                random.nextInt(8) > 0,
                criteria,
                random.nextInt(4) == 0 ? Optional.empty() : Optional.of(random.nextBoolean() ? "short" : "long"),
                goals,
                steps);
    }

    private static Editions editions(Random random, Instant from) {
        var plans = List.of(
                new CalendarPlan("short", "Short", Optional.empty(), false, week(9, 15), List.of()),
                new CalendarPlan("long", "Long", Optional.empty(), false, week(7, 20), List.of()));
        var all = new ArrayList<Editions.Edition>();
        Instant at = Instant.EPOCH;
        for (int i = 0; i <= random.nextInt(3); i++) {
            all.add(new Editions.Edition(
                    at,
                    new PromiseBook(
                            OSLO,
                            "short",
                            plans,
                            List.of(),
                            List.of(
                                    policy(
                                            random,
                                            "urgent",
                                            Criteria.test(KnownField.PRIORITY, Operator.AT_LEAST, "P2")),
                                    policy(
                                            random,
                                            "rest",
                                            Criteria.test(KnownField.TAGS, Operator.HAS_NONE, "lost"))))));
            at = (i == 0 ? from : at).plusSeconds(1 + random.nextInt(300_000));
        }
        return Editions.of(all);
    }

    @Test
    void each_clock_says_what_it_said() {
        var lines = new ArrayList<String>();
        for (int seed = 0; seed < Seeds.rounds(160); seed++) {
            var random = new Random(seed);
            List<TicketEvent> events = RandomHistory.of(seed);
            Editions editions = editions(random, events.getFirst().at());
            Instant last = events.getLast().at();
            Duration life = Duration.between(events.getFirst().at(), last);
            for (Instant now : List.of(
                    events.getFirst().at().plus(life.dividedBy(2)), last.plus(Duration.ofHours(random.nextInt(50))))) {
                var said = new StringBuilder(seed + ":");
                Reckoning.reckon(events, Facts.none(), editions, now)
                        .forEach(clock -> said.append(' ')
                                .append(written(clock, events.getFirst().at())));
                lines.add(said.toString());
            }
        }
        Recorded.check("clocks", lines);
    }

    /** Times as seconds since the ticket was opened. */
    private static String written(TargetClock clock, Instant opened) {
        return "[" + clock.objective() + " " + since(clock.started(), opened) + " "
                + clock.state().getClass().getSimpleName() + " used "
                + clock.used().toSeconds() + " of "
                + clock.allowed().toSeconds() + (clock.late() ? " late" : "") + " due "
                + clock.dueMark().map(at -> since(at, opened)).orElse("-") + " owner "
                + clock.owner().orElse(new PersonId(0))
                + (clock.reachedLate() ? " reached late" : "") + " segments "
                + clock.segments().size() + " changes "
                + clock.changes().stream()
                        .map(c -> c.why() + "@" + since(c.at(), opened)
                                + c.dueBefore()
                                        .map(at -> "<" + since(at, opened))
                                        .orElse("")
                                + c.dueAfter()
                                        .map(at -> ">" + since(at, opened))
                                        .orElse(""))
                        .toList()
                + " steps "
                + clock.steps().stream()
                        .map(step -> step.step().id().substring(step.step().id().length() - 1) + "@"
                                + since(step.at(), opened))
                        .toList()
                + " risk "
                + clock.riskFrom().map(at -> since(at, opened)).orElse("-") + (clock.atRisk() ? "!" : "") + "]";
    }

    private static String since(Instant at, Instant opened) {
        return Long.toString(Duration.between(opened, at).toSeconds());
    }
}

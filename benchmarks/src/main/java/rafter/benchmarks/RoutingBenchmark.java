package rafter.benchmarks;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import rafter.core.consult.Candidate;
import rafter.core.consult.Cover;
import rafter.core.consult.Who;
import rafter.core.criteria.Criteria;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.routing.BestFit;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOut;
import rafter.core.routing.Handing;
import rafter.core.routing.Knowledge;
import rafter.core.routing.Ordering;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Rebalance;
import rafter.core.routing.SkillLevel;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.ticket.Priority;

/** Who gets one ticket among five hundred people with forty skills, handing out five thousand anew among two hundred, and who is asked into a consult. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 4, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(1)
public class RoutingBenchmark {

    private static final Instant NOW = Instant.parse("2027-03-01T09:00:00Z");
    private static final TeamId TEAM = new TeamId(1);
    private static final int SKILLS = 40;

    private List<Worker> fiveHundred = List.of();
    private List<Worker> twoHundred = List.of();
    private List<Rebalance.Item> items = List.of();
    private Queue queue = queue();
    private Set<SkillId> thirty = Set.of();
    private List<Candidate> candidates = List.of();

    @Setup
    public void setUp() {
        var random = new Random(7);
        fiveHundred = people(random, 500);
        twoHundred = people(random, 200);
        queue = queue();
        thirty = IntStream.range(0, 30).mapToObj(SkillId::new).collect(Collectors.toSet());
        candidates = twoHundred.stream().map(RoutingBenchmark::candidate).toList();
        var all = new ArrayList<Rebalance.Item>();
        for (int i = 0; i < 5_000; i++) {
            Optional<PersonId> owner =
                    random.nextInt(3) == 0 ? Optional.empty() : Optional.of(new PersonId(1 + random.nextInt(200)));
            all.add(new Rebalance.Item(
                    ticket(i, random),
                    owner,
                    Set.of(TEAM),
                    random.nextInt(2) == 0 ? Set.of() : Set.of(new SkillId(random.nextInt(SKILLS)))));
        }
        items = all;
    }

    private static Candidate candidate(Worker worker) {
        return new Candidate(
                new Who.Colleague(worker.id()),
                worker.name(),
                worker.skills(),
                worker.load(),
                worker.unavailable(),
                Duration.ofMinutes(15 * (worker.id().value() % 30)),
                Optional.empty());
    }

    private static Waiting ticket(int number, Random random) {
        return new Waiting(
                new TicketNumber(number),
                Priority.values()[random.nextInt(4)],
                "",
                "",
                new ContactId(1),
                NOW.minusSeconds(random.nextInt(9_000)),
                Optional.of(NOW.plus(Duration.ofMinutes(random.nextInt(900)))),
                1,
                "en",
                List.of());
    }

    private static List<Worker> people(Random random, int many) {
        var people = new ArrayList<Worker>();
        for (int i = 1; i <= many; i++) {
            Map<SkillId, SkillLevel> skills = new HashMap<>();
            for (int s = 0; s < 12; s++) {
                skills.put(new SkillId(random.nextInt(SKILLS)), SkillLevel.values()[random.nextInt(3)]);
            }
            people.add(new Worker(
                    new PersonId(i),
                    "P" + i,
                    Set.of(TEAM),
                    skills,
                    random.nextInt(8) == 0 ? Presence.AWAY : Presence.HERE,
                    true,
                    random.nextInt(20),
                    30,
                    Set.of("en")));
        }
        return people;
    }

    private static Queue queue() {
        return new Queue(
                new QueueId(1),
                "All",
                true,
                Criteria.everything(),
                new Ordering.Due(),
                Set.of(TEAM),
                new HashSet<>(List.of(new SkillId(3), new SkillId(11))),
                Handing.FIT,
                Duration.ofMinutes(1),
                Optional.of(Duration.ZERO),
                List.of());
    }

    /** One decision. */
    @Benchmark
    public HandOut.Decision decideAmongFiveHundred() {
        Waiting ticket = items.getFirst().ticket();
        var question = new BestFit.Question(
                ticket,
                Set.of(TEAM),
                queue.needs(ticket),
                Factor.weights(),
                new Share(70, 100),
                person -> new Knowledge(1, false, new Share(5, 6), 40),
                NOW);
        return HandOut.decide(queue, question, fiveHundred, Optional.empty(), Set.of());
    }

    /** The whole hand-out anew, with its bound. */
    @Benchmark
    public Rebalance.Plan handOutAnew() {
        return Rebalance.plan(items, twoHundred, NOW);
    }

    /** Who is asked into a consult that needs thirty skills, among two hundred people. */
    @Benchmark
    public Cover coverThirtySkills() {
        return Cover.of(thirty, candidates);
    }
}

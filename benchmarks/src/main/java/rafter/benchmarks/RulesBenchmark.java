package rafter.benchmarks;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
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
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.rule.Occasion;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleChecks;
import rafter.core.rule.RuleTrial;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Way;

/** Five hundred rules on arrival with five thousand words, read for one ticket. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 5, time = 1)
@Measurement(iterations = 5, time = 1)
@Fork(1)
public class RulesBenchmark {

    private static final Instant AT = Instant.parse("2027-03-01T09:00:00Z");

    private RuleTrial.Tried book = RuleTrial.Tried.of(RuleBook.EMPTY);
    private RuleTrial.Stood ticket = new RuleTrial.Stood(Facts.none(), List.of(), events -> List.of());

    /** A book and a ticket whose message has a hundred and twenty words. */
    @Setup
    public void setUp() {
        var random = new Random(7);
        List<Rule> rules =
                IntStream.range(0, 500).mapToObj(i -> rule(i, random)).toList();
        book = RuleTrial.Tried.of(new RuleBook(List.of(new RuleBook.Section("s", "All", rules))));
        String text =
                IntStream.range(0, 120).mapToObj(word -> word(random, 60_000)).collect(Collectors.joining(" "));
        var who = new Actor.Contact(new ContactId(1));
        List<TicketEvent> events = List.of(
                new TicketEvent.Opened(
                        AT,
                        who,
                        TicketEvent.Origin.CUSTOMER,
                        Way.by("email"),
                        "About it",
                        new ContactId(1),
                        Priority.P3,
                        Optional.empty()),
                new TicketEvent.CustomerWrote(AT, who, new MessageId(1), false));
        ticket = new RuleTrial.Stood(Facts.none().with(KnownField.FIRST_MESSAGE, text), events, all -> List.of());
    }

    private static Rule rule(int i, Random random) {
        String[] words =
                IntStream.range(0, 10).mapToObj(word -> word(random, 60_000)).toArray(String[]::new);
        return new Rule(
                "r" + i,
                "Rule " + i,
                "",
                true,
                new Occasion.Arrival(),
                Criteria.test(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, words),
                List.of(),
                true,
                Instant.EPOCH);
    }

    private static String word(Random random, int many) {
        return "word" + random.nextInt(many);
    }

    /** All rules asked, in microseconds a ticket. */
    @Benchmark
    public int read() {
        return RuleTrial.read(book, new Reading.Trigger.Came(), ticket, (one, deed, now) -> List.of(), AT)
                .reads()
                .size();
    }

    /** The same without the pass that finds all words at once, for comparison. */
    @Benchmark
    public long readWordByWord() {
        return book.book().rules().stream()
                .filter(rule -> rafter.core.criteria.Matching.matches(rule.criteria(), ticket.customer()))
                .count();
    }

    /** What is wrong with all of them, by logic. */
    @Benchmark
    public int check() {
        return RuleChecks.of(book.book(), NOTHING).size();
    }

    private static final RuleChecks.History NOTHING = new RuleChecks.History() {
        @Override
        public long tickets() {
            return 0;
        }

        @Override
        public Optional<Long> matched(String rule) {
            return Optional.empty();
        }

        @Override
        public java.util.Map<String, Long> takenBy(String rule) {
            return java.util.Map.of();
        }

        @Override
        public boolean has(rafter.core.criteria.Field field, String phrase) {
            return true;
        }

        @Override
        public Optional<String> otherForm(rafter.core.criteria.Field field, String phrase) {
            return Optional.empty();
        }
    };
}

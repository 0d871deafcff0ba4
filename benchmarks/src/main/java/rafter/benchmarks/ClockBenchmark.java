package rafter.benchmarks;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Editions;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;
import rafter.core.time.WorkCalendar;

/** The clocks of a ticket with two hundred events under four policies, and the matching of fifty policies. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
// Collected as `./rafter serve` collects.
@Fork(value = 1, jvmArgsAppend = "-XX:+UseSerialGC")
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
public class ClockBenchmark {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

    private final List<TicketEvent> events = events();
    private final Instant now = events.getLast().at().plus(Duration.ofHours(3));
    private final Facts customer = Facts.none()
            .with(KnownField.PLAN, "none of these")
            .with(KnownField.CONTACT_ADDRESS, "dov.reiss@brightwater.example");
    private final Facts facts = TicketFacts.of(customer, events);
    private final Editions four = Editions.always(book(4));
    private final Editions fifty = Editions.always(book(50));

    private static List<TicketEvent> events() {
        var events = new ArrayList<TicketEvent>();
        Instant at = Instant.parse("2027-03-01T08:00:00Z");
        events.add(new TicketEvent.Opened(
                at,
                new Actor.Contact(new ContactId(1)),
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot for a trailer",
                new ContactId(1),
                Priority.P3,
                Optional.of(new TeamId(2))));
        while (events.size() < 200) {
            at = at.plus(Duration.ofMinutes(190));
            events.addAll(Conduct.customerWrote(
                    Ticket.replay(events), at, new Actor.Contact(new ContactId(1)), new MessageId(5), false));
            at = at.plus(Duration.ofMinutes(95));
            events.addAll(
                    Conduct.answered(Ticket.replay(events), at, new PersonId(1), new MessageId(6), Turn.CUSTOMER));
            events.add(new TicketEvent.OwnerChanged(
                    at, new Actor.Person(new PersonId(1)), Optional.of(new PersonId(events.size() % 5 + 1))));
        }
        return List.copyOf(events.subList(0, 200));
    }

    /** Only the last one takes every ticket; those before ask three questions each, of which the last fails. */
    private static PromiseBook book(int count) {
        WorkCalendar week = WorkCalendar.weekly(
                "Office",
                OSLO,
                LocalTime.of(8, 0),
                LocalTime.of(17, 0),
                DayOfWeek.MONDAY,
                DayOfWeek.TUESDAY,
                DayOfWeek.WEDNESDAY,
                DayOfWeek.THURSDAY,
                DayOfWeek.FRIDAY);
        var plan = new CalendarPlan("office", "Office", Optional.empty(), false, week.entries(), List.of());
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        for (Objective objective : Objective.values()) {
            goals.put(objective, Goal.usual(objective, Map.of(Priority.P3, Duration.ofHours(9))));
        }
        var policies = new ArrayList<Policy>();
        for (int i = 1; i < count; i++) {
            Criteria asks = new Criteria.All(List.of(
                    Criteria.test(KnownField.CHANNEL, Operator.IS, "email"),
                    Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "trailer", "word" + i),
                    Criteria.test(KnownField.PLAN, Operator.IS, "Plan " + i)));
            policies.add(new Policy("p" + i, "Policy " + i, "", true, asks, Optional.of("office"), goals, List.of()));
        }
        policies.add(new Policy(
                "all", "Everybody", "", true, Criteria.everything(), Optional.of("office"), goals, List.of()));
        return new PromiseBook(OSLO, "office", List.of(plan), List.of(), policies);
    }

    @Benchmark
    public List<TargetClock> clocksOfTwoHundredEvents() {
        return Reckoning.reckon(events, customer, four, now);
    }

    @Benchmark
    public Optional<Editions.InForce> matchAmongFifty() {
        return fifty.match(now, facts);
    }
}

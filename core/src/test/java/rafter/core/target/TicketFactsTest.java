package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Way;

/** What criteria can ask of a ticket follows from its events, one by one. */
class TicketFactsTest {

    private static final Instant OPENED = Instant.parse("2027-03-01T08:00:00Z");
    private static final Actor IMANI = new Actor.Person(1);
    private static final Facts CUSTOMER =
            Facts.none().with(KnownField.PLAN, "Harbour").with(KnownField.COMPANY, "4");
    private final List<TicketEvent> events = new ArrayList<>(List.of(new TicketEvent.Opened(
            OPENED,
            new Actor.Contact(1),
            TicketEvent.Origin.CUSTOMER,
            Way.by("email"),
            "Lost pass",
            1,
            Priority.P3,
            OptionalLong.of(9))));

    private Facts after(TicketEvent... more) {
        events.addAll(Arrays.asList(more));
        return TicketFacts.of(CUSTOMER, events);
    }

    private static Instant at(int hour) {
        return Instant.parse("2027-03-01T%02d:00:00Z".formatted(hour));
    }

    @Test
    void each_event_changes_what_it_says_and_nothing_else() {
        Facts opened = after();
        assertThat(opened.values(KnownField.CHANNEL)).containsExactly("email");
        assertThat(opened.values(KnownField.SUBJECT)).containsExactly("Lost pass");
        assertThat(opened.values(KnownField.PRIORITY)).containsExactly("P3");
        assertThat(opened.values(KnownField.TEAM)).containsExactly("9");
        assertThat(opened.values(KnownField.STATE)).containsExactly("new");
        assertThat(opened.values(KnownField.TURN)).containsExactly("OURS");
        assertThat(opened.values(KnownField.PLAN)).containsExactly("Harbour");
        OwnField metres = new OwnField(3, OwnField.Kind.NUMBER);
        Facts facts = after(
                new TicketEvent.PriorityChanged(at(9), IMANI, Priority.P1),
                new TicketEvent.TopicChanged(at(9), IMANI, "billing"),
                new TicketEvent.TagsChanged(at(9), IMANI, Set.of("vip", "late")),
                new TicketEvent.TeamChanged(at(9), IMANI, OptionalLong.empty()),
                new TicketEvent.FieldSet(at(9), IMANI, metres.key(), "14"),
                new TicketEvent.FieldSet(at(9), IMANI, "no field", "x"),
                new TicketEvent.StateChanged(at(9), IMANI, TicketState.WITH_PARTNER),
                new TicketEvent.CustomerChanged(
                        at(9),
                        Actor.system(),
                        new TicketEvent.CustomerKnown(OptionalLong.of(4), "Harbour"),
                        new TicketEvent.CustomerKnown(OptionalLong.of(5), "Anchor")));
        assertThat(facts.values(KnownField.PRIORITY)).containsExactly("P1");
        assertThat(facts.values(KnownField.TOPIC)).containsExactly("billing");
        assertThat(facts.values(KnownField.TAGS)).containsExactly("late", "vip");
        assertThat(facts.values(KnownField.TEAM)).isEmpty();
        assertThat(facts.values(metres)).containsExactly("14");
        assertThat(facts.values(KnownField.STATE)).containsExactly("with-partner");
        assertThat(facts.values(KnownField.TURN)).containsExactly("PARTNER");
        assertThat(facts.values(KnownField.PLAN)).containsExactly("Anchor");
        assertThat(facts.values(KnownField.COMPANY)).containsExactly("5");
    }

    @Test
    void before_the_customer_changed_they_were_as_they_were_then() {
        var change = new TicketEvent.CustomerChanged(
                at(9),
                Actor.system(),
                new TicketEvent.CustomerKnown(OptionalLong.empty(), ""),
                new TicketEvent.CustomerKnown(OptionalLong.of(5), "Anchor"));
        assertThat(TicketFacts.begin(CUSTOMER, List.of(events.getFirst(), change))
                        .values(KnownField.PLAN))
                .isEmpty();
        assertThat(TicketFacts.begin(CUSTOMER, events).values(KnownField.PLAN)).containsExactly("Harbour");
    }

    @Test
    void what_is_joined_or_in_the_bin_is_closed() {
        assertThat(after(new TicketEvent.Joined(at(9), IMANI, 7)).values(KnownField.STATE))
                .containsExactly("closed");
        events.removeLast();
        assertThat(after(new TicketEvent.Discarded(at(9), IMANI, "x")).values(KnownField.TURN))
                .containsExactly("NOBODY");
        Facts known =
                TicketFacts.withTimes(after(new TicketEvent.Restored(at(10), IMANI)), Ticket.replay(events), List.of());
        assertThat(known.values(KnownField.STATE))
                .as("out of the bin it is in the state it had")
                .containsExactly("new");
    }

    @Test
    void lists_ask_since_when_things_are_as_they_are_and_what_falls_due() {
        after(
                new TicketEvent.OwnerChanged(at(9), IMANI, OptionalLong.of(2)),
                new TicketEvent.BringBackSet(at(9), IMANI, java.util.Optional.of(at(20))));
        List<TargetClock> clocks = Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, at(10));
        Ticket ticket = Ticket.replay(events);
        Facts facts = TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, clocks);
        assertThat(facts.values(KnownField.OWNER)).containsExactly("2");
        assertThat(facts.values(KnownField.AGE)).containsExactly(OPENED.toString());
        assertThat(facts.values(KnownField.IN_TURN)).containsExactly(OPENED.toString());
        assertThat(facts.values(KnownField.COMES_BACK)).containsExactly(at(20).toString());
        assertThat(facts.values(KnownField.SINCE_CUSTOMER)).isEmpty();
        assertThat(facts.values(KnownField.SINCE_BACK)).isEmpty();
        TargetClock first = Reckoning.nextDue(clocks).orElseThrow();
        assertThat(facts.values(KnownField.NEXT_TARGET))
                .startsWith(first.dueMark().orElseThrow().toString())
                .hasSize(2);
        for (TargetClock clock : clocks) {
            if (clock.live()) {
                assertThat(facts.values(TicketFacts.field(clock.objective())))
                        .containsExactly(
                                clock.dueMark().orElseThrow().toString(),
                                clock.riskFrom().orElseThrow().toString());
            }
        }
        Facts none = TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, List.of());
        assertThat(none.values(KnownField.NEXT_TARGET)).isEmpty();
        assertThat(none.values(KnownField.RESOLUTION)).isEmpty();
        List<TargetClock> late =
                Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, at(10).plus(Duration.ofDays(60)));
        assertThat(TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, late)
                        .values(KnownField.NEXT_TARGET))
                .as("what is late is not at risk any more")
                .hasSize(1);
    }
}

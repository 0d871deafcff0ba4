package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
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
    private static final Actor IMANI = new Actor.Person(new PersonId(1));
    private static final Facts CUSTOMER =
            Facts.none().with(KnownField.PLAN, "Harbour").with(KnownField.COMPANY, "4");
    private final List<TicketEvent> events = new ArrayList<>(List.of(new TicketEvent.Opened(
            OPENED,
            new Actor.Contact(new ContactId(1)),
            TicketEvent.Origin.CUSTOMER,
            Way.by("email"),
            "Lost pass",
            new ContactId(1),
            Priority.P3,
            Optional.of(new TeamId(9)))));

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
        assertThat(opened.of(KnownField.CHANNEL).plain()).containsExactly("email");
        assertThat(opened.of(KnownField.SUBJECT).plain()).containsExactly("Lost pass");
        assertThat(opened.of(KnownField.PRIORITY).plain()).containsExactly("P3");
        assertThat(opened.of(KnownField.TEAM).plain()).containsExactly("9");
        assertThat(opened.of(KnownField.STATE).plain()).containsExactly("new");
        assertThat(opened.of(KnownField.TURN).plain()).containsExactly("OURS");
        assertThat(opened.of(KnownField.PLAN).plain()).containsExactly("Harbour");
        OwnField metres = new OwnField(3, OwnField.Kind.NUMBER);
        Facts facts = after(
                new TicketEvent.PriorityChanged(at(9), IMANI, Priority.P1),
                new TicketEvent.TopicChanged(at(9), IMANI, "billing"),
                new TicketEvent.TagsChanged(at(9), IMANI, Set.of("vip", "late")),
                new TicketEvent.TeamChanged(at(9), IMANI, Optional.empty()),
                new TicketEvent.FieldSet(at(9), IMANI, metres.key(), "14"),
                new TicketEvent.FieldSet(at(9), IMANI, "no field", "x"),
                new TicketEvent.StateChanged(at(9), IMANI, TicketState.WITH_PARTNER),
                new TicketEvent.CustomerChanged(
                        at(9),
                        Actor.system(),
                        new TicketEvent.CustomerKnown(Optional.of(new CompanyId(4)), "Harbour"),
                        new TicketEvent.CustomerKnown(Optional.of(new CompanyId(5)), "Anchor")));
        assertThat(facts.of(KnownField.PRIORITY).plain()).containsExactly("P1");
        assertThat(facts.of(KnownField.TOPIC).plain()).containsExactly("billing");
        assertThat(facts.of(KnownField.TAGS).plain()).containsExactly("late", "vip");
        assertThat(facts.of(KnownField.TEAM).plain()).isEmpty();
        assertThat(facts.of(metres).plain()).containsExactly("14");
        assertThat(facts.of(KnownField.STATE).plain()).containsExactly("with-partner");
        assertThat(facts.of(KnownField.TURN).plain()).containsExactly("PARTNER");
        assertThat(facts.of(KnownField.PLAN).plain()).containsExactly("Anchor");
        assertThat(facts.of(KnownField.COMPANY).plain()).containsExactly("5");
    }

    @Test
    void before_the_customer_changed_they_were_as_they_were_then() {
        var change = new TicketEvent.CustomerChanged(
                at(9),
                Actor.system(),
                new TicketEvent.CustomerKnown(Optional.empty(), ""),
                new TicketEvent.CustomerKnown(Optional.of(new CompanyId(5)), "Anchor"));
        assertThat(TicketFacts.begin(CUSTOMER, List.of(events.getFirst(), change))
                        .of(KnownField.PLAN)
                        .plain())
                .isEmpty();
        assertThat(TicketFacts.begin(CUSTOMER, events).of(KnownField.PLAN).plain())
                .containsExactly("Harbour");
    }

    @Test
    void what_is_joined_or_in_the_bin_is_closed() {
        assertThat(after(new TicketEvent.Joined(at(9), IMANI, new TicketNumber(7)))
                        .of(KnownField.STATE)
                        .plain())
                .containsExactly("closed");
        events.removeLast();
        assertThat(after(new TicketEvent.Discarded(at(9), IMANI, "x"))
                        .of(KnownField.TURN)
                        .plain())
                .containsExactly("NOBODY");
        Facts known =
                TicketFacts.withTimes(after(new TicketEvent.Restored(at(10), IMANI)), Ticket.replay(events), List.of());
        assertThat(known.of(KnownField.STATE).plain())
                .as("out of the bin it is in the state it had")
                .containsExactly("new");
    }

    @Test
    void lists_ask_since_when_things_are_as_they_are_and_what_falls_due() {
        after(
                new TicketEvent.OwnerChanged(at(9), IMANI, Optional.of(new PersonId(2))),
                new TicketEvent.BringBackSet(at(9), IMANI, java.util.Optional.of(at(20))));
        List<TargetClock> clocks = Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, at(10));
        Ticket ticket = Ticket.replay(events);
        Facts facts = TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, clocks);
        assertThat(facts.of(KnownField.OWNER).plain()).containsExactly("2");
        assertThat(facts.of(KnownField.AGE).plain()).containsExactly(OPENED.toString());
        assertThat(facts.of(KnownField.IN_TURN).plain()).containsExactly(OPENED.toString());
        assertThat(facts.of(KnownField.COMES_BACK).plain()).containsExactly(at(20).toString());
        assertThat(facts.of(KnownField.SINCE_CUSTOMER).plain()).isEmpty();
        assertThat(facts.of(KnownField.SINCE_BACK).plain()).isEmpty();
        TargetClock first = Reckoning.nextDue(clocks).orElseThrow();
        assertThat(facts.of(KnownField.NEXT_TARGET).plain())
                .startsWith(first.dueMark().orElseThrow().toString())
                .hasSize(2);
        for (TargetClock clock : clocks) {
            if (clock.live()) {
                assertThat(facts.of(TicketFacts.field(clock.objective())).plain())
                        .containsExactly(
                                clock.dueMark().orElseThrow().toString(),
                                clock.riskFrom().orElseThrow().toString());
            }
        }
        Facts none = TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, List.of());
        assertThat(none.of(KnownField.NEXT_TARGET).plain()).isEmpty();
        assertThat(none.of(KnownField.RESOLUTION).plain()).isEmpty();
        List<TargetClock> late =
                Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, at(10).plus(Duration.ofDays(60)));
        assertThat(TicketFacts.withTimes(TicketFacts.of(CUSTOMER, events), ticket, late)
                        .of(KnownField.NEXT_TARGET)
                        .plain())
                .as("what is late is not at risk any more")
                .hasSize(1);
    }
}

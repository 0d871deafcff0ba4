package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;

class ConductTest {

    private static final Instant T0 = Instant.parse("2027-03-01T09:00:00Z");
    private static final Duration WEEK = Duration.ofDays(7);
    private static final Actor DOV = new Actor.Contact(new ContactId(7));

    private final List<TicketEvent> events = new ArrayList<>(List.of(new TicketEvent.Opened(
            T0,
            DOV,
            TicketEvent.Origin.CUSTOMER,
            Way.by("email"),
            "Slot",
            new ContactId(7),
            Priority.P3,
            Optional.empty())));

    private static final Actor IMANI = new Actor.Person(new PersonId(1));

    private Ticket ticket() {
        return Ticket.replay(events);
    }

    private Ticket answered(Turn then) {
        events.addAll(Conduct.answered(ticket(), T0.plusSeconds(60), new PersonId(1), new MessageId(2), then));
        return ticket();
    }

    private Ticket customerWrote(boolean automatic) {
        events.addAll(Conduct.customerWrote(ticket(), T0.plusSeconds(120), DOV, new MessageId(3), automatic));
        return ticket();
    }

    @Test
    void a_new_ticket_is_our_turn() {
        assertThat(ticket().turn()).isEqualTo(Turn.OURS);
        assertThat(ticket().state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void our_answer_makes_it_the_customers_turn_and_the_ticket_ours_to_own() {
        Ticket after = answered(Turn.CUSTOMER);
        assertThat(after.state()).isEqualTo(TicketState.WITH_CUSTOMER);
        assertThat(after.owner()).hasValue(new PersonId(1));
    }

    @Test
    void the_sender_may_choose_another_turn() {
        assertThat(answered(Turn.OURS).state()).isEqualTo(TicketState.IN_HAND);
        assertThat(answered(Turn.PARTNER).turn()).isEqualTo(Turn.PARTNER);
        assertThat(answered(Turn.NOBODY).state()).isEqualTo(TicketState.RESOLVED);
    }

    @Test
    void what_comes_back_is_our_turn_whoever_had_it() {
        answered(Turn.PARTNER);
        events.addAll(Conduct.broughtBack(ticket(), T0.plusSeconds(90)));
        assertThat(ticket().state()).isEqualTo(TicketState.IN_HAND);
        assertThat(ticket().broughtBackAt()).hasValue(T0.plusSeconds(90));
        assertThat(ticket().bringBackAt()).isEmpty();
    }

    @Test
    void what_is_our_turn_anyway_comes_back_as_a_reminder_and_keeps_its_state() {
        assertThat(Conduct.broughtBack(ticket(), T0.plusSeconds(90)))
                .hasSize(1)
                .first()
                .isInstanceOf(TicketEvent.BroughtBack.class);
    }

    @Test
    void the_customers_answer_makes_it_our_turn_again() {
        answered(Turn.CUSTOMER);
        assertThat(customerWrote(false).state()).isEqualTo(TicketState.IN_HAND);
    }

    @Test
    void an_automatic_message_changes_no_turn() {
        answered(Turn.CUSTOMER);
        assertThat(customerWrote(true).turn()).isEqualTo(Turn.CUSTOMER);
    }

    @Test
    void a_resolved_ticket_is_taken_up_again_by_an_answer() {
        answered(Turn.NOBODY);
        Ticket after = customerWrote(false);
        assertThat(after.open()).isTrue();
        assertThat(after.resolvedAt()).isEmpty();
    }

    @Test
    void it_takes_answers_within_the_days_set_and_not_from_then_on() {
        Ticket resolved = answered(Turn.NOBODY);
        Instant at = resolved.resolvedAt().orElseThrow();
        assertThat(Conduct.takesAnswers(resolved, at.plus(WEEK).minusSeconds(1), WEEK))
                .isTrue();
        assertThat(Conduct.takesAnswers(resolved, at.plus(WEEK), WEEK)).isFalse();
    }

    @Test
    void a_closed_ticket_takes_no_answers() {
        events.add(new TicketEvent.StateChanged(T0, Actor.system(), TicketState.CLOSED));
        assertThat(Conduct.takesAnswers(ticket(), T0.plusSeconds(1), WEEK)).isFalse();
    }

    @Test
    void closing_a_resolved_ticket_keeps_the_instant_of_its_resolution() {
        Instant at = answered(Turn.NOBODY).resolvedAt().orElseThrow();
        events.add(new TicketEvent.StateChanged(at.plusSeconds(900), Actor.system(), TicketState.CLOSED));
        assertThat(ticket().resolvedAt()).hasValue(at);
    }

    @Test
    void events_begin_with_the_opening_and_hold_it_once() {
        assertThatThrownBy(() -> Ticket.replay(List.of())).isInstanceOf(IllegalArgumentException.class);
        events.add(events.getFirst());
        assertThatThrownBy(this::ticket).hasMessageContaining("opened twice");
    }

    private void awaits(String note, Await.Happening... until) {
        events.add(new TicketEvent.Awaits(T0.plusSeconds(60), IMANI, Optional.of(new Await(Set.of(until), note))));
    }

    private List<TicketEvent> follows(TicketEvent event) {
        return Conduct.withWhatFollows(ticket(), List.of(event));
    }

    @Test
    void a_ticket_comes_back_once_what_it_waits_for_happens_and_waits_no_more() {
        events.add(new TicketEvent.StateChanged(T0, IMANI, TicketState.WITH_PARTNER));
        events.add(new TicketEvent.TaskSet(T0, IMANI, 1, "Ask", Optional.empty(), Optional.empty()));
        awaits("Look at the seal", Await.Happening.TASK, Await.Happening.PARTNER);
        var ticked = new TicketEvent.TaskTicked(T0.plusSeconds(90), IMANI, 1, true);
        List<TicketEvent> all = follows(ticked);
        assertThat(all).hasSize(3).startsWith(ticked);
        events.addAll(all);
        assertThat(ticket().turn()).isEqualTo(Turn.OURS);
        assertThat(ticket().work().await()).isEmpty();
        assertThat(ticket().broughtBackAt()).hasValue(T0.plusSeconds(90));
        assertThat(follows(ticked)).containsExactly(ticked);
    }

    @Test
    void what_it_does_not_wait_for_and_what_machines_write_brings_nothing_back() {
        awaits("", Await.Happening.CUSTOMER);
        TicketEvent opened = new TicketEvent.TaskTicked(T0.plusSeconds(90), IMANI, 1, false);
        TicketEvent machine = new TicketEvent.CustomerWrote(T0.plusSeconds(90), IMANI, new MessageId(9), true);
        assertThat(follows(opened)).containsExactly(opened);
        assertThat(follows(machine)).containsExactly(machine);
        assertThat(ticket().work().await()).isPresent();
    }

    @Test
    void a_note_for_a_time_alone_goes_with_that_time_and_a_ticket_that_ends_waits_for_nothing() {
        awaits("For Thursday");
        events.add(new TicketEvent.CustomerWrote(T0.plusSeconds(90), IMANI, new MessageId(9), false));
        assertThat(ticket().work().await()).isEmpty();
        awaits("", Await.Happening.HELP);
        events.add(new TicketEvent.StateChanged(T0.plusSeconds(95), IMANI, TicketState.RESOLVED));
        assertThat(ticket().work().await()).isEmpty();
    }

    @Test
    void what_somebody_does_after_a_ticket_came_back_stands() {
        awaits("", Await.Happening.TASK);
        var ticked = new TicketEvent.TaskTicked(T0.plusSeconds(90), IMANI, 1, true);
        var moved = new TicketEvent.StateChanged(T0.plusSeconds(91), IMANI, TicketState.WITH_CUSTOMER);
        List<TicketEvent> all = Conduct.withWhatFollows(ticket(), List.of(ticked, moved));
        assertThat(all).startsWith(ticked).endsWith(moved).hasSize(3);
        assertThat(Conduct.withWhatFollows(ticket(), all)).isEqualTo(all);
        events.addAll(all);
        assertThat(ticket().state()).isEqualTo(TicketState.WITH_CUSTOMER);
    }
}

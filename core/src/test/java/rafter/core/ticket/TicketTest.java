package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

class TicketTest {

    private static final Actor IMANI = new Actor.Person(new PersonId(7));
    private static final Actor DOV = new Actor.Contact(new ContactId(3));
    private final List<TicketEvent> events = new ArrayList<>(List.of(
            new TicketEvent.Opened(
                    at(8),
                    DOV,
                    TicketEvent.Origin.CUSTOMER,
                    Way.by("email"),
                    "A slot",
                    new ContactId(3),
                    Priority.P3,
                    Optional.empty()),
            new TicketEvent.CustomerWrote(at(8), DOV, new MessageId(1), false)));

    private static Instant at(int hour) {
        return Instant.parse("2027-03-01T%02d:00:00Z".formatted(hour));
    }

    private Ticket after(TicketEvent... more) {
        events.addAll(List.of(more));
        return Ticket.replay(events);
    }

    @Test
    void the_time_in_a_turn_begins_when_the_turn_passes_and_not_with_each_state() {
        Ticket inHand = after(new TicketEvent.StateChanged(at(9), IMANI, TicketState.IN_HAND));
        assertThat(inHand.turnSince()).isEqualTo(at(8));
        Ticket waiting = after(new TicketEvent.StateChanged(at(10), IMANI, TicketState.WITH_CUSTOMER));
        assertThat(waiting.turnSince()).isEqualTo(at(10));
        assertThat(after(new TicketEvent.PriorityChanged(at(11), IMANI, Priority.P1))
                        .turnSince())
                .isEqualTo(at(10));
    }

    @Test
    void an_automatic_message_is_not_the_customers_last_word() {
        assertThat(after().lastCustomerAt()).hasValue(at(8));
        assertThat(after(new TicketEvent.CustomerWrote(at(9), DOV, new MessageId(2), true))
                        .lastCustomerAt())
                .hasValue(at(8));
        assertThat(after(new TicketEvent.CustomerWrote(at(10), DOV, new MessageId(3), false))
                        .lastCustomerAt())
                .hasValue(at(10));
    }

    @Test
    void out_of_the_bin_a_ticket_is_in_the_state_it_had() {
        after(new TicketEvent.StateChanged(at(9), IMANI, TicketState.WITH_PARTNER));
        Ticket gone = after(new TicketEvent.Discarded(at(10), IMANI, "it was deleted"));
        assertThat(gone.discarded()).isTrue();
        assertThat(gone.open()).isFalse();
        Ticket twice = after(new TicketEvent.Discarded(at(11), IMANI, "it was deleted"));
        assertThat(twice.discarding().orElseThrow().state()).isEqualTo(TicketState.WITH_PARTNER);
        Ticket back = after(new TicketEvent.Restored(at(12), IMANI));
        assertThat(back.discarded()).isFalse();
        assertThat(back.state()).isEqualTo(TicketState.WITH_PARTNER);
        assertThat(back.resolvedAt()).isEqualTo(Optional.empty());
    }

    @Test
    void a_joined_ticket_is_closed_and_knows_where_it_went() {
        Ticket joined = after(new TicketEvent.Joined(at(9), IMANI, new TicketNumber(4002)));
        assertThat(joined.joinedInto()).hasValue(new TicketNumber(4002));
        assertThat(joined.linkedTo()).hasValue(new TicketNumber(4002));
        assertThat(joined.state()).isEqualTo(TicketState.CLOSED);
    }

    @Test
    void a_ticket_that_is_taken_out_of_another_is_as_it_was() {
        Ticket before = after(
                new TicketEvent.StateChanged(at(9), IMANI, TicketState.WITH_PARTNER),
                new TicketEvent.Linked(at(9), Actor.system(), new TicketNumber(3000), "that was over"));
        after(new TicketEvent.Joined(at(10), IMANI, new TicketNumber(4002)));
        Ticket parted = after(new TicketEvent.Parted(at(11), IMANI, new TicketNumber(4002)));
        assertThat(parted.joinedInto()).isEmpty();
        assertThat(parted.state()).isEqualTo(before.state());
        assertThat(parted.linkedTo()).hasValue(new TicketNumber(3000));
        assertThat(parted.resolvedAt()).isEmpty();
        assertThat(parted.turnSince()).isEqualTo(at(11));
        assertThat(after(new TicketEvent.Parted(at(12), IMANI, new TicketNumber(4002)))
                        .state())
                .as("once more changes nothing")
                .isEqualTo(before.state());
    }

    @Test
    void joined_twice_it_is_a_part_of_the_first_and_keeps_the_state_before() {
        after(new TicketEvent.Joined(at(9), IMANI, new TicketNumber(4002)));
        assertThat(after(new TicketEvent.Joined(at(10), IMANI, new TicketNumber(4003)))
                        .joinedInto())
                .hasValue(new TicketNumber(4002));
        assertThat(after(new TicketEvent.Parted(at(11), IMANI, new TicketNumber(4002)))
                        .state())
                .isEqualTo(TicketState.NEW);
    }

    @Test
    void what_is_unlinked_is_linked_no_more_and_a_later_ticket_links_nothing() {
        assertThat(after(new TicketEvent.Linked(at(9), IMANI, new TicketNumber(4002), ""))
                        .linkedTo())
                .hasValue(new TicketNumber(4002));
        assertThat(after(new TicketEvent.Unlinked(at(9), IMANI, new TicketNumber(4003), ""))
                        .linkedTo())
                .hasValue(new TicketNumber(4002));
        assertThat(after(new TicketEvent.Unlinked(at(9), IMANI, new TicketNumber(4002), ""))
                        .linkedTo())
                .isEmpty();
        assertThat(after(new TicketEvent.Continued(at(10), Actor.system(), new TicketNumber(4009), ""))
                        .linkedTo())
                .isEmpty();
    }

    @Test
    void a_note_that_was_taken_back_is_not_counted() {
        int before =
                after(new TicketEvent.NoteAdded(at(9), IMANI, new MessageId(7))).messages();
        Ticket now = after(new TicketEvent.NoteTakenBack(at(10), IMANI, new MessageId(7)));
        assertThat(now.messages()).isEqualTo(before - 1);
        assertThat(now.state()).isEqualTo(TicketState.NEW);
    }

    @Test
    void a_ticket_that_is_to_come_back_does_not_once_the_customer_wrote_or_it_ended() {
        var set = new TicketEvent.BringBackSet(at(9), IMANI, Optional.of(at(20)));
        assertThat(after(set).bringBackAt()).hasValue(at(20));
        assertThat(after(new TicketEvent.CustomerWrote(at(10), DOV, new MessageId(2), true))
                        .bringBackAt())
                .hasValue(at(20));
        assertThat(after(new TicketEvent.CustomerWrote(at(11), DOV, new MessageId(3), false))
                        .bringBackAt())
                .isEmpty();
        assertThat(after(set, new TicketEvent.StateChanged(at(12), IMANI, TicketState.WITH_PARTNER))
                        .bringBackAt())
                .hasValue(at(20));
        assertThat(after(new TicketEvent.StateChanged(at(13), IMANI, TicketState.RESOLVED))
                        .bringBackAt())
                .isEmpty();
        assertThat(after(set, new TicketEvent.BringBackSet(at(14), IMANI, Optional.empty()))
                        .bringBackAt())
                .isEmpty();
    }

    @Test
    void the_time_agreed_last_is_the_one_that_holds() {
        assertThat(after(new TicketEvent.TimeAgreed(at(9), IMANI, Optional.of(at(18)), ""))
                        .agreedDue())
                .hasValue(at(18));
        assertThat(after(new TicketEvent.TimeAgreed(at(10), IMANI, Optional.of(at(19)), "later"))
                        .agreedDue())
                .hasValue(at(19));
        assertThat(after(new TicketEvent.TimeAgreed(at(11), IMANI, Optional.empty(), ""))
                        .agreedDue())
                .isEmpty();
    }

    @Test
    void each_event_leaves_its_mark() {
        Ticket opened = after();
        assertThat(opened.messages()).isEqualTo(1);
        assertThat(opened.lastPublicSeq()).isEqualTo(2);
        Ticket answered = after(new TicketEvent.WeWrote(at(9), IMANI, new MessageId(2), false));
        assertThat(answered.messages()).isEqualTo(2);
        assertThat(answered.lastPublicSeq()).isEqualTo(3);
        Ticket noted = after(
                new TicketEvent.NoteAdded(at(10), IMANI, new MessageId(3)),
                new TicketEvent.Bounced(at(10), Actor.system(), new MessageId(4)));
        assertThat(noted.messages()).isEqualTo(4);
        assertThat(noted.lastPublicSeq()).as("a note is for us alone").isEqualTo(3);
        assertThat(noted.seq()).isEqualTo(5);
        assertThat(after(new TicketEvent.TeamChanged(at(11), IMANI, Optional.of(new TeamId(4))))
                        .team())
                .hasValue(new TeamId(4));
        assertThat(after(new TicketEvent.TopicChanged(at(11), IMANI, "billing")).topic())
                .isEqualTo("billing");
        assertThat(after(new TicketEvent.TagsChanged(at(11), IMANI, Set.of("late")))
                        .tags())
                .containsExactly("late");
        assertThat(after(new TicketEvent.FieldSet(at(12), IMANI, "own-1-text", "A"))
                        .own())
                .containsEntry("own-1-text", "A");
        assertThat(after(new TicketEvent.FieldSet(at(12), IMANI, "own-2-text", "B"))
                        .own())
                .hasSize(2);
        assertThat(after(new TicketEvent.FieldSet(at(13), IMANI, "own-1-text", ""))
                        .own())
                .doesNotContainKey("own-1-text")
                .hasSize(1);
        assertThat(after(new TicketEvent.OwnerChanged(at(13), IMANI, Optional.of(new PersonId(1))))
                        .changedAt())
                .isEqualTo(at(13));
    }
}

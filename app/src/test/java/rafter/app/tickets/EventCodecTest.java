package rafter.app.tickets;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.JSONB;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

class EventCodecTest {

    private static final Instant AT = Instant.parse("2027-03-01T09:00:00.123456Z");
    private static final Actor IMANI = new Actor.Person(1);

    static Stream<TicketEvent> events() {
        return Stream.of(
                new TicketEvent.Opened(AT, new Actor.Contact(7), TicketEvent.Origin.CUSTOMER, "email", "Slot “å”", 7, Priority.P3, OptionalLong.of(2)),
                new TicketEvent.Opened(AT, IMANI, TicketEvent.Origin.OURS, "email", "", 7, Priority.P1, OptionalLong.empty()),
                new TicketEvent.CustomerWrote(AT, new Actor.Contact(7), 5, true),
                new TicketEvent.CustomerWrote(AT, new Actor.Contact(7), 5, false),
                new TicketEvent.WeWrote(AT, Actor.system(), 5_000_000_000L, true),
                new TicketEvent.WeWrote(AT, IMANI, 6, false),
                new TicketEvent.NoteAdded(AT, IMANI, 7),
                new TicketEvent.Bounced(AT, Actor.system(), 8),
                new TicketEvent.StateChanged(AT, IMANI, TicketState.RESOLVED),
                new TicketEvent.StateChanged(AT, IMANI, new TicketState("own", "A state of ours", rafter.core.ticket.Turn.PARTNER, false)),
                new TicketEvent.PriorityChanged(AT, IMANI, Priority.P4),
                new TicketEvent.OwnerChanged(AT, IMANI, OptionalLong.of(3)),
                new TicketEvent.OwnerChanged(AT, IMANI, OptionalLong.empty()),
                new TicketEvent.TeamChanged(AT, IMANI, OptionalLong.of(3)),
                new TicketEvent.TeamChanged(AT, IMANI, OptionalLong.empty()),
                new TicketEvent.TopicChanged(AT, IMANI, "lost items"),
                new TicketEvent.TagsChanged(AT, IMANI, Set.of("lost", "urgent")),
                new TicketEvent.TagsChanged(AT, IMANI, Set.of()),
                new TicketEvent.Linked(AT, Actor.system(), 4001, "that ticket was over"),
                new TicketEvent.CustomerChanged(
                        AT, Actor.system(), new TicketEvent.CustomerKnown(OptionalLong.empty(), ""),
                        new TicketEvent.CustomerKnown(OptionalLong.of(3), "Anchor")),
                new TicketEvent.Joined(AT, IMANI, 4002),
                new TicketEvent.Parted(AT, IMANI, 4002),
                new TicketEvent.Unlinked(AT, IMANI, 4002, "it is a ticket of its own again"),
                new TicketEvent.Continued(AT, Actor.system(), 4010, "that ticket was over"),
                new TicketEvent.NoteTakenBack(AT, IMANI, 7),
                new TicketEvent.Discarded(AT, IMANI, "not a request"),
                new TicketEvent.Restored(AT, IMANI),
                new TicketEvent.TimeAgreed(AT, IMANI, Optional.of(AT.plusSeconds(60)), "they are away"),
                new TicketEvent.TimeAgreed(AT, IMANI, Optional.empty(), ""),
                new TicketEvent.BringBackSet(AT, IMANI, Optional.of(AT.plusNanos(1000))),
                new TicketEvent.BringBackSet(AT, IMANI, Optional.empty()),
                new TicketEvent.FieldSet(AT, IMANI, "own-3-text", "Été"),
                new TicketEvent.FieldSet(AT, IMANI, "own-3-text", ""),
                new TicketEvent.BroughtBack(AT, Actor.system()));
    }

    @ParameterizedTest
    @MethodSource("events")
    void every_event_is_read_back_as_it_was_written(TicketEvent event) {
        assertThat(EventCodec.read(EventCodec.write(event))).isEqualTo(event);
    }

    @Test
    void every_kind_of_event_is_tried_above() {
        assertThat(events().map(Object::getClass).distinct()).hasSize(TicketEvent.class.getPermittedSubclasses().length);
    }

    @Test
    void an_unknown_kind_is_a_defect_and_not_passed_over() {
        assertThatThrownBy(() -> EventCodec.read(new EventCodec.Row(AT, "novel", "system", JSONB.valueOf("{}")))).hasMessageContaining("novel");
    }
}

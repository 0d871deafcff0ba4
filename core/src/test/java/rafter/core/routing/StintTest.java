package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;

/** What each had, against counting anew for every instant. */
class StintTest {

    private static final Instant NOW = Instant.parse("2027-06-01T08:00:00Z");

    static LongStream seeds() {
        return Seeds.upTo(50);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void each_frame_counts_the_stints_that_are_then(long seed) {
        var random = new Random(seed);
        var stints = new ArrayList<Stint>();
        for (int i = 0; i < 60; i++) {
            Instant from = NOW.minusSeconds(7_200).plusSeconds(random.nextInt(20_000));
            stints.add(new Stint(
                    new PersonId(1 + random.nextInt(3)),
                    from,
                    random.nextInt(4) == 0
                            ? Optional.empty()
                            : Optional.of(from.plusSeconds(1 + random.nextInt(9_000)))));
        }
        Duration step = Duration.ofMinutes(5);
        var frames = Stint.loads(stints, NOW, step, 40);
        for (int i = 0; i < frames.size(); i++) {
            Instant at = NOW.plus(step.multipliedBy(i));
            for (PersonId person : List.of(new PersonId(1), new PersonId(2), new PersonId(3))) {
                long counted = stints.stream()
                        .filter(one -> one.person().equals(person) && one.at(at))
                        .count();
                assertThat((long) frames.get(i).getOrDefault(person, 0)).isEqualTo(counted);
            }
        }
    }

    @Test
    void a_ticket_counts_for_its_owner_while_it_is_our_turn() {
        var imani = new PersonId(1);
        var sefa = new PersonId(2);
        var by = new Actor.Person(imani);
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.Opened(
                NOW,
                new Actor.Contact(new ContactId(7)),
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot",
                new ContactId(7),
                Priority.P3,
                Optional.empty()));
        events.add(new TicketEvent.OwnerChanged(NOW.plusSeconds(60), by, Optional.of(imani)));
        events.add(new TicketEvent.OwnerChanged(NOW.plusSeconds(120), by, Optional.of(sefa)));
        assertThat(Stint.of(events))
                .containsExactly(
                        new Stint(imani, NOW.plusSeconds(60), Optional.of(NOW.plusSeconds(120))),
                        new Stint(sefa, NOW.plusSeconds(120), Optional.empty()));
        events.addAll(
                Conduct.answered(Ticket.replay(events), NOW.plusSeconds(300), sefa, new MessageId(2), Turn.CUSTOMER));
        assertThat(Stint.of(events).getLast())
                .isEqualTo(new Stint(sefa, NOW.plusSeconds(120), Optional.of(NOW.plusSeconds(300))));
    }
}

package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;

/** The floor as it stood, against counting anew for every instant. */
class ReplayTest {

    private static final Instant NOW = Instant.parse("2027-06-01T08:00:00Z");

    static LongStream seeds() {
        return Seeds.upTo(50);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void each_frame_is_what_had_happened_by_then(long seed) {
        var random = new Random(seed);
        var flowed = new ArrayList<Replay.Flowed>();
        var went = new ArrayList<Replay.Went>();
        Instant at = NOW;
        for (int i = 0; i < 200; i++) {
            at = at.plusSeconds(random.nextInt(400));
            flowed.add(new Replay.Flowed(at, new QueueId(1 + random.nextInt(3)), random.nextInt(3) > 0));
            went.add(new Replay.Went(at, new PersonId(1 + random.nextInt(4)), random.nextBoolean()));
        }
        var begins = new Replay.Frame(NOW, Map.of(new QueueId(1), 5), Set.of(new PersonId(9)));
        for (Replay.Frame frame : Replay.frames(begins, flowed, went, Duration.ofMinutes(5), 40)) {
            for (long queue = 1; queue <= 3; queue++) {
                QueueId id = new QueueId(queue);
                int counted = (queue == 1 ? 5 : 0)
                        + flowed.stream()
                                .filter(one ->
                                        one.queue().equals(id) && !one.at().isAfter(frame.at()))
                                .mapToInt(one -> one.came() ? 1 : -1)
                                .sum();
                assertThat(frame.waiting().getOrDefault(id, 0)).isEqualTo(counted);
            }
            for (long person = 1; person <= 4; person++) {
                PersonId id = new PersonId(person);
                boolean here = went.stream()
                        .filter(one -> one.person().equals(id) && !one.at().isAfter(frame.at()))
                        .reduce((a, b) -> b)
                        .map(Replay.Went::here)
                        .orElse(false);
                assertThat(frame.here().contains(id)).isEqualTo(here);
            }
            assertThat(frame.here()).contains(new PersonId(9));
        }
    }

    @Test
    void it_began_to_go_wrong_where_half_of_the_most_waited_for_the_last_time() {
        assertThat(Replay.began(new int[] {1, 4, 2, 3, 6, 9, 12, 4})).hasValue(4);
        assertThat(Replay.began(new int[] {1, 3, 2}))
                .as("never more than a few")
                .isEmpty();
        assertThat(Replay.began(new int[] {9, 9, 9})).as("from before on").isEmpty();
        assertThat(Replay.began(new int[0])).isEmpty();
        assertThat(Replay.line(List.of(new Replay.Frame(NOW, Map.of(), Set.of())), new QueueId(1)))
                .containsExactly(0);
    }

    @Test
    void at_the_pace_of_the_last_hour_the_first_that_will_be_late_is_told() {
        Waiting soon = Scene.ticket(1, rafter.core.ticket.Priority.P3, 10, java.util.Optional.of(30));
        Waiting later = Scene.ticket(2, rafter.core.ticket.Priority.P3, 10, java.util.Optional.of(20));
        Waiting never = Scene.ticket(3, rafter.core.ticket.Priority.P3, 10, java.util.Optional.empty());
        assertThat(Pace.late(List.of(soon, later), 2, Scene.NOW)).hasValue(2);
        assertThat(Pace.late(List.of(soon, later), 60, Scene.NOW)).isEmpty();
        assertThat(Pace.late(List.of(never, soon), 0, Scene.NOW))
                .as("of no pace nothing follows")
                .isEmpty();
        assertThat(Pace.late(List.of(never), 1, Scene.NOW)).isEmpty();
    }
}

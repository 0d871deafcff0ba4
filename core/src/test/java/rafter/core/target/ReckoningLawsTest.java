package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Facts;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Laws that hold for every history. The parameter is the seed. */
class ReckoningLawsTest {

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void replay_is_the_same_as_living_through_it(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Ticket lived = Ticket.replay(events.subList(0, 1));
        for (TicketEvent event : events.subList(1, events.size())) {
            lived = lived.after(event);
        }
        assertThat(Ticket.replay(events)).isEqualTo(lived);
        assertThat(lived.seq()).isEqualTo(events.size());
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_is_to_come_never_changes_a_clock_of_the_past(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant then = events.get(new Random(seed).nextInt(events.size())).at();
        List<TicketEvent> known =
                events.stream().filter(e -> !e.at().isAfter(then)).toList();
        assertThat(reckon(events, then)).isEqualTo(reckon(known, then));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void segments_tile_the_life_of_a_clock_and_used_is_what_counted(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant now = events.getLast().at().plus(Duration.ofHours(5));
        for (TargetClock clock : reckon(events, now)) {
            Instant edge = clock.started();
            Duration counted = Duration.ZERO;
            for (Segment segment : clock.segments()) {
                assertThat(segment.from()).isEqualTo(edge);
                assertThat(segment.working()).isEqualTo(RandomHistory.HOURS.between(segment.from(), segment.to()));
                counted = segment.counts() ? counted.plus(segment.working()) : counted;
                edge = segment.to();
            }
            assertThat(counted).isEqualTo(clock.used());
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void late_means_that_the_due_mark_lies_behind(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant now = events.getLast().at().plus(Duration.ofHours(5));
        for (TargetClock clock : reckon(events, now)) {
            if (clock.state() instanceof ClockState.Running) {
                boolean behind = clock.dueMark().map(due -> !due.isAfter(now)).orElse(false);
                assertThat(clock.late()).isEqualTo(behind);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void while_nothing_happens_the_due_instant_does_not_move(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant now = events.getLast().at();
        var dues = new ArrayList<List<Object>>();
        for (int hour = 0; hour < 100; hour += 7) {
            dues.add(List.copyOf(reckon(events, now.plus(Duration.ofHours(hour))).stream()
                    .map(clock -> (Object) clock.dueMark())
                    .toList()));
        }
        assertThat(dues).containsOnly(dues.getFirst());
    }

    private static List<TargetClock> reckon(List<TicketEvent> events, Instant now) {
        return Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, now);
    }
}

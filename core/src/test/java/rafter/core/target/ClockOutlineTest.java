package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Facts;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.TicketEvent;

/** What is kept for lists says at any later time what the clock itself would say. */
class ClockOutlineTest {

    static LongStream seeds() {
        return Seeds.upTo(300);
    }

    private static List<TargetClock> clocks(List<TicketEvent> events, Instant now) {
        return Reckoning.reckon(events, Facts.none(), RandomHistory.EDITIONS, now);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void an_outline_grows_as_its_clock_does(long seed) {
        var random = new Random(seed);
        List<TicketEvent> whole = RandomHistory.of(seed);
        List<TicketEvent> events = whole.subList(0, 1 + random.nextInt(whole.size()));
        Instant written = events.getLast().at();
        Optional<ClockOutline> outline = ClockOutline.pressing(clocks(events, written), written);
        for (int i = 0; i < 8; i++) {
            Instant now = written.plusSeconds((long) (Math.pow(random.nextDouble(), 3) * 30 * 24 * 3600));
            Optional<ClockOutline> grown = outline.map(one -> one.at(now, RandomHistory.HOURS));
            assertThat(grown).isEqualTo(ClockOutline.pressing(clocks(events, now), now));
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void growing_in_two_steps_is_growing_in_one(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant written = events.getLast().at();
        Instant between = written.plus(Duration.ofMinutes(new Random(seed).nextInt(10_000)));
        Instant now = between.plus(Duration.ofMinutes(new Random(-seed).nextInt(10_000)));
        ClockOutline.pressing(clocks(events, written), written)
                .ifPresent(
                        one -> assertThat(one.at(between, RandomHistory.HOURS).at(now, RandomHistory.HOURS))
                                .isEqualTo(one.at(now, RandomHistory.HOURS)));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void it_is_at_risk_and_late_when_its_clock_is(long seed) {
        List<TicketEvent> events = RandomHistory.of(seed);
        Instant now = events.getLast().at().plus(Duration.ofHours(seed % 90));
        List<TargetClock> clocks = clocks(events, now);
        ClockOutline.pressing(clocks, now).ifPresent(one -> {
            TargetClock clock = Reckoning.latest(clocks).get(one.objective());
            assertThat(one.late()).isEqualTo(clock.late());
            assertThat(one.atRisk()).isEqualTo(clock.atRisk());
            assertThat(one.left()).isEqualTo(clock.left());
        });
    }

    @Test
    void a_clock_of_this_machine_that_goes_behind_shrinks_nothing() {
        List<TicketEvent> events = RandomHistory.of(1);
        Instant written = events.getLast().at();
        ClockOutline.pressing(clocks(events, written), written)
                .ifPresent(one -> assertThat(one.at(written.minusSeconds(5), RandomHistory.HOURS))
                        .isEqualTo(one));
    }
}

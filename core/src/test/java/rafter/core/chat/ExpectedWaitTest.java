package rafter.core.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.PriorityQueue;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

class ExpectedWaitTest {

    private static final Duration TEN = Duration.ofMinutes(10);

    static LongStream seeds() {
        return Seeds.upTo(30);
    }

    private static ExpectedWait at(int place, int free, int places) {
        return ExpectedWait.at(place, free, places, TEN).orElseThrow();
    }

    @Test
    void with_somebody_free_it_takes_less_than_a_minute() {
        assertThat(at(1, 1, 4).words()).isEqualTo("less than a minute");
        assertThat(at(3, 3, 4).words()).isEqualTo("less than a minute");
        assertThat(at(2, 1, 4).words()).isNotEqualTo("less than a minute");
    }

    @Test
    void with_one_place_the_next_waits_for_one_exponential_end() {
        // Quantiles of the exponential distribution with mean ten: -10 ln 0.8 = 2.2 and -10 ln 0.2 = 16.1.
        assertThat(at(1, 0, 1)).isEqualTo(new ExpectedWait(Duration.ofMinutes(2), Duration.ofMinutes(17)));
        assertThat(at(1, 0, 1).words()).isEqualTo("2 to 17 minutes");
    }

    @Test
    void where_nobody_could_come_nothing_is_said() {
        assertThat(ExpectedWait.at(1, 0, 0, TEN)).isEmpty();
    }

    @Test
    void a_place_before_the_first_is_a_fault() {
        assertThatIllegalArgumentException().isThrownBy(() -> ExpectedWait.at(0, 0, 1, TEN));
        assertThatIllegalArgumentException().isThrownBy(() -> ExpectedWait.at(1, -1, 1, TEN));
        assertThatIllegalArgumentException().isThrownBy(() -> ExpectedWait.at(1, 0, -1, TEN));
        assertThatIllegalArgumentException().isThrownBy(() -> ExpectedWait.at(1, 0, 1, TEN.negated()));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void further_back_is_never_sooner_and_more_places_are_never_slower(long seed) {
        var random = new Random(seed);
        int place = 1 + random.nextInt(30);
        int places = 1 + random.nextInt(20);
        ExpectedWait here = at(place, 0, places);
        assertThat(here.least()).isLessThan(here.most());
        assertThat(at(place + 1, 0, places).least()).isGreaterThanOrEqualTo(here.least());
        assertThat(at(place + 1, 0, places).most()).isGreaterThanOrEqualTo(here.most());
        assertThat(at(place, 0, places + 1).most()).isLessThanOrEqualTo(here.most());
        assertThat(at(place, 1, places).most()).isLessThanOrEqualTo(here.most());
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void three_of_five_waits_that_are_played_through_lie_within_the_range(long seed) {
        var random = new Random(seed);
        int place = 1 + random.nextInt(10);
        int places = 1 + random.nextInt(6);
        ExpectedWait range = at(place, 0, places);
        double[] waits = IntStream.range(0, 4000)
                .mapToDouble(round -> played(place, places, random))
                .toArray();
        long below =
                Arrays.stream(waits).filter(w -> w < range.least().toMinutes()).count();
        long above =
                Arrays.stream(waits).filter(w -> w > range.most().toMinutes()).count();
        // The ends are whole minutes away from the quantiles on the outer side, so at most a fifth lies beyond each.
        assertThat(below / 4000.0).isLessThan(0.2 + 0.03);
        assertThat(above / 4000.0).isLessThan(0.2 + 0.03);
    }

    /** Chats that end one after the other until somebody at a place is next, the next in line taking each free place. */
    private static double played(int place, int places, Random random) {
        var ends = new PriorityQueue<Double>();
        IntStream.range(0, places).forEach(i -> ends.add(-10 * Math.log(1 - random.nextDouble())));
        double now = 0;
        for (int ended = 0; ended < place; ended++) {
            now = ends.remove();
            ends.add(now - 10 * Math.log(1 - random.nextDouble()));
        }
        return now;
    }

    @Test
    void what_was_measured_counts_the_more_the_more_of_it_there_is() {
        assertThat(ExpectedWait.each(List.of())).isEqualTo(ExpectedWait.USUAL);
        Duration few = ExpectedWait.each(
                Stream.generate(() -> Duration.ofMinutes(20)).limit(5).toList());
        Duration many = ExpectedWait.each(
                Stream.generate(() -> Duration.ofMinutes(20)).limit(500).toList());
        assertThat(few).isEqualTo(Duration.ofMinutes(14));
        assertThat(many.toSeconds()).isCloseTo(1193, within(1L));
    }
}

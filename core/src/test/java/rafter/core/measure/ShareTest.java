package rafter.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShareTest {

    @ParameterizedTest
    @CsvSource({
        "9, 10, 59.58, 98.21",
        "90, 100, 82.56, 94.48",
        "0, 5, 0, 43.45",
        "5, 5, 56.55, 100",
        "1, 2, 9.45, 90.55"
    })
    void the_bounds_are_those_of_the_score_interval(long part, long whole, double low, double high) {
        Share.Bounds bounds = new Share(part, whole).bounds();
        assertThat(bounds.low()).isCloseTo(low, within(0.01));
        assertThat(bounds.high()).isCloseTo(high, within(0.01));
    }

    @ParameterizedTest
    @CsvSource({
        "9, 10, 90, UNSURE",
        "950, 1000, 90, REACHED",
        "800, 1000, 90, MISSED",
        "3, 3, 100, REACHED",
        "999, 1000, 100, MISSED",
        "0, 0, 90, UNSURE"
    })
    void few_tickets_say_little_and_a_goal_of_all_is_missed_by_one(
            long part, long whole, int goal, Share.Standing standing) {
        assertThat(new Share(part, whole).against(goal)).isEqualTo(standing);
    }

    @Test
    void the_share_lies_within_its_bounds_and_more_tickets_make_them_narrower() {
        double before = 100;
        for (int n = 10; n < 100_000; n *= 10) {
            var share = new Share(n * 7L / 10, n);
            assertThat(share.percent())
                    .isBetween(share.bounds().low(), share.bounds().high());
            double width = share.bounds().high() - share.bounds().low();
            assertThat(width).isLessThan(before);
            before = width;
        }
    }

    @Test
    void more_than_the_whole_is_a_defect() {
        assertThatThrownBy(() -> new Share(3, 2)).isInstanceOf(IllegalArgumentException.class);
    }
}

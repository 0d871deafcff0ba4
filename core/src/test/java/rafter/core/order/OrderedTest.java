package rafter.core.order;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Moving a thing within a list. */
class OrderedTest {

    @ParameterizedTest
    @CsvSource({"0,1,bac", "2,-1,acb", "0,9,bca", "2,-9,cab", "1,0,abc", "-1,1,abc", "3,1,abc"})
    void a_thing_goes_so_far_and_no_further_than_the_end(int at, int by, String after) {
        assertThat(Ordered.moved(List.of("a", "b", "c"), at, by)).isEqualTo(Arrays.asList(after.split("")));
    }

    @Test
    void nothing_moves_in_an_empty_list() {
        assertThat(Ordered.moved(List.of(), 0, 1)).isEmpty();
    }
}

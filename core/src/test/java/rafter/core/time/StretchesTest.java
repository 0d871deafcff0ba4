package rafter.core.time;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.time.Stretches.Stretch;

/** Set arithmetic on stretches, held against sets that name each nanosecond. */
class StretchesTest {

    private static final int LENGTH = 40;

    static LongStream seeds() {
        return Seeds.upTo(500);
    }

    private static List<Stretch> random(Random random) {
        var all = new ArrayList<Stretch>();
        for (int i = random.nextInt(6); i > 0; i--) {
            int start = random.nextInt(LENGTH);
            all.add(new Stretch(start, start + 1 + random.nextInt(LENGTH - start)));
        }
        return all;
    }

    private static BitSet each(List<Stretch> stretches) {
        var set = new BitSet();
        stretches.forEach(one -> set.set((int) one.start(), (int) one.end()));
        return set;
    }

    private static void assertApart(List<Stretch> stretches) {
        assertThat(stretches).allMatch(one -> one.start() < one.end());
        for (int i = 1; i < stretches.size(); i++) {
            assertThat(stretches.get(i).start())
                    .isGreaterThan(stretches.get(i - 1).end());
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_union_is_the_same_time_in_order_and_apart(long seed) {
        List<Stretch> some = random(new Random(seed));
        List<Stretch> union = Stretches.union(some);
        assertThat(each(union)).isEqualTo(each(some));
        assertApart(union);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_is_taken_away_is_gone_and_everything_else_stays(long seed) {
        var random = new Random(seed);
        List<Stretch> all = Stretches.union(random(random));
        List<Stretch> taken = Stretches.union(random(random));
        List<Stretch> left = Stretches.without(all, taken);
        BitSet expected = each(all);
        expected.andNot(each(taken));
        assertThat(each(left)).isEqualTo(expected);
        assertApart(left);
    }

    @Test
    void stretches_that_touch_become_one() {
        assertThat(Stretches.union(List.of(new Stretch(5, 9), new Stretch(1, 5))))
                .containsExactly(new Stretch(1, 9));
    }
}

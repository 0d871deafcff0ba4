package rafter.core.social;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

class WaveTest {

    private static final Instant AT = Instant.parse("2027-03-01T10:00:00Z");
    private static final Duration HOUR = Duration.ofHours(1);

    static LongStream seeds() {
        return Seeds.upTo(60);
    }

    private static Wave.Item item(int id, int minute, String text) {
        return new Wave.Item("p" + id, AT.plusSeconds(60L * minute), text);
    }

    @Test
    void posts_on_one_matter_are_one_wave_named_by_what_they_share() {
        List<Wave> waves = Wave.among(
                List.of(
                        item(1, 0, "The Saltmarsh is stuck outside Skelby"),
                        item(2, 5, "Stuck on the Saltmarsh for an hour now, outside of Skelby harbour"),
                        item(3, 9, "Saltmarsh stuck at Skelby, anybody know more?"),
                        item(4, 12, "Lovely sunset over Vessa tonight")),
                3,
                HOUR);
        assertThat(waves).hasSize(1);
        assertThat(waves.getFirst().posts()).containsExactly("p1", "p2", "p3");
        assertThat(waves.getFirst().words()).contains("saltmarsh", "stuck", "skelby");
        assertThat(waves.getFirst().from()).isEqualTo(AT);
        assertThat(waves.getFirst().until()).isEqualTo(AT.plusSeconds(540));
    }

    @Test
    void what_lies_too_far_apart_or_is_too_little_is_no_wave() {
        List<Wave.Item> apart = List.of(
                item(1, 0, "Saltmarsh stuck at Skelby"),
                item(2, 61, "Saltmarsh stuck at Skelby"),
                item(3, 122, "Saltmarsh stuck at Skelby"));
        assertThat(Wave.among(apart, 2, HOUR)).isEmpty();
        assertThat(Wave.among(apart, 3, HOUR.multipliedBy(2))).hasSize(1);
        assertThat(Wave.among(apart, 4, HOUR.multipliedBy(2))).isEmpty();
        assertThat(Wave.among(List.of(), 2, HOUR)).isEmpty();
    }

    @Test
    void one_word_in_common_is_no_matter() {
        assertThat(Wave.among(
                        List.of(item(1, 0, "Skelby"), item(2, 1, "Skelby"), item(3, 2, "lunch in Skelby harbour")),
                        2,
                        HOUR))
                .isEmpty();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_order_in_which_posts_come_makes_no_difference_and_each_is_in_one_wave_at_most(long seed) {
        var random = new Random(seed);
        List<String> words = List.of("saltmarsh", "stuck", "skelby", "late", "refund", "gate", "closed", "cabin");
        var posts = new ArrayList<Wave.Item>();
        for (int i = 0; i < 30; i++) {
            String text = words.get(random.nextInt(8)) + " " + words.get(random.nextInt(8)) + " "
                    + words.get(random.nextInt(8));
            posts.add(item(i, random.nextInt(300), text));
        }
        List<Wave> waves = Wave.among(posts, 2, HOUR);
        Collections.shuffle(posts, random);
        assertThat(Wave.among(posts, 2, HOUR)).isEqualTo(waves);
        List<String> all = waves.stream().flatMap(wave -> wave.posts().stream()).toList();
        assertThat(new HashSet<>(all)).hasSize(all.size());
    }
}

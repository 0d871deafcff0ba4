package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import rafter.core.Seeds;

/** Texts are alike by the rare words that they share. */
class AlikeTest {

    private static final Map<String, Double> SLOT =
            Map.of("freight", 20.0, "slot", 30.0, "cancelled", 400.0, "the", 1.0);

    @Test
    void a_rare_word_in_common_counts_for_more_than_a_frequent_one() {
        Alike alike = Alike.to(SLOT);
        assertThat(alike.of(Set.of("cancelled")).score())
                .isGreaterThan(alike.of(Set.of("freight")).score());
        assertThat(alike.of(Set.of("freight")).score())
                .isGreaterThan(alike.of(Set.of("the")).score());
    }

    @Test
    void the_words_in_common_are_told_the_rarest_first() {
        assertThat(Alike.to(SLOT)
                        .of(Set.of("the", "slot", "cancelled", "horse"))
                        .words())
                .containsExactly("cancelled", "slot", "the");
    }

    @Test
    void nothing_in_common_is_nothing_alike() {
        assertThat(Alike.to(SLOT).of(Set.of("horse"))).isEqualTo(new Alike.Likeness(0, List.of()));
        assertThat(Alike.to(Map.of()).of(Set.of("horse")).score()).isZero();
    }

    @Test
    void figures_and_short_words_tell_nothing() {
        assertThat(Alike.telling("Re: Slot 4471 at 9 on TP-20 is, is slot")).containsExactly("slot");
    }

    @Test
    void all_words_in_common_are_wholly_alike_and_more_words_never_less() {
        Seeds.upTo(200).forEach(seed -> {
            var random = new Random(seed);
            Map<String, Double> oneIn = random.ints(1 + random.nextInt(8), 0, 30)
                    .distinct()
                    .boxed()
                    .collect(Collectors.toMap(i -> "word" + (char) ('a' + i), i -> 1 + random.nextDouble() * 1e6));
            Alike alike = Alike.to(oneIn);
            assertThat(alike.of(oneIn.keySet()).score()).isCloseTo(1, within(1e-9));
            var words = new HashSet<String>();
            double before = 0;
            for (String word : oneIn.keySet()) {
                words.add(word);
                words.add("other" + words.size());
                double score = alike.of(words).score();
                assertThat(score).isBetween(before, 1.0);
                before = score;
            }
        });
    }
}

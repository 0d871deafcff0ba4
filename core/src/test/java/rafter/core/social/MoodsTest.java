package rafter.core.social;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

class MoodsTest {

    private static final Moods MOODS = Moods.shipped();

    static LongStream seeds() {
        return Seeds.upTo(100);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "The crossing was great, thanks to a friendly crew|GOOD",
                "Stranded in Skelby again, this is a disgrace|BAD",
                "Does the late boat run on Sundays?|NEITHER",
                "That was not good at all, and nobody was helpful|BAD",
                "It was not bad|NEITHER",
                "It was not bad, and the crew was kind|GOOD",
                "It isn't terrible, really|GOOD",
                "I do not know when it leaves. Great!|GOOD",
                "no problem, but the cabin was horrible|BAD",
                "THE WORST FERRY EVER!!!|BAD",
                "Fähre um 10|NEITHER",
                "''|NEITHER"
            })
    void a_text_has_the_mood_that_a_reader_finds_in_it(String text, Mood.Kind kind) {
        Mood mood = MOODS.of(text);
        assertThat(mood.kind()).as("%s %s", mood.score(), mood.signs()).isEqualTo(kind);
    }

    @Test
    void the_words_that_decided_are_named_as_they_stood() {
        Mood mood = MOODS.of("It was not very helpful; and late.");
        assertThat(mood.signs()).extracting(Mood.Sign::words).containsExactly("not helpful", "late");
        assertThat(mood.signs().getFirst().weight()).isLessThan(-2);
    }

    @Test
    void a_negation_reaches_three_words_and_not_over_a_comma() {
        assertThat(MOODS.of("not at all good").signs().getFirst().turned()).isTrue();
        assertThat(MOODS.of("not at all a good").signs().getFirst().turned()).isFalse();
        assertThat(MOODS.of("not now, good").signs().getFirst().turned()).isFalse();
    }

    @Test
    void a_list_with_something_else_in_it_is_refused() {
        assertThatIllegalArgumentException().isThrownBy(() -> Moods.of(List.of("late")));
        assertThatIllegalArgumentException().isThrownBy(() -> Moods.of(List.of("late much")));
        assertThat(Moods.of(List.of("# nothing", "", "late -1")).of("late").score())
                .isNegative();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void whatever_is_written_the_score_stays_within_its_bounds_and_follows_its_signs(long seed) {
        var random = new Random(seed);
        List<String> words =
                List.of("great", "not", "very", "awful", "the", ",", "boat", "never", "kind", "!", "😀", "n't");
        var text = new StringBuilder();
        for (int i = random.nextInt(60); i > 0; i--) {
            text.append(words.get(random.nextInt(words.size()))).append(' ');
        }
        Mood mood = MOODS.of(text.toString());
        double sum = mood.signs().stream().mapToDouble(Mood.Sign::weight).sum();
        assertThat(mood.score()).isBetween(-1.0, 1.0);
        assertThat(Math.signum(mood.score())).isEqualTo(Math.signum(sum));
    }
}

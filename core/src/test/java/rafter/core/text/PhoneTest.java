package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.core.Seeds;

class PhoneTest {

    @ParameterizedTest
    @CsvSource({
        "+47 55 01 02 03, 4755010203",
        "0047 55010203, 4755010203",
        "055 010 203, 055010203",
        "' (055) 010-203 ', 055010203",
        "+44 (0)20 5550 1234, 442055501234",
        "5501, 5501"
    })
    void a_number_is_compared_by_its_digits(String typed, String digits) {
        assertThat(Phone.of(typed).map(Phone::digits)).hasValue(digits);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "+",
                "110",
                "1234567890123456",
                "ext. 4471",
                "4471 or 4472",
                "help@ternpassage.example",
                "4+4 71"
            })
    void what_is_no_number_is_not_taken_for_one(String typed) {
        assertThat(Phone.of(typed)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"+47 55 01 02 03", "0047 55010203", "055 010 203", "55010203", "55 01 02", "010203"})
    void one_number_is_found_however_it_is_asked_for(String asked) {
        assertThat(Phone.of("+47 55 01 02 03").orElseThrow().digits())
                .contains(Phone.asked(asked).orElseThrow());
    }

    @ParameterizedTest
    @ValueSource(strings = {"0110", "000", "trailer", "12 a"})
    void what_is_too_short_or_no_number_is_not_looked_for(String asked) {
        assertThat(Phone.asked(asked)).isEmpty();
    }

    static LongStream seeds() {
        return Seeds.upTo(300);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_number_is_found_by_itself_in_any_writing(long seed) {
        var random = new Random(seed);
        String digits = Long.toString(random.nextLong(100_000, 1_000_000_000_000L));
        String kept = Phone.of("+47 " + spaced(digits, random)).orElseThrow().digits();
        assertThat(kept).isEqualTo("47" + digits);
        for (String before : List.of("+47", "0047", "0", "")) {
            assertThat(kept)
                    .contains(Phone.asked(before + spaced(digits, random)).orElseThrow());
        }
    }

    private static String spaced(String digits, Random random) {
        var written = new StringBuilder();
        digits.chars()
                .forEach(digit -> written.append(List.of("", " ", "-", ".", "/").get(random.nextInt(5)))
                        .append((char) digit));
        return written.toString();
    }
}

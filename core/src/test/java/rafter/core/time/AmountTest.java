package rafter.core.time;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class AmountTest {

    @ParameterizedTest
    @CsvSource({
        "30 m, PT30M",
        "30, PT30M",
        "4 h, PT4H",
        "1 h 30, PT1H30M",
        "1H30M, PT1H30M",
        "2 d, PT48H",
        "1 d 2 h 3 m, PT26H3M",
        "' 5 m ', PT5M"
    })
    void lengths_of_time_are_read_as_people_write_them(String typed, Duration amount) {
        assertThat(Amount.read(typed)).hasValue(amount);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "soon", "-5 m", "4 weeks", "1.5 h", "m", "1 h 2 h"})
    void anything_else_is_none(String typed) {
        assertThat(Amount.read(typed).filter(amount -> !amount.isZero())).isEmpty();
    }
}

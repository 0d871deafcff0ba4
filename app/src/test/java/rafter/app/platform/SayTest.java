package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SayTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Instant NOW = Instant.parse("2027-03-10T09:00:00Z");

    @ParameterizedTest
    @CsvSource({
        "PT30S, under 1 m",
        "PT13M, 13 m",
        "PT1H, 1 h",
        "PT1H20M, 1 h 20",
        "PT1H5M, 1 h 05",
        "PT11H30M, 11 h",
        "PT27H, 27 h",
        "PT-16M, 16 m"
    })
    void working_time_is_said_in_hours_and_minutes(Duration amount, String words) {
        assertThat(Say.worked(amount)).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({"PT51H, 2 d 3 h", "PT48H, 2 d", "PT90M, 1 h 30", "PT0S, under 1 m"})
    void plain_time_is_said_in_its_two_largest_parts(Duration amount, String words) {
        assertThat(Say.amount(amount)).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({
        "2027-03-10T10:34:00Z, 11:34",
        "2027-03-09T08:30:00Z, Tue 09:30",
        "2027-03-15T08:30:00Z, Mon 09:30",
        "2027-02-03T08:30:00Z, 3 Feb 09:30",
        "2026-02-03T08:30:00Z, 3 Feb 2026"
    })
    void an_instant_is_said_as_near_as_it_is(Instant at, String words) {
        assertThat(Say.when(at, NOW, OSLO)).isEqualTo(words);
    }

    @Test
    void the_exact_instant_names_its_zone() {
        assertThat(Say.exactly(NOW, OSLO)).isEqualTo("Wednesday 10 March 2027, 10:00:00 Europe/Oslo");
    }

    @ParameterizedTest
    @CsvSource({"0, 0 B", "999, 999 B", "84000, 84 kB", "2400000, 2.4 MB"})
    void sizes_are_said_in_thousands(long bytes, String words) {
        assertThat(Say.size(bytes)).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({"Imani Okoro, IO", "Sefa, S", "Anna van der Berg, AB", "'', ?"})
    void initials_are_of_the_first_and_last_word(String name, String initials) {
        assertThat(Say.initials(name)).isEqualTo(initials);
    }
}

package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.URI;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class SecretsTest {

    private static Secrets under(String key) {
        return new Secrets(new RafterSettings(
                URI.create("http://x"), key, "", "", new RafterSettings.Intake(1, false, Duration.ofSeconds(1))));
    }

    @Test
    void what_was_sealed_opens_again_and_never_looks_the_same() {
        Secrets secrets = under("key");
        byte[] sealed = secrets.seal("tide å");
        assertThat(secrets.open(sealed)).isEqualTo("tide å");
        assertThat(secrets.seal("tide å")).isNotEqualTo(sealed);
    }

    @Test
    void another_key_is_told_in_words() {
        byte[] sealed = under("key").seal("tide");
        assertThatThrownBy(() -> under("other").open(sealed))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("another secret key");
    }

    @Test
    void random_words_differ() {
        assertThat(under("key").randomWord(10))
                .hasSize(20)
                .isNotEqualTo(under("key").randomWord(10));
    }
}

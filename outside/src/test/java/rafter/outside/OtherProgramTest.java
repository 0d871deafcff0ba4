package rafter.outside;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.api.Test;

/** The stand-in of another program that rules call. */
class OtherProgramTest {

    private final OtherProgram program = new OtherProgram();

    @Test
    void it_takes_calls_and_tells_whether_they_are_signed_with_a_key() {
        // The HMAC of RFC 4231 with other words, worked out by openssl.
        String signature = "hmac-sha256=f7bc83f430538424b13298e6aa6fb143ef4d59a14946175997479dbc2d1a3cd8";
        String body = "The quick brown fox jumps over the lazy dog";
        assertThat(program.call("1", signature, body, Instant.EPOCH)).isTrue();
        OtherProgram.Call call = program.calls().getFirst();
        assertThat(call.signedWith("key")).isTrue();
        assertThat(call.signedWith("another")).isFalse();
        assertThat(call.signedWith("")).isFalse();
        assertThat(program.shown("key")).containsEntry("refuses", false);
    }

    @Test
    void it_can_refuse_and_shows_the_last_fifty() {
        program.refuse(true);
        for (int i = 0; i < 60; i++) {
            assertThat(program.call(Integer.toString(i), "", "{}", Instant.EPOCH))
                    .isFalse();
        }
        assertThat(program.calls()).hasSize(50);
        assertThat(program.calls().getFirst().id()).isEqualTo("59");
        program.refuse(false);
        assertThat(program.call("x", "", "{}", Instant.EPOCH)).isTrue();
    }
}

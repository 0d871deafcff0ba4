package rafter.core.consult;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MailedAnswerTest {

    @ParameterizedTest
    @ValueSource(
            strings = {"Yes", "yes, in ten minutes", "\n\n  Ja!", "OK.", "Oui, j’arrive", "Sí", "- take", "D’accord"})
    void a_first_word_of_consent_takes_it(String words) {
        assertThat(MailedAnswer.read(words)).contains(MailedAnswer.YES);
    }

    @ParameterizedTest
    @ValueSource(strings = {"No", "no, sorry", "Nein, leider nicht", "Can’t make it", "Não", "Désolé", "Cannot today"})
    void a_first_word_of_refusal_declines_it(String words) {
        assertThat(MailedAnswer.read(words)).contains(MailedAnswer.NO);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "  \n ",
                "Which container is it?",
                "Note the seal",
                "Notice that",
                "Yesterday it worked",
                "1234",
                "?!"
            })
    void anything_else_has_to_be_read(String words) {
        assertThat(MailedAnswer.read(words)).isEmpty();
    }

    @Test
    void rules_of_consults_have_their_limits() {
        assertThat(ConsultRules.usual().faults()).isEmpty();
        assertThat(new ConsultRules(true, true, Duration.ofSeconds(59), Double.NaN, true).faults())
                .hasSize(2);
        assertThat(new ConsultRules(true, true, Duration.ofHours(25), 21, true).faults())
                .hasSize(2);
        assertThat(new ConsultRules(false, false, Duration.ofMinutes(1), 0, false).faults())
                .isEmpty();
    }
}

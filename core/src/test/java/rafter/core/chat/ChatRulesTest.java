package rafter.core.chat;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class ChatRulesTest {

    private static final ChatRules USUAL = ChatRules.usual();

    private static Gathering.Question question(String key, String ask, String... choices) {
        return new Gathering.Question(key, ask, new Gathering.Into.Topic(), List.of(choices));
    }

    private static List<String> faults(Gathering.Question... questions) {
        return new ChatRules(true, "Hello", Duration.ofMinutes(10), new Gathering(List.of(questions))).faults();
    }

    private static List<String> patient(Duration patience) {
        return new ChatRules(true, "Hello", patience, USUAL.gathering()).faults();
    }

    private static List<String> greeting(String words) {
        return new ChatRules(true, words, USUAL.patience(), USUAL.gathering()).faults();
    }

    @Test
    void the_usual_rules_are_without_fault() {
        assertThat(USUAL.faults()).isEmpty();
        assertThat(USUAL.open()).isTrue();
    }

    @Test
    void a_panel_greets_and_does_not_make_a_speech() {
        assertThat(greeting(" ")).singleElement().asString().contains("at most 300 letters");
        assertThat(greeting("x".repeat(300))).isEmpty();
        assertThat(greeting("x".repeat(301))).hasSize(1);
    }

    @Test
    void somebody_counts_as_gone_after_a_minute_at_the_least_and_half_a_day_at_the_most() {
        assertThat(patient(Duration.ofSeconds(59))).hasSize(1);
        assertThat(patient(Duration.ofMinutes(1))).isEmpty();
        assertThat(patient(Duration.ofHours(12))).isEmpty();
        assertThat(patient(Duration.ofHours(12).plusSeconds(1))).hasSize(1);
    }

    @Test
    void two_questions_do_not_go_into_one_place() {
        assertThat(faults(question("topic", "What is it about?"), question("topic", "And besides?")))
                .containsExactly("“And besides?” goes where another question goes already.");
    }

    @Test
    void a_question_has_words_and_not_too_many() {
        assertThat(faults(question("a", " "))).hasSize(1);
        assertThat(faults(question("a", "x".repeat(200)))).isEmpty();
        assertThat(faults(question("a", "x".repeat(201)))).hasSize(1);
    }

    @Test
    void a_question_offers_a_dozen_choices_that_fit_on_a_button() {
        String[] dozen = IntStream.range(0, 12).mapToObj(i -> "Choice " + i).toArray(String[]::new);
        String[] more = IntStream.range(0, 13).mapToObj(i -> "Choice " + i).toArray(String[]::new);
        assertThat(faults(question("a", "Which?", dozen))).isEmpty();
        assertThat(faults(question("a", "Which?", more))).hasSize(1);
        assertThat(faults(question("a", "Which?", "x".repeat(60)))).isEmpty();
        assertThat(faults(question("a", "Which?", "x".repeat(61)))).hasSize(1);
    }

    @Test
    void not_more_than_eight_things_are_asked() {
        Gathering.Question[] nine =
                IntStream.range(0, 9).mapToObj(i -> question("q" + i, "And?")).toArray(Gathering.Question[]::new);
        assertThat(faults(nine)).containsExactly("At most 8 questions are asked.");
    }
}

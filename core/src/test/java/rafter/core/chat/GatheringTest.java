package rafter.core.chat;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;

class GatheringTest {

    private static final Gathering GATHERING = new Gathering(List.of(
            new Gathering.Question("name", "What is your name?", new Gathering.Into.Name(), List.of()),
            new Gathering.Question("booking", "What is your booking?", new Gathering.Into.Field("booking"), List.of()),
            new Gathering.Question(
                    "topic", "What is it about?", new Gathering.Into.Topic(), List.of("Lost items", "Freight")),
            new Gathering.Question("mail", "Where does a mail reach you?", new Gathering.Into.Address(), List.of())));

    private static final Gathering.Reader BOOKINGS =
            (key, text) -> text.matches("TP-\\d{5}") ? Optional.of(text) : Optional.empty();

    static LongStream seeds() {
        return Seeds.upTo(50);
    }

    private static Gathering.Step step(Gathering.Progress progress, String words) {
        return GATHERING.after(progress, words, Set.of(), BOOKINGS);
    }

    private static Optional<String> value(Gathering.Step step) {
        return step.value().map(Gathering.Value::text);
    }

    private static Optional<String> next(Gathering.Step step) {
        return step.next().map(Gathering.Question::key);
    }

    @Test
    void the_first_words_are_no_answer_and_questions_follow_one_after_the_other() {
        Gathering.Step first = step(Gathering.Progress.NONE, "Is the ramp wide enough?");
        assertThat(value(first)).isEmpty();
        assertThat(next(first)).contains("name");
        Gathering.Step second = step(first.progress(), "Noor Haddad.");
        assertThat(value(second)).contains("Noor Haddad");
        assertThat(next(second)).contains("booking");
        Gathering.Step third = step(second.progress(), "TP-20811. My chair is 74 cm wide, is that enough?");
        assertThat(value(third)).contains("TP-20811");
        Gathering.Step fourth = step(third.progress(), "lost items");
        assertThat(value(fourth)).contains("Lost items");
        Gathering.Step fifth = step(fourth.progress(), "write to (noor@seamail.example), please");
        assertThat(value(fifth)).contains("noor@seamail.example");
        assertThat(next(fifth)).isEmpty();
        assertThat(next(step(fifth.progress(), "hello?"))).isEmpty();
    }

    @Test
    void what_cannot_be_understood_is_asked_once_more_and_then_left() {
        Gathering.Progress booking = new Gathering.Progress(Optional.of("booking"), false, Set.of("name"));
        Gathering.Step again = step(booking, "I do not have it here");
        assertThat(again.unclear()).isTrue();
        assertThat(next(again)).contains("booking");
        Gathering.Step on = step(again.progress(), "really not");
        assertThat(on.unclear()).isFalse();
        assertThat(value(on)).isEmpty();
        assertThat(next(on)).contains("topic");
    }

    @Test
    void of_a_story_the_word_with_figures_goes_into_a_field_that_takes_any_text() {
        Gathering.Reader any = (key, text) -> Optional.of(text);
        Gathering.Progress booking = new Gathering.Progress(Optional.of("booking"), false, Set.of("name"));
        assertThat(value(GATHERING.after(booking, "It is TP-20811, for next Friday", Set.of(), any)))
                .contains("TP-20811");
        assertThat(value(GATHERING.after(booking, "the blue one", Set.of(), any)))
                .contains("the blue one");
        assertThat(value(GATHERING.after(booking, "I really have no idea", Set.of(), any)))
                .contains("I really have no idea");
    }

    @Test
    void what_is_known_is_not_asked() {
        Gathering.Step first = GATHERING.after(Gathering.Progress.NONE, "Hello", Set.of("name", "booking"), BOOKINGS);
        assertThat(next(first)).contains("topic");
        Gathering.Progress asked = new Gathering.Progress(Optional.of("name"), false, Set.of());
        Gathering.Step filled = GATHERING.after(asked, "Noor", Set.of("name"), BOOKINGS);
        assertThat(value(filled)).as("somebody filled it in meanwhile").isEmpty();
        assertThat(next(filled)).contains("booking");
    }

    @Test
    void a_name_is_one_line_with_letters_and_no_address() {
        Gathering.Progress name = new Gathering.Progress(Optional.of("name"), false, Set.of());
        assertThat(value(step(name, "12345"))).isEmpty();
        assertThat(value(step(name, "noor@seamail.example"))).isEmpty();
        assertThat(value(step(name, "Noor\nI want to know"))).isEmpty();
        assertThat(value(step(name, "x".repeat(81)))).isEmpty();
        assertThat(value(step(name, "x".repeat(80)))).contains("x".repeat(80));
        assertThat(value(step(name, "  Ann-Sofie  "))).contains("Ann-Sofie");
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void whatever_somebody_writes_each_question_is_asked_at_most_twice_and_it_ends(long seed) {
        var random = new Random(seed);
        List<String> said = List.of("", "TP-20811", "a@b.example", "Freight", "Noor", "?!", "😀", "x".repeat(3000));
        Gathering.Progress progress = Gathering.Progress.NONE;
        var asked = new java.util.HashMap<String, Integer>();
        int lines = 0;
        Gathering.Step step;
        do {
            step = step(progress, said.get(random.nextInt(said.size())));
            assertThat(step.progress().done()).containsAll(progress.done());
            progress = step.progress();
            step.next().ifPresent(question -> asked.merge(question.key(), 1, Integer::sum));
            lines++;
        } while (step.next().isPresent());
        assertThat(asked.values()).allMatch(times -> times <= 2);
        assertThat(lines).isLessThanOrEqualTo(2 * GATHERING.questions().size() + 1);
        assertThat(new HashSet<>(progress.done())).hasSize(GATHERING.questions().size());
    }
}

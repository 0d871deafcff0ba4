package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.id.MessageId;

/** What one person does within a minute reads as one line. */
class RunsOfChangesTest {

    private static Conversation.Change change(int second, String who, String did) {
        Instant at = Instant.parse("2027-03-01T10:00:00Z").plusSeconds(second);
        return new Conversation.Change(who + " " + did, who, at, "10:00", at.toString());
    }

    private static Conversation.Entry entry() {
        return new Conversation.Entry(
                new MessageId(1),
                "customer",
                "Dov",
                "email",
                "10:00",
                "",
                "Text",
                "",
                List.of(),
                false,
                false,
                false,
                Optional.empty(),
                Optional.empty());
    }

    private static String words(Conversation.Item item) {
        return switch (item) {
            case Conversation.Change change -> change.words();
            case Conversation.Run run -> run.words() + " (" + run.changes().size() + ")";
            case Conversation.Entry entry -> entry.author();
        };
    }

    private static List<String> read(Conversation.Item... items) {
        return Conversation.inRuns(List.of(items)).stream()
                .map(RunsOfChangesTest::words)
                .toList();
    }

    @Test
    void changes_of_one_person_within_a_minute_are_one_line_that_keeps_each() {
        assertThat(read(
                        change(0, "Imani", "took it"),
                        change(20, "Imani", "set the priority to P1"),
                        change(60, "Imani", "set the topic to billing")))
                .containsExactly("Imani took it, set the priority to P1, set the topic to billing (3)");
    }

    @Test
    void another_person_a_message_or_a_later_minute_begins_a_line_of_its_own() {
        assertThat(read(
                        change(0, "Imani", "took it"),
                        change(5, "Odile", "set the priority to P1"),
                        change(70, "Odile", "took it"),
                        entry(),
                        change(75, "Odile", "put it back")))
                .containsExactly(
                        "Imani took it", "Odile set the priority to P1", "Odile took it", "Dov", "Odile put it back");
    }

    @Test
    void what_nobody_did_stands_alone_and_a_long_run_says_how_many() {
        var step = new Conversation.Change("A step fired", "", Instant.parse("2027-03-01T10:00:01Z"), "10:00", "");
        assertThat(read(step, step)).containsExactly("A step fired", "A step fired");
        assertThat(read(
                        change(0, "Imani", "set the topic to " + "x".repeat(80)),
                        change(1, "Imani", "set the tags to " + "y".repeat(80))))
                .containsExactly("Imani made 2 changes (2)");
        assertThat(read()).isEmpty();
    }
}

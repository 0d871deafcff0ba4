package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.FieldSource;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** How acts read before they are done: in a macro, in a batch, in what a rule will do. */
class ActWordsTest {

    private static final Instant NOON = Instant.parse("2027-05-01T12:00:00Z");
    private static final Optional<PersonId> TWO = Optional.of(new PersonId(2));

    @SuppressWarnings("UnusedVariable")
    private static final List<Act> ALL = ActTest.ALL;

    private static String words(Act act) {
        return ActWords.of(act, ActTest.HOUSE, at -> at.equals(NOON) ? "Sat 12:00" : "then");
    }

    @ParameterizedTest
    @FieldSource("ALL")
    void every_act_is_said_in_a_line_that_begins_with_a_capital(Act act) {
        assertThat(words(act))
                .isNotBlank()
                .doesNotContain("\n", "Optional", "null")
                .matches("\\p{Lu}.*");
    }

    static Stream<Arguments> said() {
        return Stream.of(
                Arguments.of(new Act.HandToPerson(TWO), "Hand to Person 2"),
                Arguments.of(new Act.HandToPerson(Optional.empty()), "Leave to the team"),
                Arguments.of(new Act.HandOver(new TeamId(1)), "Hand to Team 1"),
                Arguments.of(new Act.HandOver(new TeamId(9)), "Hand to a team that is gone"),
                Arguments.of(new Act.HandBack(new TeamId(2), Optional.of(new TeamId(1)), TWO), "Hand back to Person 2"),
                Arguments.of(
                        new Act.HandBack(new TeamId(2), Optional.of(new TeamId(1)), Optional.empty()),
                        "Hand back to Team 1"),
                Arguments.of(
                        new Act.HandBack(new TeamId(2), Optional.empty(), Optional.empty()), "Hand back to nobody"),
                Arguments.of(new Act.MoveTo("with-partner"), "Move to “With partner”"),
                Arguments.of(new Act.MoveTo("gone"), "Move to “gone”"),
                Arguments.of(new Act.SetTopic(" "), "Take the topic off"),
                Arguments.of(new Act.SetTopic(" billing "), "Set topic “billing”"),
                Arguments.of(new Act.SetTags(Set.of("vip", "lost")), "Set the tags to lost, vip"),
                Arguments.of(new Act.SetTags(Set.of()), "Take all tags off"),
                Arguments.of(new Act.Fill("own-1-number", " "), "Set metres to nothing"),
                Arguments.of(new Act.AgreeTime(Optional.of(NOON), "asked"), "Agree on Sat 12:00"),
                Arguments.of(new Act.AgreeTime(Optional.empty(), ""), "Take back the time agreed"),
                Arguments.of(new Act.BringBack(Optional.of(NOON)), "Have them come back Sat 12:00"),
                Arguments.of(new Act.AnswerBy(new Way("chat", OptionalLong.empty())), "Answer by chat"),
                Arguments.of(
                        new Act.Notify(Act.Whom.ADDRESS, "duty@ternpassage.example", "x"),
                        "Tell duty@ternpassage.example by mail"),
                Arguments.of(new Act.Join(new TicketNumber(4472)), "Join into 4472"),
                Arguments.of(
                        Act.Several.of(List.of(new Act.Tag(" vip "), new Act.SetPriority(Priority.P1))),
                        "Add tag “vip”; Set priority P1"),
                Arguments.of(new Act.PutPolicy(""), "Let the first policy promise that fits"),
                Arguments.of(new Act.PutPolicy("iron"), "Have “a policy that is gone” promise"),
                Arguments.of(new Act.PutIntoQueue(Optional.of(new QueueId(3))), "Put into “Queue 3”"),
                Arguments.of(new Act.PutIntoQueue(Optional.of(new QueueId(8))), "Put into “a queue that is gone”"),
                Arguments.of(
                        new Act.PutSkill(new SkillId(9), Steering.Need.NEEDED),
                        "Say that it " + Steering.Need.NEEDED.words() + " a skill that is gone"));
    }

    @ParameterizedTest
    @MethodSource("said")
    void it_reads_so(Act act, String words) {
        assertThat(words(act)).isEqualTo(words);
    }

    @Test
    void a_task_says_who_does_it_and_by_when() {
        assertThat(words(new Act.SetTask(OptionalInt.empty(), " Ask ", TWO, Optional.of(NOON))))
                .isEqualTo("Add the task “Ask” for Person 2 by Sat 12:00");
        assertThat(words(new Act.SetTask(OptionalInt.of(1), "Ask", Optional.empty(), Optional.empty())))
                .isEqualTo("Change the task to “Ask”");
    }

    @Test
    void time_is_written_down_or_corrected() {
        var spent = new Work.Spent(new PersonId(2), NOON, Duration.ofMinutes(90), "call", true, "");
        assertThat(words(new Act.SpendTime(OptionalInt.empty(), spent))).isEqualTo("Write down 90 minutes of Person 2");
        assertThat(words(new Act.SpendTime(OptionalInt.of(1), spent))).isEqualTo("Correct to 90 minutes of Person 2");
    }

    @Test
    void help_is_asked_of_a_person_or_a_team() {
        assertThat(words(new Act.AskHelp(new Help.Wanted(TWO, Optional.empty(), "x", Optional.empty()))))
                .isEqualTo("Ask Person 2 for help");
        assertThat(words(new Act.AskHelp(
                        new Help.Wanted(Optional.empty(), Optional.of(new TeamId(1)), "x", Optional.empty()))))
                .isEqualTo("Ask Team 1 for help");
    }

    @Test
    void what_it_waits_for_is_named_in_a_fixed_order() {
        assertThat(words(new Act.WaitFor(Set.of(Await.Happening.values()), "note")))
                .startsWith("Come back when ")
                .contains(" or ")
                .isEqualTo(words(new Act.WaitFor(Set.of(Await.Happening.values()), "other")));
        assertThat(words(new Act.WaitFor(Set.of(), ""))).isEqualTo("Wait for nothing any more");
    }
}

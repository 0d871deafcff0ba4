package rafter.app.promises.policies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.util.LinkedMultiValueMap;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.id.TeamId;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.Step;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.time.Amount;

class PolicyFormTest {

    @ParameterizedTest
    @CsvSource({"4 h, 240", "1 h 30, 90", "1h30m, 90", "45 m, 45", "45, 45", "90 min, 90", "100 h, 6000"})
    void durations_are_read_as_people_type_them(String typed, long minutes) {
        assertThat(PolicyForm.duration(typed, "it")).isEqualTo(Duration.ofMinutes(minutes));
        assertThat(PolicyForm.duration(Amount.written(Duration.ofMinutes(minutes)), "it"))
                .isEqualTo(Duration.ofMinutes(minutes));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "soon", "0", "0 h", "-1 h", "4 d", "1 h h", "99999999 h"})
    void what_is_no_duration_is_refused_in_words(String typed) {
        assertThatThrownBy(() -> PolicyForm.duration(typed, "first reply of P1"))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("first reply of P1");
    }

    private static Policy policy() {
        var goal = new Goal(
                Map.of(Priority.P1, Duration.ofMinutes(90), Priority.P3, Duration.ofHours(4)),
                Set.of(Turn.PARTNER),
                90,
                true);
        return new Policy(
                "p",
                "Anchor",
                "why",
                true,
                Criteria.everything(),
                Optional.of("office"),
                Map.of(Objective.FIRST_REPLY, goal),
                List.of(
                        new Step(
                                "a",
                                Objective.FIRST_REPLY,
                                new Step.When.Before(Duration.ofMinutes(30)),
                                List.of(new Act.Notify(Act.Whom.ADDRESS, "duty@ternpassage.example", "{number}"))),
                        new Step(
                                "b",
                                Objective.FIRST_REPLY,
                                new Step.When.Used(50),
                                List.of(new Act.HandOver(new TeamId(3)))),
                        new Step(
                                "c",
                                Objective.FIRST_REPLY,
                                new Step.When.After(Duration.ZERO),
                                List.of(new Act.Tag("late"))),
                        new Step(
                                "d",
                                Objective.FIRST_REPLY,
                                new Step.When.After(Duration.ofHours(1)),
                                List.of(new Act.RaisePriority())),
                        new Step(
                                "e",
                                Objective.FIRST_REPLY,
                                new Step.When.After(Duration.ofHours(2)),
                                List.of(new Act.Note("Late: {subject}")))));
    }

    @Test
    void a_policy_comes_back_from_its_form_as_it_went() {
        assertThat(PolicyForm.of(policy()).policy()).isEqualTo(policy());
    }

    @Test
    void a_step_with_several_acts_is_shown_as_several_and_does_the_same() {
        var both = new Step(
                "a",
                Objective.FIRST_REPLY,
                new Step.When.Used(50),
                List.of(new Act.Tag("late"), new Act.RaisePriority()));
        var policy = new Policy(
                "p", "n", "", true, Criteria.everything(), Optional.empty(), policy().goals(), List.of(both));
        assertThat(PolicyForm.of(policy).policy().steps()).extracting(Step::id).containsExactly("a", "a-2");
    }

    @Test
    void steps_are_added_and_removed_and_a_step_of_what_is_not_promised_is_refused() {
        PolicyForm form = PolicyForm.of(policy());
        assertThat(form.after("add-step").steps()).hasSize(6);
        assertThat(form.after("remove-step:0").steps()).hasSize(4);
        assertThat(form.after("remove-step:77").steps()).hasSize(5);
        var typed = new LinkedMultiValueMap<String, String>();
        typed.add("name", "n");
        typed.add("n.0.kind", "all");
        typed.add("g.FIRST_REPLY.P1", "1 h");
        typed.add("g.FIRST_REPLY.share", "90");
        typed.add("s.0.act", "raise");
        typed.add("s.0.objective", "PICK_UP");
        typed.add("s.0.when", "used");
        typed.add("s.0.amount", "50");
        assertThatThrownBy(() -> PolicyForm.read(typed).policy())
                .hasMessageContaining("pick-up, which the policy does not promise");
        typed.set("g.FIRST_REPLY.share", "ninety");
        assertThatThrownBy(() -> PolicyForm.read(typed).policy()).hasMessageContaining("a number from 1 to 100");
    }
}

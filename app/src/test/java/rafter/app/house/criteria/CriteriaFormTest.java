package rafter.app.house.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.util.LinkedMultiValueMap;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/** A criteria sentence as the fields of a form. */
class CriteriaFormTest {

    private static final Criteria ANCHOR = Criteria.test(KnownField.PLAN, Operator.IS, "Anchor");
    private static final Criteria LOST = Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "lost", "left behind");

    private final LinkedMultiValueMap<String, String> form = new LinkedMultiValueMap<>();

    private void test(String place, String field, String operator, String... values) {
        form.add("n." + place + ".kind", "test");
        form.add("n." + place + ".field", field);
        form.add("n." + place + ".was", field);
        form.add("n." + place + ".op", operator);
        for (String value : values) {
            form.add("n." + place + ".v", value);
        }
    }

    @Test
    void groups_within_groups_are_read_from_their_places() {
        form.add("n.0.kind", "all");
        test("0.0", "plan", "is", "Anchor", "");
        form.add("n.0.1.kind", "none");
        test("0.1.0", "subject", "has-any", " lost ", "left behind", "lost");
        assertThat(CriteriaForm.read(form))
                .isEqualTo(new Criteria.All(List.of(ANCHOR, new Criteria.Not(new Criteria.Any(List.of(LOST))))));
    }

    @Test
    void a_form_that_says_nothing_takes_every_ticket_and_an_unknown_field_is_left_out() {
        assertThat(CriteriaForm.read(form)).isEqualTo(Criteria.everything());
        form.add("n.0.kind", "any");
        test("0.0", "moon", "is", "full");
        assertThat(CriteriaForm.read(form)).isEqualTo(new Criteria.Any(List.of()));
    }

    @Test
    void another_field_forgets_the_values_of_the_one_before_and_asks_its_own_first_question() {
        form.add("n.0.kind", "all");
        test("0.0", "subject", "is", "Anchor");
        form.set("n.0.0.was", "plan");
        assertThat(CriteriaForm.read(form))
                .isEqualTo(
                        new Criteria.All(List.of(new Criteria.Test(KnownField.SUBJECT, Operator.HAS_ANY, List.of()))));
    }

    @Test
    void buttons_add_group_remove_and_drop_at_their_place() {
        var two = new Criteria.All(List.of(ANCHOR, new Criteria.Any(List.of(LOST))));
        var empty = new Criteria.Test(KnownField.PLAN, Operator.IS, List.of());
        assertThat(CriteriaForm.act(two, "add:0"))
                .isEqualTo(new Criteria.All(List.of(ANCHOR, new Criteria.Any(List.of(LOST)), empty)));
        assertThat(CriteriaForm.act(two, "add:0.1"))
                .isEqualTo(new Criteria.All(List.of(ANCHOR, new Criteria.Any(List.of(LOST, empty)))));
        assertThat(CriteriaForm.act(two, "group:0"))
                .isEqualTo(new Criteria.All(
                        List.of(ANCHOR, new Criteria.Any(List.of(LOST)), new Criteria.Any(List.of(empty)))));
        assertThat(CriteriaForm.act(two, "remove:0.1")).isEqualTo(new Criteria.All(List.of(ANCHOR)));
        assertThat(CriteriaForm.act(two, "drop:0.1.0:0"))
                .isEqualTo(new Criteria.All(List.of(
                        ANCHOR,
                        new Criteria.Any(
                                List.of(Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "left behind"))))));
        assertThat(CriteriaForm.act(two, "remove:0")).isEqualTo(Criteria.everything());
        assertThat(CriteriaForm.act(ANCHOR, "add:0")).isEqualTo(new Criteria.All(List.of(ANCHOR, empty)));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "save",
                "add",
                "add:",
                "add:1",
                "add:0.9.9",
                "remove:0.7",
                "drop:0.0:99",
                "explode:0",
                "add:0.0.0.0"
            })
    void a_button_that_means_nothing_here_changes_nothing(String act) {
        var two = new Criteria.All(List.of(ANCHOR, LOST));
        assertThat(CriteriaForm.act(two, act)).isEqualTo(two);
    }
}

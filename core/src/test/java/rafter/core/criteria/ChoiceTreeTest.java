package rafter.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class ChoiceTreeTest {

    private static final ChoiceTree SERVICES = ChoiceTree.indented("""
            Ferries
              Cabins
                Upgrade
                Change
              Meals
            Freight
            \tSpace
              Change
            """);

    @Test
    void lines_pushed_in_lie_below_the_line_above_them() {
        assertThat(SERVICES.all())
                .containsExactly(
                        "Ferries",
                        "Ferries / Cabins",
                        "Ferries / Cabins / Upgrade",
                        "Ferries / Cabins / Change",
                        "Ferries / Meals",
                        "Freight",
                        "Freight / Space",
                        "Freight / Change");
        assertThat(SERVICES.below("")).containsExactly("Ferries", "Freight");
        assertThat(SERVICES.below("Ferries")).containsExactly("Ferries / Cabins", "Ferries / Meals");
        assertThat(SERVICES.below("Ferries / Meals")).isEmpty();
        assertThat(ChoiceTree.name("Ferries / Cabins")).isEqualTo("Cabins");
    }

    @Test
    void a_choice_is_meant_by_its_last_name_when_only_one_ends_in_it() {
        assertThat(SERVICES.meant("upgrade")).hasValue("Ferries / Cabins / Upgrade");
        assertThat(SERVICES.meant("cabins/change")).hasValue("Ferries / Cabins / Change");
        assertThat(SERVICES.meant("Change")).isEmpty();
        assertThat(SERVICES.meant("Ferries")).hasValue("Ferries");
        assertThat(SERVICES.meant("erries")).isEmpty();
        assertThat(SERVICES.meant(" / ")).isEmpty();
    }

    @Test
    void a_line_that_lies_nowhere_is_refused_and_named() {
        assertThatThrownBy(() -> ChoiceTree.indented("Ferries\n    Upgrade")).hasMessageContaining("“Upgrade”");
        assertThatThrownBy(() -> ChoiceTree.indented("  Ferries")).hasMessageContaining("“Ferries”");
        assertThatThrownBy(() -> ChoiceTree.indented("Ferries / Cabins")).hasMessageContaining("slash");
        assertThatThrownBy(() -> ChoiceTree.indented("a\n  b\n    c\n      d\n        e\n          f\n            g"))
                .hasMessageContaining("deeper than 6");
    }

    /** The law: what is written down is read again, whatever the tree. */
    @RepeatedTest(50)
    void a_tree_that_is_written_is_read_again(RepetitionInfo repetition) {
        var random = new Random(repetition.getCurrentRepetition());
        var lines = new ArrayList<String>();
        int depth = -1;
        for (int i = 0; i < 20; i++) {
            depth = random.nextInt(Math.min(depth + 2, ChoiceTree.DEEPEST));
            lines.add("  ".repeat(depth) + "Name " + random.nextInt(6));
        }
        ChoiceTree tree = ChoiceTree.indented(String.join("\n", lines));
        assertThat(sorted(ChoiceTree.indented(tree.indented()).all())).isEqualTo(sorted(tree.all()));
        tree.all().forEach(one -> assertThat(tree.meant(one)).hasValue(one));
    }

    private static List<String> sorted(List<String> all) {
        return all.stream().sorted().toList();
    }
}

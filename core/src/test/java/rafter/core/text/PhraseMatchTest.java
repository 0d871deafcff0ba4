package rafter.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Phrases found by a few letters, and what is left open of a text with placeholders. */
class PhraseMatchTest {

    private static final List<String> NAMES =
            List.of("Refund by card", "Lost and found", "Found on board", "Freight: late arrival", "Élan pass");

    private static List<String> found(String letters) {
        return PhraseMatch.of(NAMES, letters, name -> name, Comparator.naturalOrder());
    }

    @Test
    void what_begins_with_the_letters_comes_before_initials_later_words_and_what_has_them_within() {
        assertThat(found("f"))
                .containsExactly("Found on board", "Freight: late arrival", "Lost and found", "Refund by card");
        assertThat(found("laf")).containsExactly("Lost and found");
        assertThat(found("found")).containsExactly("Found on board", "Lost and found");
        assertThat(found("und")).containsExactly("Found on board", "Lost and found", "Refund by card");
        assertThat(found("zzz")).isEmpty();
    }

    @Test
    void accents_case_and_marks_between_words_make_no_difference() {
        assertThat(found("elan")).containsExactly("Élan pass");
        assertThat(found("FREIGHT LATE")).containsExactly("Freight: late arrival");
        assertThat(found("  ")).hasSize(NAMES.size());
    }

    @Test
    void among_equals_the_preferred_one_is_first() {
        var byUse = Comparator.comparingInt((String name) -> name.startsWith("Freight") ? 0 : 1);
        assertThat(PhraseMatch.of(NAMES, "f", name -> name, byUse)).startsWith("Freight: late arrival");
    }

    @Test
    void a_placeholder_without_a_value_stays_and_is_told_apart_from_one_that_nobody_knows() {
        Map<String, String> values = Map.of("customer", "Dov $1", "company", " ");
        String text = "Dear {customer} of {company}, {compnay} {company}";
        assertThat(Placeholders.fillKnown(text, values)).isEqualTo("Dear Dov $1 of {company}, {compnay} {company}");
        var gaps = Placeholders.gaps(Placeholders.fillKnown(text, values), values);
        assertThat(gaps.empty()).containsExactly("company");
        assertThat(gaps.unknown()).containsExactly("compnay");
        assertThat(gaps.words()).isEqualTo("{company} has no value here. Nobody knows what {compnay} stands for.");
        assertThat(gaps.none()).isFalse();
        assertThat(Placeholders.gaps("Dear Dov", values).none()).isTrue();
        assertThat(Placeholders.gaps("Dear Dov", values).words()).isEmpty();
    }

    @Test
    void what_stands_within_a_value_is_no_placeholder() {
        Map<String, String> values = Map.of("subject", "{customer}", "customer", "Dov");
        assertThat(Placeholders.fillKnown("{subject}", values)).isEqualTo("{customer}");
    }
}

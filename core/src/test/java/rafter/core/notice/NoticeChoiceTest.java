package rafter.core.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleBookJson;
import rafter.core.text.Placeholder;
import rafter.core.text.Placeholders;

/** Who is told of what, as rules. */
class NoticeChoiceTest {

    private static RuleBook chosen(RuleBook book, List<NoticeChoice> choices, boolean on) {
        RuleBook all = book;
        for (NoticeChoice one : choices) {
            all = new NoticeChoice(one.event(), one.audience(), on, one.subject(), one.words()).in(all);
        }
        return all;
    }

    @Test
    void at_the_start_nobody_is_told_anything_by_a_choice() {
        assertThat(NoticeChoice.of(RuleBook.EMPTY)).isNotEmpty().noneMatch(NoticeChoice::on);
    }

    @Test
    void every_choice_that_is_on_is_a_rule_without_fault_that_keeps_what_was_chosen() {
        List<NoticeChoice> all = NoticeChoice.of(RuleBook.EMPTY);
        RuleBook book = chosen(RuleBook.EMPTY, all, true);
        assertThat(book.faults()).isEmpty();
        assertThat(book.rules()).hasSameSizeAs(all).allMatch(Rule::carriesOn);
        assertThat(NoticeChoice.of(RuleBookJson.read(RuleBookJson.write(book))))
                .usingRecursiveFieldByFieldElementComparatorIgnoringFields("on")
                .isEqualTo(all)
                .allMatch(NoticeChoice::on);
        assertThat(NoticeChoice.of(chosen(book, all, false))).isEqualTo(all);
    }

    @Test
    void the_words_to_begin_with_hold_only_placeholders_that_rules_fill() {
        var known = Placeholder.names(Placeholder.forRules());
        assertThat(NoticeChoice.of(RuleBook.EMPTY))
                .allSatisfy(one -> assertThat(Placeholders.unknown(one.subject() + one.words(), known))
                        .isEmpty())
                .allSatisfy(one -> assertThat(one.subject().isBlank()).isEqualTo(one.audience() != Audience.CUSTOMER));
    }

    @Test
    void other_rules_stay_where_they_are() {
        RuleBook book = RuleBook.EMPTY.withSection("s", "Sort");
        RuleBook with = chosen(book, NoticeChoice.of(book), true);
        assertThat(with.sections()).extracting(RuleBook.Section::id).containsExactly("s", NoticeChoice.SECTION);
        assertThat(with.sections().getFirst()).isEqualTo(book.sections().getFirst());
    }

    @Test
    void what_somebody_narrowed_in_the_rulebook_stays_narrowed() {
        NoticeChoice choice = NoticeChoice.of(RuleBook.EMPTY, NoticeEvent.RATED, Audience.LEADS);
        RuleBook book = choice.in(RuleBook.EMPTY);
        assertThat(NoticeChoice.narrowed(book, NoticeEvent.RATED, Audience.LEADS))
                .isEmpty();
        Criteria poor = Criteria.test(KnownField.RATING, Operator.IS, "POOR");
        Rule rule = book.rules().getFirst();
        RuleBook narrowed = book.replaced(new Rule(
                rule.id(),
                rule.name(),
                rule.description(),
                rule.on(),
                rule.occasion(),
                poor,
                rule.deeds(),
                rule.carriesOn(),
                rule.since()));
        RuleBook again = new NoticeChoice(choice.event(), choice.audience(), true, "", "Look: {ticket}").in(narrowed);
        assertThat(NoticeChoice.narrowed(again, NoticeEvent.RATED, Audience.LEADS))
                .contains(poor);
        assertThat(again.rules().getFirst().criteria()).isEqualTo(poor);
    }

    @Test
    void only_those_can_be_chosen_who_have_a_use_for_it() {
        assertThat(NoticeEvent.RATED.audiences()).containsExactly(Audience.TEAM, Audience.LEADS);
        for (NoticeEvent event : NoticeEvent.values()) {
            assertThat(event.audiences()).isNotEmpty();
            assertThat(event.words()).isNotBlank();
            assertThat(event.key()).doesNotContain("_");
        }
        assertThat(Audience.CUSTOMER.whom()).isEmpty();
        assertThat(Audience.LEADS.key()).isEqualTo("leads");
        assertThat(Audience.TEAM.words()).isEqualTo("The team");
    }
}

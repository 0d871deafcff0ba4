package rafter.core.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.text.MailKind;

/** What is learned of junk. */
class JunkLearningTest {

    private static final List<String> REQUESTS =
            List.of("ferry", "booking", "refund", "cabin", "timetable", "freight", "slot", "ticket", "vessel", "child");
    private static final List<String> JUNK = List.of(
            "winner", "crypto", "seo", "ranking", "discount", "loan", "invest", "unsubscribe", "offer", "bonus");
    private static final List<String> BOTH = List.of("hello", "the", "we", "your", "please", "thanks", "today", "and");

    private static JunkLearning.Example example(Random random, boolean junk) {
        var signs = new LinkedHashSet<String>();
        for (int i = 0; i < 4; i++) {
            signs.add((junk ? JUNK : REQUESTS).get(random.nextInt(10)));
        }
        for (int i = 0; i < 5; i++) {
            signs.add(BOTH.get(random.nextInt(BOTH.size())));
        }
        return new JunkLearning.Example(signs, junk);
    }

    private static List<JunkLearning.Example> examples(int junk, int requests) {
        var random = new Random(5);
        var all = new ArrayList<JunkLearning.Example>();
        for (int i = 0; i < junk; i++) {
            all.add(example(random, true));
        }
        for (int i = 0; i < requests; i++) {
            all.add(example(random, false));
        }
        return all;
    }

    private static JunkLearning.Learned learned(List<JunkLearning.Example> examples) {
        return JunkLearning.learn(examples).orElseThrow();
    }

    @Test
    void from_few_examples_nothing_is_learned() {
        assertThat(JunkLearning.learn(examples(19, 500))).isEmpty();
        assertThat(JunkLearning.learn(examples(500, 19))).isEmpty();
        assertThat(JunkLearning.learn(List.of())).isEmpty();
        assertThat(JunkLearning.learn(examples(20, 20))).isPresent();
    }

    @Test
    void what_looks_like_junk_has_a_high_score_and_what_looks_like_a_request_a_low_one() {
        JunkModel model = learned(examples(80, 400)).model();
        assertThat(model.score(Set.of("crypto", "bonus", "offer", "hello"))).isGreaterThan(90);
        assertThat(model.score(Set.of("ferry", "refund", "cabin", "hello"))).isLessThan(10);
        assertThat(model.score(Set.of())).isBetween(0, 100);
    }

    @Test
    void a_score_is_explained_by_the_signs_that_said_most() {
        JunkModel model = learned(examples(80, 400)).model();
        assertThat(model.strongest(Set.of("crypto", "hello", "never seen"), 1))
                .singleElement()
                .satisfies(one -> assertThat(one.sign()).isEqualTo("crypto"))
                .satisfies(one -> assertThat(one.weight()).isPositive());
        assertThat(model.strongest(Set.of("never seen"), 5)).isEmpty();
    }

    @Test
    void the_figures_are_those_of_mail_that_was_not_learned_from() {
        List<JunkLearning.Figures> figures = learned(examples(80, 400)).figures();
        assertThat(figures).hasSize(50).allSatisfy(one -> {
            assertThat(one.found().whole()).isEqualTo(80);
            assertThat(one.wrong().whole()).isEqualTo(400);
        });
        assertThat(learned(examples(80, 400)).at(90).orElseThrow().found().percent())
                .isGreaterThan(80);
        assertThat(learned(examples(80, 400)).at(90).orElseThrow().wrong().part())
                .isZero();
    }

    @Test
    void what_cannot_be_told_apart_is_said_to_be_so() {
        var random = new Random(3);
        var same = new ArrayList<JunkLearning.Example>();
        for (int i = 0; i < 200; i++) {
            same.add(new JunkLearning.Example(example(random, false).signs(), i % 2 == 0));
        }
        JunkLearning.Figures half = learned(same).at(50).orElseThrow();
        assertThat(half.wrong().percent()).isBetween(25.0, 75.0);
        assertThat(half.found().percent()).isBetween(25.0, 75.0);
    }

    @Test
    void a_higher_score_never_takes_more() {
        List<JunkLearning.Figures> figures = learned(examples(60, 100)).figures();
        for (int i = 1; i < figures.size(); i++) {
            assertThat(figures.get(i).found().part())
                    .isLessThanOrEqualTo(figures.get(i - 1).found().part());
            assertThat(figures.get(i).wrong().part())
                    .isLessThanOrEqualTo(figures.get(i - 1).wrong().part());
        }
    }

    @Test
    void the_same_is_learned_twice_and_whatever_came_first() {
        List<JunkLearning.Example> all = examples(50, 120);
        assertThat(learned(all)).isEqualTo(learned(all));
        var turned = new ArrayList<>(all);
        Collections.reverse(turned);
        JunkModel there = learned(all).model();
        JunkModel back = learned(turned).model();
        all.forEach(one -> assertThat(Math.abs(there.score(one.signs()) - back.score(one.signs())))
                .isLessThan(3));
    }

    @Test
    void the_signs_of_a_mail_are_its_words_its_sender_and_how_it_was_sent() {
        var mail = new MailFacts.Mail(
                "help@ternpassage.example",
                "Deals@Cheap.Example",
                "",
                List.of(),
                "Grow 500%",
                "Buy now: http://www.a.example/x?y=1 https://b.example I",
                "List-Unsubscribe: <mailto:no@cheap.example>",
                100,
                0,
                MailKind.LIST);
        assertThat(JunkSigns.of(mail))
                .contains(
                        "subject:grow",
                        "subject:a number",
                        "buy",
                        "sender:cheap.example",
                        "how:links",
                        "link:a.example",
                        "link:b.example",
                        "how:offers to unsubscribe",
                        "how:sent by a machine")
                .doesNotContain("i", "http", "https", "example", "www", "x", "y");
        assertThat(JunkSigns.said("subject:grow")).isEqualTo("“grow” in the subject");
        assertThat(JunkSigns.said("sender:cheap.example")).isEqualTo("a sender at cheap.example");
        assertThat(JunkSigns.said("link:a.example")).isEqualTo("a link to a.example");
        assertThat(JunkSigns.said("how:links")).isEqualTo("links");
        assertThat(JunkSigns.said("buy")).isEqualTo("“buy”");
    }
}

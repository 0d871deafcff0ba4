package rafter.app.tickets.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.RULE_RUN;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleChecks;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;

/** What rules did is explained, and what they would do is rehearsed. */
class RuleTrustTest extends RulesAtWork {

    private RuleRehearsals.Run rehearsed(String rule) {
        long id = rehearsals.start(rule, ravi().id());
        rehearsals.run(id);
        return rehearsals.find(id);
    }

    @Test
    void what_was_read_is_explained_as_the_ticket_stood_then() {
        Rule first = arrival(deed("tag", "tag", "seen"));
        Rule second = rule(
                new Occasion.Arrival(),
                new Criteria.All(List.of(about(), Criteria.test(KnownField.TAGS, Operator.HAS_ANY, "seen"))),
                false,
                deed("priority", "priority", "P1"));
        Rule third = arrival(deed("tag", "tag", "never"));
        Rule other = rule(
                new Occasion.Arrival(),
                Criteria.test(KnownField.PRIORITY, Operator.IS, "P4"),
                true,
                deed("tag", "tag", "low"));
        force(other, first, second, third);
        TicketNumber number = arrived("Hello");
        acts.perform(number, new Act.Untag("seen"), imani());
        read();
        RuleWhy.Told came = why.of(number, imani()).getLast();
        assertThat(came.steps())
                .extracting(RuleWhy.Step::result)
                .containsExactly(
                        Reading.Result.NOT_MATCHED,
                        Reading.Result.MATCHED,
                        Reading.Result.MATCHED,
                        Reading.Result.NOT_REACHED);
        assertThat(came.steps().get(0).whys().getFirst()).contains("P3");
        assertThat(came.steps().get(1).whys().getFirst()).contains(word);
        assertThat(came.steps().get(2).done()).containsExactly("Set priority P1");
        assertThat(came.steps().get(3).whys().getFirst()).contains(second.name());
        HttpResponse<String> page = as("imani", "/tickets/" + number + "/rules");
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.body()).contains("What the rules did", second.name(), "Set priority P1");
    }

    @Test
    void replay_agrees_with_what_was_recorded() {
        Rule one = arrival(deed("tag", "tag", "one"), deed("raise"));
        Rule two = when(Happening.PRIORITY, deed("topic", "topic", "dear"));
        Rule three = when(Happening.TOPIC, deed("tag", "tag", "three"));
        force(one, two, three);
        TicketNumber number = arrived("Hello");
        acts.perform(number, new Act.SetPriority(Priority.P4), imani());
        acts.perform(number, new Act.SetTopic("cheap"), imani());
        read();
        var recorded = sql().select(RULE_RUN.RULE_ID)
                .from(RULE_RUN)
                .where(RULE_RUN.TICKET.eq(number))
                .fetch(RULE_RUN.RULE_ID);
        var replayed = why.of(number, imani()).stream()
                .flatMap(told -> told.steps().stream())
                .filter(RuleWhy.Step::matched)
                .map(RuleWhy.Step::rule)
                .toList();
        assertThat(replayed).containsExactlyInAnyOrderElementsOf(recorded).hasSizeGreaterThan(4);
    }

    @Test
    void a_changed_rule_is_rehearsed_on_what_arrived() {
        Rule sort = rule(
                new Occasion.Arrival(),
                new Criteria.All(
                        List.of(about(), Criteria.test(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "umbrella"))),
                true,
                deed("tag", "tag", "lost"));
        force(sort);
        TicketNumber umbrella = arrived("My umbrella is gone");
        TicketNumber hat = arrived("My hat is gone");
        clock().set(clock().instant().plusSeconds(60));
        Rule wider = new Rule(
                sort.id(),
                sort.name(),
                sort.description(),
                true,
                sort.occasion(),
                new Criteria.All(List.of(about(), Criteria.test(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "hat"))),
                sort.deeds(),
                true,
                Instant.EPOCH);
        RuleBooks.Draft draft = books.draft();
        books.save(draft.book().replaced(wider), draft.version(), ravi().id(), "a test");
        for (String which : List.of(sort.id(), "")) {
            RuleRehearsals.Run run = rehearsed(which);
            var tally = run.kept().orElseThrow().result().byRule().get(sort.id());
            assertThat(tally.now()).isEqualTo(1);
            assertThat(tally.then()).isEqualTo(1);
            assertThat(tally.more()).isEqualTo(1);
            assertThat(tally.less()).isEqualTo(1);
            assertThat(run.kept().orElseThrow().result().changed())
                    .extracting(one -> one.ticket() + " " + one.more())
                    .containsExactlyInAnyOrder(umbrella + " false", hat + " true");
            HttpResponse<String> page = as("ravi", "/house-rules/rules/rehearsals/" + run.id());
            assertThat(page.body()).contains("would be treated otherwise", "hat");
        }
    }

    @Test
    void a_rehearsal_of_what_is_in_force_differs_in_nothing_and_counts_what_was_done() {
        Rule sort = arrival(deed("tag", "tag", "sorted"));
        Rule after = when(Happening.CUSTOMER_WROTE, deed("tag", "tag", "wrote"));
        Rule chase = rule(
                new Occasion.Clock(Moment.CREATED, Duration.ofHours(1), false, 1, Duration.ZERO),
                about(),
                true,
                deed("tag", "tag", "chased"));
        force(sort, after, chase);
        arrived("Hello");
        arrived("Hello");
        clock().set(clock().instant().plus(Duration.ofHours(2)));
        read();
        var result = rehearsed("").kept().orElseThrow().result();
        assertThat(result.differing()).isZero();
        assertThat(result.byRule().get(sort.id()).then()).isEqualTo(runs(sort)).isEqualTo(2);
        assertThat(result.byRule().get(chase.id()).then())
                .isEqualTo(runs(chase))
                .isEqualTo(2);
    }

    @Test
    void words_that_stand_in_tickets_in_another_form_are_told_after_a_rehearsal() {
        String noun = "zorb" + (char) ('a' + unique() % 26) + "k";
        Rule prams = rule(
                new Occasion.Arrival(),
                Criteria.test(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, noun),
                true,
                deed("tag", "tag", "x"));
        force(prams);
        mail("Two " + noun + "s on deck");
        clock().set(clock().instant().plusSeconds(60));
        rehearsed("");
        assertThat(rehearsals.findings(books.draft().book())).singleElement().satisfies(one -> {
            assertThat(one.kind()).isEqualTo(RuleChecks.Kind.OTHER_FORM);
            assertThat(one.words()).contains(noun + "s");
        });
    }
}

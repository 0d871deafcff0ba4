package rafter.app.tickets.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.RULE_RUN;

import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;

/** The pages on which rules are written, tried, exchanged and put into force. */
class RulebookTest extends RulesAtWork {

    private static final List<String> PAGES =
            List.of("", "/new", "/versions", "/import", "/try", "/share", "/rules.json");

    @Test
    void the_loser_of_a_race_is_told_and_what_was_discarded_comes_back() {
        RuleBooks.Draft draft = books.draft();
        Rule rule = arrival(deed("tag", "tag", "x"));
        RuleBook book = draft.book().withSection("s", "All").with(rule, "s");
        books.save(book, draft.version(), ravi().id(), "a test");
        assertThatThrownBy(() -> books.save(draft.book(), draft.version(), ravi().id(), "a test"))
                .isInstanceOf(Problem.Stale.class);
        books.discard(draft.version() + 1, ravi().id());
        assertThat(books.draft().book().rule(rule.id())).isEmpty();
        books.bringBack(draft.version() + 2, ravi().id());
        assertThat(books.draft().book().rule(rule.id())).isPresent();
        assertThatThrownBy(() -> books.save(book, draft.version() + 3, imani().id(), "a test"))
                .isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void its_pages_are_shown_to_those_who_make_the_house_rules() throws Exception {
        as("ravi", "/today");
        for (String path : PAGES) {
            assertThat(get("/house-rules/rules" + path, "Accept", "*/*").statusCode())
                    .as("the page %s", path)
                    .isEqualTo(200);
        }
    }

    @Test
    void its_pages_are_not_shown_to_others() throws Exception {
        as("imani", "/today");
        for (String path : PAGES) {
            assertThat(get("/house-rules/rules" + path).statusCode())
                    .as("the page %s", path)
                    .isEqualTo(403);
        }
    }

    @Test
    void a_rule_is_written_in_its_form_and_what_was_typed_is_never_lost() throws Exception {
        HttpResponse<String> blank = as("ravi", "/house-rules/rules/new");
        String token = token(blank);
        String version = Integer.toString(books.draft().version());
        String[] typed = {
            "version",
            version,
            "id",
            "new",
            "section",
            "s",
            "name",
            "Rule " + word,
            "description",
            "",
            "on",
            "true",
            "when",
            "clock",
            "span",
            "4 hrs",
            "working",
            "open",
            "moment",
            "customer",
            "times",
            "2",
            "again",
            "1 d",
            "n.0.kind",
            "all",
            "n.0.0.kind",
            "formula",
            "n.0.0.text",
            "priority <",
            "d.0.form",
            "mail",
            "d.0.text",
            "Hello {nobody}",
            "then",
            "ends",
            "act",
            "save"
        };
        HttpResponse<String> refused = post("/house-rules/rules/save", token, typed);
        assertThat(refused.body()).contains("4 hrs", "is no length of time", "Rule " + word, "Hello {nobody}");
        typed[15] = "4 h";
        refused = post("/house-rules/rules/save", token, typed);
        assertThat(refused.body())
                .contains(
                        "Say in a sentence what it is for.",
                        "The formula cannot be read",
                        "Nobody knows what {nobody}");
        typed[9] = "Chases";
        typed[29] = "priority < 3";
        typed[33] = "Hello {first name}";
        HttpResponse<String> saved = post("/house-rules/rules/save", token, typed);
        assertThat(saved.body()).contains("is saved; not in force yet", "Rule " + word, "priority &lt; 3");
        Rule rule = books.draft().book().rules().stream()
                .filter(one -> one.name().equals("Rule " + word))
                .findFirst()
                .orElseThrow();
        assertThat(rule.carriesOn()).isFalse();
        assertThat(rule.occasion())
                .isEqualTo(new Occasion.Clock(Moment.CUSTOMER, Duration.ofHours(4), true, 2, Duration.ofDays(1)));
        assertThat(get("/house-rules/rules/" + rule.id()).body()).contains("Hello {first name}", "priority &lt; 3");
        assertThat(post("/house-rules/rules/save", token, typed).body()).contains("What you typed is still here.");
        HttpResponse<String> tried = post(
                "/house-rules/rules/try",
                token,
                "from",
                "who",
                "subject",
                "Hat",
                "text",
                "Lost",
                "team",
                "",
                "ticket",
                "");
        assertThat(tried.body()).contains("is no mail address", "Hat");
    }

    @Test
    void a_message_is_tried_step_by_step() throws Exception {
        Rule first = arrival(deed("tag", "tag", "hat"));
        Rule second = rule(
                new Occasion.Arrival(),
                new Criteria.All(List.of(about(), Criteria.test(KnownField.TAGS, Operator.HAS_ANY, "hat"))),
                false,
                deed("priority", "priority", "P1"));
        force(first, second);
        String token = token(as("ravi", "/house-rules/rules/try"));
        HttpResponse<String> page = post(
                "/house-rules/rules/try",
                token,
                "from",
                "ida@nowhere.example",
                "subject",
                word,
                "text",
                "My hat",
                "team",
                "");
        assertThat(page.body()).contains("2 rules were read, 2 matched", "set priority P1");
        assertThat(sql().fetchCount(RULE_RUN, RULE_RUN.RULE_ID.eq(first.id()))).isZero();
        TicketNumber number = mail("A hat again");
        HttpResponse<String> none = post("/house-rules/rules/try", token, "ticket", "987654", "subject", "Hat");
        assertThat(none.statusCode()).isEqualTo(200);
        assertThat(none.body()).contains("There is no ticket 987654").contains("Hat");
        HttpResponse<String> picked = post("/house-rules/rules/try", token, "ticket", number.toString());
        assertThat(picked.body()).contains("2 rules were read, 2 matched");
    }

    @Test
    void rules_are_taken_out_and_in_again() throws Exception {
        Rule rule = arrival(deed("tag", "tag", "x"));
        force(rule);
        String token = token(as("ravi", "/house-rules/rules/import"));
        String json = get("/house-rules/rules/rules.json", "Accept", "*/*").body();
        String version = Integer.toString(books.draft().version());
        assertThat(post("/house-rules/rules/import", token, "version", version, "json", "[1]")
                        .body())
                .contains("That is no rulebook", "[1]");
        String other = json.replace("Rule " + rule.id(), "Renamed");
        assertThat(post("/house-rules/rules/import", token, "version", version, "json", other)
                        .body())
                .contains("1 rules are imported", "Renamed");
        assertThat(books.current().book().rule(rule.id()).orElseThrow().name()).isEqualTo(rule.name());
    }
}

package rafter.app.tickets.phrases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.TEAM_MEMBER;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Persons;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Turn;

/** The phrasebook, and what is filled into what one writes. */
@ExtendWith(RunningApp.class)
class PhrasesTest extends Browsing {

    private final Phrases phrases = bean(Phrases.class);
    private final Answering answering = bean(Answering.class);
    private final Blanks blanks = bean(Blanks.class);
    private final int nth = unique();

    private TicketNumber mail() {
        String raw = "From: \"Ida <b>{company}</b>\" <ida" + nth + "@phrase" + nth + ".example>\nMessage-ID: <p"
                + unique() + "@post.example>\nSubject: Phrased " + nth + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Phrase phrase(String name, String language, Holder holder, String html) {
        return new Phrase(0, name, "Tests / " + nth + "/", language, holder, html, 0, 0);
    }

    private Phrase mine(String name, String html) {
        return phrase(name, "", new Holder.One(imani().id()), html);
    }

    private List<String> names(String letters, String language) {
        return phrases.matching(letters, language, 50, imani()).stream()
                .map(Phrase::name)
                .toList();
    }

    @Test
    void ones_own_phrases_are_ones_own_and_everybodys_are_saved_by_leads() {
        long id = phrases.save(mine("Own " + nth, "<p>Yes</p>"), imani());
        assertThat(phrases.get(id, imani()).folder()).isEqualTo("Tests/" + nth);
        assertThatThrownBy(() -> phrases.get(id, sefa())).isInstanceOf(Problem.NotFound.class);
        var all = phrase("All " + nth, "", new Holder.Everybody(), "<p>Yes</p>");
        assertThatThrownBy(() -> phrases.save(all, imani())).isInstanceOf(Problem.NoRight.class);
        long shared = phrases.save(all, odile());
        assertThat(names("all " + nth, "")).containsExactly("All " + nth);
        assertThatThrownBy(() -> phrases.remove(shared, imani())).isInstanceOf(Problem.NoRight.class);
        var stolen = new Phrase(shared, "Mine", "", "", new Holder.One(imani().id()), "<p>x</p>", 0, 1);
        assertThatThrownBy(() -> phrases.save(stolen, imani())).isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void a_teams_phrases_are_seen_and_changed_by_who_is_in_it() {
        TeamId team =
                bean(Persons.class).addTeam("Own team " + nth, RunningApp.ravi().id());
        RunningApp.sql()
                .insertInto(TEAM_MEMBER, TEAM_MEMBER.TEAM_ID, TEAM_MEMBER.PERSON_ID)
                .values(team, imani().id())
                .execute();
        TeamId other = bean(Persons.class)
                .addTeam("Phrase team " + nth, RunningApp.ravi().id());
        phrases.save(phrase("Team " + nth, "", new Holder.OfTeam(team), "<p>Yes</p>"), imani());
        assertThat(names("team " + nth, "")).containsExactly("Team " + nth);
        phrases.save(phrase("Other " + nth, "", new Holder.OfTeam(other), "<p>Yes</p>"), odile());
        assertThat(names("other " + nth, "")).isEmpty();
        var there = phrase("There " + nth, "", new Holder.OfTeam(other), "<p>Yes</p>");
        assertThatThrownBy(() -> phrases.save(there, imani())).isInstanceOf(Problem.NoRight.class);
    }

    @Test
    void the_customers_language_comes_first_then_what_is_used_most() {
        phrases.save(phrase("Ref a " + nth, "de", new Holder.One(imani().id()), "<p>Ja</p>"), imani());
        phrases.save(mine("Ref b " + nth, "<p>b</p>"), imani());
        long used = phrases.save(mine("Ref c " + nth, "<p>c</p>"), imani());
        phrases.used(used, imani());
        assertThat(names("ref", "de")).containsSubsequence("Ref a " + nth, "Ref c " + nth, "Ref b " + nth);
        assertThat(names("ref", "fr")).containsSubsequence("Ref c " + nth, "Ref b " + nth, "Ref a " + nth);
    }

    @Test
    void an_unknown_placeholder_nothing_and_a_version_that_is_gone_are_refused_with_a_word() {
        assertThatThrownBy(() -> phrases.save(mine("Bad", "<p>Dear {custmer}</p>"), imani()))
                .hasMessageContaining("{custmer}")
                .hasMessageContaining("still here");
        assertThatThrownBy(() -> phrases.save(mine("Bad", "<p> </p>"), imani())).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> phrases.save(mine(" ", "<p>x</p>"), imani())).isInstanceOf(Problem.Invalid.class);
        long id = phrases.save(mine("Once " + nth, "<p>one</p>"), imani());
        var holder = new Holder.One(imani().id());
        phrases.save(new Phrase(id, "Twice", "", "", holder, "<p>two</p>", 0, 1), imani());
        assertThatThrownBy(() -> phrases.save(new Phrase(id, "Late", "", "", holder, "<p>x</p>", 0, 1), imani()))
                .isInstanceOf(Problem.Stale.class);
    }

    @Test
    void what_is_taken_out_can_be_put_back() {
        long id = phrases.save(mine("Gone " + nth, "<p>Yes</p>"), imani());
        phrases.remove(id, imani());
        assertThat(names("gone " + nth, "")).isEmpty();
        phrases.restore(id, imani());
        assertThat(names("gone " + nth, "")).containsExactly("Gone " + nth);
    }

    @Test
    void every_placeholder_has_a_value_or_none_and_a_value_is_text_whatever_stands_in_it() {
        Map<String, String> values = blanks.of(mail(), imani().person());
        assertThat(values.keySet()).containsAll(Placeholder.names(Placeholder.forWriting()));
        assertThat(values).containsEntry("agent", imani().name()).containsEntry("company", "");
        String filled = Blanks.fill("<p>Dear {customer}, <b>{company}</b></p>", values);
        assertThat(filled).isEqualTo("<p>Dear Ida &lt;b&gt;{company}&lt;/b&gt;, <b>{company}</b></p>");
    }

    @Test
    void a_reply_with_something_in_braces_waits_until_it_is_filled_in_or_sent_all_the_same() {
        TicketNumber number = mail();
        var answer = new Answering.Answer("<p>{ticket}, {compnay}</p>", "", Turn.CUSTOMER, 999);
        var gaps = (Answering.Outcome.Gaps) answering.answer(number, answer, imani());
        assertThat(gaps.words()).isEqualTo("Nobody knows what {compnay} stands for.");
        assertThat(SafeHtml.toText(gaps.html())).startsWith(number + ", {compnay}");
        var all = new Answering.Answer(gaps.html(), "", Optional.empty(), "", Turn.CUSTOMER, 999, true);
        assertThat(answering.answer(number, all, imani())).isInstanceOf(Answering.Outcome.Sent.class);
    }

    @Test
    void the_pages_give_a_phrase_filled_in_and_what_was_typed_back() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        TicketNumber number = mail();
        phrases.save(mine("Quick " + nth, "<p>Ticket {ticket}</p>"), imani());
        String offered = get("/tickets/" + number + "/phrases?q=quick%20" + nth, "Accept", "application/json")
                .body();
        assertThat(offered).contains("Quick " + nth).contains("Ticket " + number);
        String wrong = post(
                        "/phrases/save",
                        token,
                        "id",
                        "0",
                        "name",
                        "Lost " + nth,
                        "whose",
                        "me",
                        "format",
                        "text",
                        "version",
                        "0",
                        "html",
                        "Dear {nobody} <x>")
                .body();
        assertThat(wrong)
                .contains("Nobody knows what {nobody} stands for")
                .contains("Lost " + nth)
                .contains("{nobody}");
        assertThat(get("/phrases?q=quick+" + nth).body())
                .contains("Quick " + nth)
                .contains("not used yet");
        assertThat(get("/phrases?whose=everybodys&q=quick+" + nth).body()).doesNotContain(">Quick " + nth);
    }

    @Test
    void a_reply_begins_and_ends_in_the_contacts_language() {
        var salutations = bean(Salutations.class);
        assertThatThrownBy(
                        () -> salutations.save(new Salutations.Salutation("da", "Kære {x}", "", 0), RunningApp.ravi()))
                .hasMessageContaining("{x}");
        salutations.save(new Salutations.Salutation("da", "Kære {customer}", "Hilsen", 0), RunningApp.ravi());
        assertThat(salutations.of("da").greeting()).isEqualTo("Kære {customer}");
        assertThat(salutations.of("fi").language()).isEmpty();
        assertThatThrownBy(() -> salutations.save(salutations.of("da"), imani()))
                .isInstanceOf(Problem.NoRight.class);
        assertThatThrownBy(() -> salutations.remove("", RunningApp.ravi())).isInstanceOf(Problem.Invalid.class);
        salutations.remove("da", RunningApp.ravi());
        assertThat(salutations.of("da").language()).isEmpty();
    }
}

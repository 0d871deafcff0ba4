package rafter.app.tickets.request;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.RequestPages;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Notes;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;

/** The page on which a customer sees their request, with notes that are for them and without those that are not. */
@ExtendWith(RunningApp.class)
class RequestTest extends Browsing {

    private final int nth = unique();
    private final TicketNumber number = mailed();
    private final Notes notes = bean(Notes.class);
    private final String page = bean(RequestPages.class).address(number).replaceFirst("https?://[^/]+", "");

    private TicketNumber mailed() {
        String raw = "From: Vera <vera@page" + nth + ".example>\nMessage-ID: <rp" + unique()
                + "@post.example>\nSubject: Page " + nth + "\n\nMy <b>own</b> words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket() {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    @Test
    void it_shows_what_is_public_and_nothing_that_is_for_colleagues() throws Exception {
        notes.note(number, "<p>They are difficult " + nth + "</p>", imani());
        notes.note(number, "<p>The crane comes at noon " + nth + "</p>", true, imani());
        String body = get(page).body();
        assertThat(body)
                .contains("Page " + nth)
                .contains("My &lt;b&gt;own&lt;/b&gt; words")
                .contains("The crane comes at noon " + nth)
                .contains("We are working on it")
                .doesNotContain("They are difficult");
        bean(Acts.class).perform(number, new Act.MoveTo("with-customer"), imani());
        assertThat(get(page).body()).contains("We wait for your answer");
    }

    @Test
    void a_public_note_sends_nothing_answers_no_clock_and_is_taken_back_like_any_note() throws Exception {
        MessageId note = notes.note(number, "<p>Soon " + nth + "</p>", true, imani());
        assertThat(RunningApp.mailOf("vera@page" + nth + ".example"))
                .noneMatch(mail -> mail.toString().contains("Soon"));
        assertThat(ticket().owner()).isEmpty();
        assertThat(ticket().lastPublicSeq()).isGreaterThan(1);
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body()).contains("the customer sees this on the page of their request");
        notes.takeNoteBack(number, note, imani());
        assertThat(get(page).body()).doesNotContain("Soon " + nth);
    }

    @Test
    void a_link_that_is_forged_cut_short_or_of_another_ticket_shows_nothing() throws Exception {
        TicketNumber other = mailed();
        String sign = page.substring(page.indexOf('-'));
        for (String forged : new String[] {
            "/request/" + number,
            page.substring(0, page.length() - 1),
            "/request/" + other + sign,
            "/request/x",
            page + "0"
        }) {
            var answer = get(forged);
            assertThat(answer.statusCode()).as(forged).isEqualTo(404);
            assertThat(answer.body()).contains("That link does not work").doesNotContain("Page " + nth);
        }
        bean(Acts.class).perform(number, new Act.NoRequest(false), imani());
        assertThat(get(page).statusCode()).as("in the bin").isEqualTo(404);
    }

    @Test
    void its_address_can_be_written_in_every_answer() {
        Map<String, String> values = bean(Blanks.class).of(number, imani().person());
        assertThat(values.get("request page")).endsWith(page);
    }
}

package rafter.app.house.states;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.TICKET_STATE;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;

/** A workspace may have states that Rafter does not ship; no page, list or act breaks on one, also when it is gone again. */
@ExtendWith(RunningApp.class)
class OwnStateTest extends Browsing {

    private static final String AT_THE_YARD = "at-the-yard";

    private final String from = "yard" + unique() + "@post.example";
    private TicketNumber number;

    @BeforeAll
    static void a_state_of_our_own() {
        sql().insertInto(
                        TICKET_STATE,
                        TICKET_STATE.KEY,
                        TICKET_STATE.NAME,
                        TICKET_STATE.TURN,
                        TICKET_STATE.ENDING,
                        TICKET_STATE.POSITION)
                .values(AT_THE_YARD, "At the yard", "PARTNER", false, 45)
                .execute();
        bean(TicketStates.class).forget();
    }

    @AfterAll
    static void it_is_gone() {
        sql().deleteFrom(TICKET_STATE).where(TICKET_STATE.KEY.eq(AT_THE_YARD)).execute();
        bean(TicketStates.class).forget();
    }

    @BeforeEach
    void a_ticket_in_it() throws Exception {
        number = RunningApp.ticketOf(RunningApp.take(mail("one", "")).orElseThrow());
        bean(Acts.class).perform(number, new Act.MoveTo(AT_THE_YARD), imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
    }

    private byte[] mail(String id, String answers) {
        return ("From: " + from + "\nMessage-ID: <" + id + from + ">\n"
                        + (answers.isEmpty() ? "" : "In-Reply-To: <" + answers + from + ">\n")
                        + "Subject: Ramp of deck two\n\nHello")
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void it_stands_among_the_choices_and_on_the_pages_of_its_tickets() throws Exception {
        assertThat(bean(TicketStates.class).all())
                .extracting(state -> state.key())
                .containsSubsequence("with-partner", AT_THE_YARD, "resolved");
        assertThat(bean(Tickets.class).find(number, odile()).orElseThrow().turn())
                .isEqualTo(Turn.PARTNER);
        for (String path : List.of(
                "/tickets/" + number,
                "/tickets/" + number + "/choose/state",
                "/tickets/" + number + "/glance",
                "/search?q=" + number)) {
            assertThat(get(path).body()).as(path).contains("At the yard");
        }
        ContactId contact =
                bean(Tickets.class).find(number, odile()).orElseThrow().contact();
        assertThat(get("/contacts/" + contact).body()).contains("At the yard");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "shape=cards",
                "shape=lines&group=state",
                "shape=lines&sort=state",
                "shape=lines&sort=-state",
                "shape=grid",
                "shape=lanes",
                "shape=lanes&group=state",
                "shape=clock",
                "shape=lines&group=turn"
            })
    void no_list_breaks_on_it(String how) throws Exception {
        var page = get("/worklist?view=open&" + how);
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.body()).doesNotContain("That did not work");
    }

    @Test
    void an_answer_to_it_joins_it_and_the_turn_is_ours() {
        clock().tick(java.time.Duration.ofMinutes(1));
        long joined = RunningApp.take(mail("two", "one")).orElseThrow();
        assertThat(RunningApp.ticketOf(joined)).isEqualTo(number);
        assertThat(bean(Tickets.class).find(number, odile()).orElseThrow().turn())
                .isEqualTo(Turn.OURS);
    }

    @Test
    void when_it_is_gone_its_tickets_keep_what_they_were() throws Exception {
        it_is_gone();
        try {
            assertThat(get("/tickets/" + number).body()).contains("At the yard");
            assertThat(get("/worklist?view=open&shape=lines&group=state").statusCode())
                    .isEqualTo(200);
            assertThat(RunningApp.ticketOf(RunningApp.take(mail("three", "one")).orElseThrow()))
                    .isEqualTo(number);
        } finally {
            a_state_of_our_own();
        }
    }
}

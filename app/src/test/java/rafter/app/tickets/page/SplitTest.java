package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** A message about something else becomes a ticket of its own; nothing of it is lost, and it can be put back. */
@ExtendWith(RunningApp.class)
class SplitTest extends Browsing {

    private final Acts acts = bean(Acts.class);
    private final int nth = unique();
    private final String customer = "sam@split" + nth + ".example";
    private final TicketNumber number = mailed("s" + nth + "a", "", "Boat " + nth, "The boat is late");
    private final Instant written = later();
    private final TicketNumber same =
            mailed("s" + nth + "b", "s" + nth + "a", "Re: Boat " + nth, "And my cabin was cold");
    private final MessageId second = message("s" + nth + "b");

    private Instant later() {
        RunningApp.clock().tick(Duration.ofHours(1));
        return RunningApp.clock().instant();
    }

    private TicketNumber mailed(String id, String answers, String subject, String words) {
        String raw = "From: Sam <" + customer + ">\nMessage-ID: <" + id + "@post.example>\n"
                + (answers.isEmpty() ? "" : "In-Reply-To: <" + answers + "@post.example>\n") + "Subject: " + subject
                + "\n\n" + words;
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static MessageId message(String id) {
        return sql().select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.MESSAGE_ID.contains(id + "@post.example"))
                .fetchSingle(MESSAGE.ID);
    }

    private static Ticket ticket(TicketNumber number) {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    private TicketNumber split() {
        acts.perform(number, new Act.Split(second, ""), imani());
        return ticket(number).links().iterator().next();
    }

    @Test
    void it_becomes_a_ticket_of_the_same_customer_that_began_when_it_was_written() {
        assertThat(same).isEqualTo(number);
        RunningApp.clock().tick(Duration.ofHours(2));
        TicketNumber into = split();
        Ticket made = ticket(into);
        assertThat(made.subject()).isEqualTo("Boat " + nth);
        assertThat(made.contact()).isEqualTo(ticket(number).contact());
        assertThat(made.openedAt()).isEqualTo(written);
        assertThat(made.links()).containsExactly(number);
        assertThat(bean(Traces.class).of(number).may(OwnTrace.LINKED)).isTrue();
        assertThat(sql().select(MESSAGE.TEXT)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(into))
                        .fetch(MESSAGE.TEXT))
                .containsExactly("And my cabin was cold");
        assertThat(ticket(number).messages())
                .as("it stays readable where it arrived")
                .isEqualTo(3);
    }

    @Test
    void an_answer_to_it_is_put_where_it_went() {
        TicketNumber into = split();
        assertThat(mailed("s" + nth + "c", "s" + nth + "b", "Re: Boat", "Still cold"))
                .isEqualTo(into);
        assertThat(mailed("s" + nth + "d", "s" + nth + "a", "Re: Boat", "Still late"))
                .isEqualTo(number);
    }

    @Test
    void put_back_it_is_as_though_it_had_never_been() {
        TicketNumber into = split();
        acts.perform(number, new Act.PutBack(second), imani());
        assertThat(ticket(into).discarded()).isTrue();
        assertThat(ticket(number).links()).isEmpty();
        assertThat(mailed("s" + nth + "e", "s" + nth + "b", "Re: Boat", "Still cold"))
                .isEqualTo(number);
        assertThatThrownBy(() -> acts.perform(number, new Act.PutBack(second), imani()))
                .hasMessageContaining("is back already");
        acts.perform(number, new Act.Split(second, "Cold cabin"), imani());
        assertThat(ticket(number).links()).hasSize(1);
    }

    @Test
    void what_somebody_went_on_with_is_not_put_back_but_joined() {
        TicketNumber into = split();
        bean(Answering.class)
                .answer(
                        into,
                        new Answering.Answer(
                                "<p>Sorry.</p>",
                                "",
                                Optional.empty(),
                                Turn.CUSTOMER,
                                ticket(into).lastPublicSeq()),
                        imani());
        assertThatThrownBy(() -> acts.perform(number, new Act.PutBack(second), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("Join it into ticket " + number);
    }

    @Test
    void the_first_message_and_one_that_is_no_customers_are_not_split_off() {
        MessageId first = message("s" + nth + "a");
        assertThatThrownBy(() -> acts.perform(number, new Act.Split(first, ""), imani()))
                .hasMessageContaining("what the ticket is about");
        assertThatThrownBy(() -> acts.perform(number, new Act.Split(new MessageId(1), ""), imani()))
                .hasMessageContaining("Only what the customer wrote");
    }

    @Test
    void of_two_who_split_the_same_message_one_is_told_where_it_went() throws Exception {
        var together = new CountDownLatch(1);
        try (var pool = Executors.newFixedThreadPool(2)) {
            List<Future<Boolean>> both = List.of(imani(), RunningApp.odile()).stream()
                    .map(person -> pool.submit(() -> {
                        together.await();
                        try {
                            acts.perform(number, new Act.Split(second, ""), person);
                            return true;
                        } catch (Problem.Invalid e) {
                            return false;
                        }
                    }))
                    .toList();
            together.countDown();
            assertThat(List.of(both.get(0).get(), both.get(1).get())).containsExactlyInAnyOrder(true, false);
        }
        assertThat(ticket(number).links()).hasSize(1);
    }

    @Test
    void the_page_offers_it_on_later_messages_and_shows_where_one_went() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String page = get("/tickets/" + number).body();
        assertThat(page).contains("/tickets/" + number + "/split/" + second);
        assertThat(page).doesNotContain("/split/" + message("s" + nth + "a"));
        TicketNumber into = split();
        assertThat(get("/tickets/" + number).body())
                .contains("Goes on in ticket " + into)
                .contains("Put it back");
    }
}

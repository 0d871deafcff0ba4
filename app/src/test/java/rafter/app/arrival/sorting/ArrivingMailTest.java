package rafter.app.arrival.sorting;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.take;
import static rafter.app.RunningApp.ticketOf;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.arrival.intake.Inbox;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.writing.Answering;
import rafter.core.arrival.Admission;
import rafter.core.arrival.ArrivalBook;
import rafter.core.arrival.ArrivalRule;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** What becomes of mail that belongs to no ticket yet. */
@ExtendWith(RunningApp.class)
class ArrivingMailTest extends Browsing {

    private final int nth = unique();
    private final String dov = "dov.a" + nth + "@brightwater.example";

    @AfterEach
    void nothing_is_ruled() {
        save(ArrivalBook.EMPTY);
    }

    private static void save(ArrivalBook book) {
        ArrivalBooks books = bean(ArrivalBooks.class);
        books.save(book, books.newest().version(), ravi().id(), "a test");
    }

    private void rule(Admission then, KnownField field, Operator operator, String... values) {
        save(ArrivalBook.EMPTY.with(
                new ArrivalRule("r" + nth, "Rule " + nth, true, Criteria.test(field, operator, values), then)));
    }

    private long received(String from, String headers, String text) {
        return take(("From: " + from + "\nTo: help@ternpassage.example\nSubject: Arriving a" + nth + "\n" + headers
                                + "\n" + text + "\n")
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
    }

    private static String state(long inbound) {
        return sql().select(INBOUND.STATE.concat(" ").concat(INBOUND.DECIDED_BY))
                .from(INBOUND)
                .where(INBOUND.ID.eq(inbound))
                .fetchSingle(r -> r.value1().strip());
    }

    private static void end(TicketNumber number) {
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.CLOSED.key()), imani());
    }

    @Test
    void what_a_rule_sets_aside_waits_for_an_administrator_who_makes_it_a_ticket_all_the_same() {
        rule(Admission.ASIDE, KnownField.HEADER, Operator.HAS_ANY, "X-Campaign: a" + nth);
        long inbound = received(dov, "X-Campaign: a" + nth + "\n", "Look at our offers.");
        assertThat(state(inbound)).isEqualTo("ASIDE r" + nth);
        assertThat(bean(Inbox.class).aside(0, 1).getFirst().reason()).contains("Rule " + nth);
        assertThat(mailOf(dov)).isEmpty();
        bean(Inbox.class).tryAgain(inbound, true, ravi().id());
        RunningApp.pump();
        assertThat(state(inbound)).isEqualTo("DONE");
        end(ticketOf(inbound));
    }

    @Test
    void what_is_only_saved_tells_nobody() {
        rule(Admission.SAVED, KnownField.SENDER, Operator.IS, dov);
        long inbound = received("Dov <" + dov + ">", "", "For your files.");
        assertThat(state(inbound)).isEqualTo("IGNORED r" + nth);
        assertThat(sql().fetchCount(CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS.eq(dov)))
                .isZero();
    }

    @Test
    void news_goes_to_the_open_ticket_of_its_sender_and_opens_one_when_there_is_none() {
        rule(Admission.NEWS, KnownField.SENDER, Operator.IS, dov);
        TicketNumber first = ticketOf(received(dov, "Message-ID: <1.a" + nth + "@b.example>\n", "The first."));
        long second = received(dov, "Message-ID: <2.a" + nth + "@b.example>\n", "The second, without a reference.");
        assertThat(ticketOf(second)).isEqualTo(first);
        assertThat(sql().select(MESSAGE.REMARK)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(first))
                        .and(MESSAGE.INBOUND_ID.eq(second))
                        .fetchSingle(MESSAGE.REMARK))
                .contains("refers to no ticket")
                .contains("Rule " + nth);
        end(first);
        TicketNumber third = ticketOf(received(dov, "Message-ID: <3.a" + nth + "@b.example>\n", "The third."));
        assertThat(third).isNotEqualTo(first);
        end(third);
    }

    @Test
    void news_that_comes_at_once_with_what_opens_the_ticket_goes_there() {
        rule(Admission.NEWS, KnownField.SENDER, Operator.IS, dov);
        Inbox inbox = bean(Inbox.class);
        for (int i = 0; i < 3; i++) {
            inbox.receive(
                    RunningApp.help().id(),
                    Optional.empty(),
                    ("From: " + dov + "\nSubject: At once\nMessage-ID: <at" + i + ".a" + nth + "@b.example>\n\nPart "
                                    + i)
                            .getBytes(StandardCharsets.UTF_8));
        }
        RunningApp.pump();
        List<TicketNumber> tickets = sql().selectDistinct(INBOUND.TICKET)
                .from(INBOUND)
                .where(INBOUND.SENDER.eq(dov))
                .fetch(INBOUND.TICKET);
        assertThat(tickets).hasSize(1);
        end(tickets.getFirst());
    }

    @Test
    void an_unknown_sender_can_get_a_ticket_and_an_answer_without_becoming_a_contact() {
        rule(Admission.STRANGER, KnownField.SENDER_KNOWN, Operator.IS, "unknown");
        TicketNumber number =
                ticketOf(received("Noor <" + dov + ">", "Message-ID: <n.a" + nth + "@b.example>\n", "Hi."));
        assertThat(sql().fetchCount(CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS.eq(dov)))
                .isZero();
        assertThat(sql().select(CONTACT.NAME)
                        .from(TICKET)
                        .join(CONTACT)
                        .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                        .where(TICKET.NUMBER.eq(number))
                        .fetchSingle(CONTACT.NAME))
                .isEqualTo("Unknown senders");
        bean(Answering.class)
                .answer(number, new Answering.Answer("<p>Yes.</p>", "", Optional.empty(), Turn.CUSTOMER, 999), imani());
        RunningApp.post();
        assertThat(mailOf(dov)).hasSize(2);
        long reply = received(dov, "In-Reply-To: <n.a" + nth + "@b.example>\n", "Thanks.");
        assertThat(ticketOf(reply)).isEqualTo(number);
        assertThat(sql().fetchCount(CONTACT_ADDRESS, CONTACT_ADDRESS.ADDRESS.eq(dov)))
                .isZero();
        end(number);
    }

    @Test
    void replies_are_never_sorted_out() {
        TicketNumber number = ticketOf(received(dov, "Message-ID: <r.a" + nth + "@b.example>\n", "A question."));
        rule(Admission.SAVED, KnownField.SENDER, Operator.IS, dov);
        assertThat(ticketOf(received(dov, "In-Reply-To: <r.a" + nth + "@b.example>\n", "More.")))
                .isEqualTo(number);
        end(number);
    }

    @Test
    void two_administrators_cannot_overwrite_each_other_and_a_version_comes_back() {
        ArrivalBooks books = bean(ArrivalBooks.class);
        long version = books.newest().version();
        rule(Admission.SAVED, KnownField.SENDER, Operator.IS, dov);
        long ruled = books.newest().version();
        assertThatThrownBy(() -> books.save(ArrivalBook.EMPTY, version, ravi().id(), "late"))
                .isInstanceOf(Problem.Stale.class);
        save(ArrivalBook.EMPTY);
        books.restore(ruled, ravi().id());
        assertThat(books.newest().book().rules()).hasSize(1);
        assertThatThrownBy(() -> books.restore(ruled, imani().id())).isInstanceOf(Problem.class);
    }

    @Test
    void junk_is_learned_from_what_was_said_to_be_no_request_and_set_aside_for_its_score() {
        var words = List.of("crypto", "winner", "ranking", "bonus", "loan");
        for (int i = 0; i < 24; i++) {
            String junk = words.get(i % 5) + " and " + words.get((i + 1) % 5) + " and " + words.get((i + 2) % 5);
            TicketNumber number = ticketOf(received("seller" + i + ".a" + nth + "@cheap" + i + ".example", "", junk));
            bean(Acts.class).perform(number, new Act.NoRequest(false), imani());
            end(ticketOf(received("guest" + i + ".a" + nth + "@post.example", "", "ferry cabin slot number " + i)));
        }
        Junk learner = bean(Junk.class);
        learner.run(learner.learn(ravi().id()));
        Junk.Learning learning = learner.last().orElseThrow();
        assertThat(learning.junk()).isGreaterThanOrEqualTo(24);
        assertThat(learning.learned()).isPresent();
        save(ArrivalBook.EMPTY.withJunk(true, 60));
        long inbound = received("new.a" + nth + "@cheap.example", "", "bonus and loan and crypto and winner");
        assertThat(state(inbound)).isEqualTo("ASIDE junk");
        assertThat(bean(Inbox.class).aside(0, 1).getFirst().reason())
                .contains("looks like junk")
                .contains("“crypto”");
        end(ticketOf(received("guest.a" + nth + "@post.example", "", "ferry cabin slot for two")));
        // What was dismissed teaches, too.
        bean(Inbox.class).dismiss(inbound, ravi().id());
        learner.run(learner.learn(ravi().id()));
        assertThat(learner.last().orElseThrow().junk()).isEqualTo(learning.junk() + 1);
    }

    @Test
    void a_rule_is_written_tried_and_saved_on_its_page_and_what_was_typed_stays()
            throws IOException, InterruptedException {
        end(ticketOf(received(dov, "X-Wave: a" + nth + "\n", "To be tried on.")));
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/house-rules/arriving/new");
        String version = Long.toString(bean(ArrivalBooks.class).newest().version());
        String[] typed = {
            "id",
            "new",
            "version",
            version,
            "on",
            "true",
            "then",
            "saved",
            "n.0.kind",
            "all",
            "n.0.0.kind",
            "test",
            "n.0.0.field",
            "header",
            "n.0.0.was",
            "header",
            "n.0.0.op",
            "has-any",
            "n.0.0.v",
            "x-wave: a" + nth
        };
        assertThat(post("/house-rules/arriving/save", token(page), with(typed, "act", "try", "name", "Waves"))
                        .body())
                .contains("It would take 1 of the last 200 mails")
                .contains(dov);
        assertThat(post("/house-rules/arriving/save", token(page), with(typed, "act", "save", "name", ""))
                        .body())
                .contains("It needs a name.")
                .contains("x-wave: a" + nth);
        assertThat(post("/house-rules/arriving/save", token(page), with(typed, "act", "save", "name", "Waves"))
                        .body())
                .contains("is saved and in force")
                .contains("Waves");
        assertThat(post("/house-rules/arriving/save", token(page), with(typed, "act", "save", "name", "Late"))
                        .body())
                .contains("Somebody else changed")
                .contains("Late");
    }

    @Test
    void who_may_not_change_house_rules_sees_no_rules() throws IOException, InterruptedException {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/house-rules/arriving").statusCode()).isEqualTo(403);
    }

    private static String[] with(String[] typed, String... more) {
        return Stream.of(typed, more).flatMap(Arrays::stream).toArray(String[]::new);
    }
}

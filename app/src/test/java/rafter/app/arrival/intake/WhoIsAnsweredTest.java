package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.deliver;
import static rafter.app.RunningApp.help;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.post;
import static rafter.app.RunningApp.pump;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.take;
import static rafter.app.RunningApp.ticketOf;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.NOTICE;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.app.tickets.writing.Recipients;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.MessageRecord;

/** Who gets an answer, what comes once, what comes back, and what a machine sends. */
@ExtendWith(RunningApp.class)
class WhoIsAnsweredTest {

    private final int nth = unique();
    private final String dov = "dov.w" + nth + "@brightwater.example";

    private long received(String from, String headers, String text) {
        return take(("From: " + from + "\nTo: help@ternpassage.example\nSubject: Slot w" + nth + "\n" + headers + "\n"
                                + text + "\n")
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
    }

    private String id(String name) {
        return "<" + name + ".w" + nth + "@brightwater.example>";
    }

    private TicketNumber opened() {
        TicketNumber number = ticketOf(
                received("Dov Reiss <" + dov + ">", "Message-ID: " + id("first") + "\n", "Is the trailer on?"));
        post();
        return number;
    }

    private Recipients.Proposed proposed(TicketNumber number) {
        return bean(Recipients.class)
                .proposed(number, bean(Tickets.class).find(number, odile()).orElseThrow());
    }

    private void answer(TicketNumber number, String to, Optional<String> cc) {
        bean(Answering.class).answer(number, new Answering.Answer("<p>Yes.</p>", to, cc, Turn.CUSTOMER, 999), imani());
        post();
    }

    private MessageRecord last(TicketNumber number) {
        return sql().selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchSingle();
    }

    @Test
    void a_machine_of_a_stranger_joins_marked_and_never_gets_the_answer() {
        TicketNumber number = opened();
        String robot = "noreply.w" + nth + "@desk.example";
        received(
                "Help desk <" + robot + ">",
                "Message-ID: " + id("robot") + "\nAuto-Submitted: auto-replied\nIn-Reply-To: " + id("first") + "\n",
                "We got your mail.");
        assertThat(last(number).getRemark()).contains(robot).contains("takes no part");
        answer(number, "", Optional.empty());
        assertThat(mailOf(robot)).isEmpty();
        assertThat(mailOf(dov)).hasSize(2);
        assertThat(proposed(number).to()).isEqualTo(dov);
    }

    @Test
    void a_later_reply_to_never_moves_the_answer_but_the_first_one_says_where_to() {
        TicketNumber number = opened();
        received(
                dov,
                "Message-ID: " + id("second") + "\nReply-To: thief.w" + nth + "@post.example\nIn-Reply-To: "
                        + id("first") + "\n",
                "More.");
        assertThat(proposed(number)).isEqualTo(new Recipients.Proposed(dov, List.of(), List.of()));
        String form = "form.w" + nth + "@site.example";
        TicketNumber byForm = ticketOf(received(
                form, "Message-ID: " + id("form") + "\nReply-To: noor.w" + nth + "@post.example\n", "By a form."));
        assertThat(proposed(byForm).to()).isEqualTo("noor.w" + nth + "@post.example");
    }

    @Test
    void who_takes_part_gets_a_copy_and_the_addresses_can_be_changed() {
        String mia = "mia.w" + nth + "@brightwater.example";
        TicketNumber number = ticketOf(received(
                dov, "Message-ID: " + id("first") + "\nCc: " + mia + ", help@ternpassage.example\n", "Is it on?"));
        assertThat(proposed(number).cc()).containsExactly(mia);
        answer(number, "", Optional.empty());
        assertThat(mailOf(mia)).hasSize(1);
        answer(number, mia, Optional.of(""));
        assertThat(mailOf(mia)).hasSize(2);
        assertThatThrownBy(() -> answer(number, "nobody", Optional.of("")))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("text is saved");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "taro..yamada%d@mobile.example",
                "jiro%d.@mobile.example",
                "kim%d@under_score.example",
                "\"kim vale %d\"@post.example",
                "bjørn%d@havn.example"
            })
    void a_sender_of_odd_shape_gets_a_ticket_and_is_acknowledged_when_mail_can_be_sent_there(String shape) {
        String sender = shape.formatted(nth);
        long inbound = received("<" + sender + ">", "", "Hello from an odd address");
        TicketNumber number = ticketOf(inbound);
        boolean writable = !sender.contains(" ") && !sender.contains("ø");
        assertThat(last(number).getKind()).isEqualTo(writable ? "AUTOMATIC" : "CUSTOMER");
        if (!writable) {
            assertThat(last(number).getRemark()).contains("no mail can be sent to");
            assertThatThrownBy(() -> answer(number, "", Optional.empty())).isInstanceOf(Problem.Invalid.class);
        }
    }

    @Test
    void an_empty_return_path_and_a_wish_for_no_automatic_answer_are_never_acknowledged() {
        TicketNumber machine =
                ticketOf(received("alarm.w" + nth + "@post.example", "Return-Path: <>\n", "The pump stands still."));
        TicketNumber person = ticketOf(
                received("shy.w" + nth + "@post.example", "X-Auto-Response-Suppress: All\n", "A question of mine."));
        assertThat(last(machine).getKind()).isEqualTo("CUSTOMER");
        assertThat(last(person).getKind()).isEqualTo("CUSTOMER");
    }

    @Test
    void the_cap_on_acknowledgements_counts_what_follows_a_plus_as_one_and_is_told_on_the_ticket() {
        TicketNumber number = new TicketNumber(0);
        for (int i = 0; i < 6; i++) {
            number = ticketOf(received(
                    "robot.w" + nth + "+" + i + "@letterbox.example", "", "Question number " + "x".repeat(i + 1)));
        }
        assertThat(last(number).getKind()).isEqualTo("CUSTOMER");
        assertThat(last(number).getRemark()).contains("5 acknowledgements");
    }

    @Test
    void a_machine_that_answers_our_answers_is_stopped_and_administrators_are_told() {
        long inbound = 0;
        for (int i = 0; i < 13; i++) {
            inbound = received(
                    "desk+" + i + "@loop" + nth + ".example",
                    "",
                    "Thank you for your message " + i + ". We will answer it as soon as we can. Your number is " + i
                            + ".");
        }
        assertThat(sql().fetchCount(
                                INBOUND,
                                INBOUND.SENDER
                                        .endsWith("@loop" + nth + ".example")
                                        .and(INBOUND.STATE.eq("DONE"))))
                .isEqualTo(Likenesses.MOST_AN_HOUR);
        assertThat(sql().fetchValue(sql().select(INBOUND.REASON).from(INBOUND).where(INBOUND.ID.eq(inbound))))
                .contains("looks like a machine");
        assertThat(sql().fetchCount(
                                NOTICE,
                                NOTICE.KIND.eq("MACHINE").and(NOTICE.WORDS.contains("loop" + nth + ".example"))))
                .isEqualTo(1);
    }

    @Test
    void a_mail_without_text_is_the_same_on_each_road() {
        String mail = "From: " + dov + "\nMessage-ID: " + id("bare")
                + "\nSubject: only a subject\nDate: Mon, 1 Mar 2027 10:00:00 +0100\n";
        assertThat(take(("Received: by one\n" + mail).getBytes(StandardCharsets.UTF_8)))
                .isPresent();
        assertThat(take(("Return-Path: <" + dov + ">\nReceived: by two\nReceived: by one\n" + mail)
                        .getBytes(StandardCharsets.UTF_8)))
                .isEmpty();
    }

    @Test
    void two_mails_that_are_alike_and_lie_side_by_side_are_two_and_each_comes_once() {
        Inbox inbox = bean(Inbox.class);
        byte[] mail =
                ("From: " + dov + "\nSubject: Scan w" + nth + "\n\nThe same words").getBytes(StandardCharsets.UTF_8);
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(7, nth * 10L)), mail))
                .isPresent();
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(7, nth * 10L)), mail))
                .isEmpty();
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(7, nth * 10L + 1)), mail))
                .isPresent();
        // The server numbers its messages anew.
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(8, nth * 10L)), mail))
                .isEmpty();
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(8, nth * 10L + 1)), mail))
                .isEmpty();
        assertThat(inbox.receive(help().id(), Optional.of(new Inbox.Origin(8, nth * 10L + 2)), mail))
                .isPresent();
        bean(Processor.class).processAll();
    }

    @Test
    void an_old_free_text_bounce_is_told_on_its_ticket_in_words_and_its_owner_hears_of_it() throws Exception {
        TicketNumber number = opened();
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        answer(number, "", Optional.empty());
        String ours = mailOf(dov).getLast().getMessageID();
        received(
                "MAILER-DAEMON@post.example",
                "Return-Path: <>\nList-Id: <x.post.example>\n",
                "Delivery failed.\n\n<" + dov
                        + ">:\n550 5.1.1 no such user\n\n--- Below this line is a copy of the message.\n\nMessage-ID: "
                        + ours + "\nSubject: x");
        assertThat(last(number).getKind()).isEqualTo("BOUNCE");
        assertThat(last(number).getRemark())
                .contains(dov)
                .contains("there is no such mailbox")
                .contains("550 5.1.1");
        assertThat(sql().fetchCount(NOTICE, NOTICE.TICKET.eq(number).and(NOTICE.KIND.eq("BOUNCED"))))
                .isEqualTo(1);
    }

    @Test
    void a_bounce_that_names_no_mail_is_known_by_whom_it_could_not_reach() {
        TicketNumber number = opened();
        answer(number, "", Optional.empty());
        received(
                "postmaster@brightwater.example",
                "Return-Path: <>\n",
                "Your message could not be delivered to " + dov + ". Mailbox full.");
        assertThat(last(number).getKind()).isEqualTo("BOUNCE");
        assertThat(last(number).getRemark()).contains("does not say which mail");
    }

    @Test
    void folded_words_are_found_and_messages_of_an_earlier_reader_are_read_once_more() {
        TicketNumber number = opened();
        answer(number, "", Optional.empty());
        received(
                dov,
                "Message-ID: " + id("more") + "\nIn-Reply-To: " + id("first") + "\n",
                "Fine.\n\nOn 1 Mar 2027 Help wrote:\n> zanzibar" + nth + " was quoted here");
        MessageRecord message = last(number);
        assertThat(message.getText()).isEqualTo("Fine.");
        assertThat(message.getFoldedWords()).contains(" zanzibar" + nth + " ");
        sql().update(MESSAGE)
                .set(MESSAGE.READER, 0)
                .set(MESSAGE.TEXT, "wrong")
                .set(MESSAGE.FOLDED, "")
                .set(MESSAGE.FOLDED_WORDS, "")
                .where(MESSAGE.ID.eq(message.getId()))
                .execute();
        bean(Rereader.class).rereadAll();
        assertThat(last(number).getText()).isEqualTo("Fine.");
        assertThat(last(number).getFoldedWords()).contains(" zanzibar" + nth + " ");
    }

    @Test
    void mail_that_was_fetched_is_known_by_its_place_in_the_mailbox() {
        deliver("From: " + dov + "\nTo: help@ternpassage.example\nSubject: Twice w" + nth + "\n\nAlike");
        deliver("From: " + dov + "\nTo: help@ternpassage.example\nSubject: Twice w" + nth + "\n\nAlike");
        pump();
        assertThat(sql().fetchCount(INBOUND, INBOUND.SUBJECT.eq("Twice w" + nth)))
                .isEqualTo(2);
        pump();
        assertThat(sql().fetchCount(INBOUND, INBOUND.SUBJECT.eq("Twice w" + nth)))
                .isEqualTo(2);
    }
}

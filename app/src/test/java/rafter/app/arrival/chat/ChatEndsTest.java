package rafter.app.arrival.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Ways;
import rafter.core.chat.ChatRules;
import rafter.core.routing.Presence;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;

/** How chats end: nobody is here, somebody is gone, handed over, resolved, joined, in the bin; and what goes on by mail. */
class ChatEndsTest extends PanelVisit {

    @Test
    void outside_the_hours_it_says_when_and_takes_one_message_by_mail() throws Exception {
        clock().set(RunningApp.MONDAY.minus(Duration.ofHours(6)));
        insistOnOpen(false);
        assertThat(get("/panel/" + word).body()).contains("We are here again");
        assertThat(ask("/panel/" + word + "/chats", Map.of("key", key(), "text", "x"))
                        .statusCode())
                .isEqualTo(409);
        String address = "ilse" + unique() + "@seamail.example";
        Map<String, String> left =
                Map.of("key", key(), "name", "Ilse", "address", address, "text", "My pass is lost " + word);
        assertThat(ask("/panel/" + word + "/message", left).statusCode()).isEqualTo(200);
        assertThat(ask("/panel/" + word + "/message", left).statusCode()).isEqualTo(200);
        var numbers = sql().select(TICKET.NUMBER, TICKET.CHANNEL)
                .from(TICKET)
                .where(TICKET.SUBJECT.eq("My pass is lost " + word))
                .fetch();
        assertThat(numbers).hasSize(1);
        opened.add(numbers.getFirst().value1());
        assertThat(numbers.getFirst().value2()).isEqualTo("email");
        assertThat(ask("/panel/" + word + "/message", Map.of("key", key(), "address", "nobody", "text", "x"))
                        .body())
                .contains("mail address");
    }

    @Test
    void with_nobody_taking_work_it_is_closed() throws Exception {
        for (var one : List.of(imani(), sefa())) {
            whereabouts.say(Presence.HERE, "", false, one);
        }
        insistOnOpen(false);
        assertThat(ask("/panel/" + word + "/chats", Map.of("key", key(), "text", "x"))
                        .body())
                .contains("Nobody is free to chat");
        whereabouts.say(Presence.HERE, "", true, imani());
    }

    @Test
    void who_is_gone_before_somebody_came_is_answered_by_mail_and_it_stays_one_ticket() throws Exception {
        String token = begin("Which quay for the 11:40?");
        String address = "per" + unique() + "@seamail.example";
        say(token, "Per Aamodt");
        say(token, address);
        clock().set(clock().instant().plus(ChatRules.usual().patience()).plusSeconds(60));
        endings.left(500).forEach(endings::leave);
        RunningApp.post();
        assertThat(chat(token).endedBy()).contains(Chats.EndedBy.GONE);
        assertThat(ticket(token).channel()).isEqualTo("email");
        assertThat(ticket(token).turn()).isEqualTo(Turn.OURS);
        assertThat(mailOf(address)).hasSize(1);
        var mail = mailOf(address).getFirst();
        assertThat(mail.getContent().toString() + mail.getSubject()).isNotBlank();
        String reply = "From: Per <" + address + ">\nIn-Reply-To: " + mail.getMessageID()
                + "\nSubject: Re: x\n\nIt is quay two I think.";
        RunningApp.take(reply.getBytes(StandardCharsets.UTF_8));
        assertThat(sql().fetchCount(MESSAGE, MESSAGE.TICKET.eq(chat(token).ticket()), MESSAGE.KIND.eq("CUSTOMER")))
                .isEqualTo(4);
        say(token, "I am back in the chat");
        assertThat(chat(token).ended()).isFalse();
        assertThat(ticket(token).channel()).isEqualTo("chat");
        Ways ways = bean(Ways.class);
        assertThat(ways.of(
                        chat(token).ticket(),
                        ticket(token),
                        List.of(address),
                        bean(Traces.class).of(chat(token).ticket())))
                .extracting(Ways.Choice::key)
                .containsExactly("chat", "email");
        ways.choose(chat(token).ticket(), "email", imani());
        assertThat(ticket(token).channel()).isEqualTo("email");
    }

    @Test
    void who_has_seen_the_answer_and_left_gets_no_mail() throws Exception {
        String token = begin("Hello");
        say(token, "Per");
        String address = "gone" + unique() + "@seamail.example";
        say(token, address);
        answer(token, "Good morning");
        ask("/talk/" + token + "/read", Map.of("seq", "99999"));
        clock().set(clock().instant().plus(Duration.ofHours(1)));
        endings.left(500).forEach(endings::leave);
        RunningApp.post();
        assertThat(chat(token).ended()).isTrue();
        assertThat(mailOf(address)).isEmpty();
    }

    @Test
    void it_is_ended_rated_once_and_sent_by_mail() throws Exception {
        String token = begin("Hello");
        answer(token, "Good morning");
        HttpResponse<String> ended =
                post("/chats/" + chat(token).ticket() + "/end", token(get("/chats")), "resolved", "true");
        assertThat(ended.statusCode()).isEqualTo(200);
        assertThat(state(token).get("ended").booleanValue()).isTrue();
        assertThat(ticket(token).open()).isFalse();
        assertThat(ask("/talk/" + token + "/rate", Map.of("rating", "SPLENDID")).statusCode())
                .isEqualTo(422);
        assertThat(ask("/talk/" + token + "/rate", Map.of("rating", "GOOD")).statusCode())
                .isEqualTo(200);
        assertThat(ask("/talk/" + token + "/rate", Map.of("rating", "POOR")).statusCode())
                .isEqualTo(409);
        String address = "copy" + unique() + "@seamail.example";
        for (int i = 0; i < 3; i++) {
            assertThat(ask("/talk/" + token + "/copy", Map.of("address", address))
                            .statusCode())
                    .isEqualTo(200);
        }
        assertThat(ask("/talk/" + token + "/copy", Map.of("address", address)).statusCode())
                .isEqualTo(422);
        RunningApp.post();
        assertThat(mailOf(address)).hasSize(3);
    }

    @Test
    void a_chat_is_handed_over_with_a_note_and_the_customer_stays_where_they_are() throws Exception {
        String token = begin("Where is my trailer?");
        answer(token, "Let me ask a colleague.");
        String at = "/chats/" + chat(token).ticket() + "/hand-over";
        String csrf = token(get("/chats"));
        assertThat(post(at, csrf, "to", "", "note", "Please look").body()).contains("Choose a colleague or a team");
        post(at, csrf, "to", "p" + sefa().id(), "note", "She waits at gate 3");
        assertThat(ticket(token).owner()).contains(sefa().id());
        assertThat(state(token).get("with").stringValue()).isEqualTo(sefa().name());
        assertThat(sql().fetchCount(
                                MESSAGE,
                                MESSAGE.TICKET.eq(chat(token).ticket()),
                                MESSAGE.KIND.eq("NOTE"),
                                MESSAGE.TEXT.contains("gate 3")))
                .isEqualTo(1);
        assertThat(lines(token)).noneMatch(line -> line.contains("gate 3"));
        assertThat(get("/chats").body()).doesNotContain("Where is my trailer?");
    }

    @Test
    void a_chat_whose_ticket_becomes_a_part_of_another_goes_on_there() throws Exception {
        String first = begin("The first question " + word);
        answer(first, "Good morning");
        String second = begin("And a second one " + word);
        acts.perform(chat(second).ticket(), new Act.Join(chat(first).ticket()), imani());
        say(second, "Do you read this?");
        assertThat(sql().fetchCount(
                                MESSAGE, MESSAGE.TICKET.eq(chat(first).ticket()), MESSAGE.TEXT.eq("Do you read this?")))
                .isEqualTo(1);
        assertThat(state(second).get("with").stringValue()).isEqualTo(imani().name());
        assertThat(get("/chats").body()).contains("Do you read this?");
        // It is closed with the one that it is a part of.
        opened.remove(chat(second).ticket());
    }

    @Test
    void a_chat_that_was_put_into_the_bin_is_over() throws Exception {
        String token = begin("Buy cheap crates " + word);
        acts.perform(chat(token).ticket(), new Act.NoRequest(false), imani());
        assertThat(say(token, "Cheap!").statusCode()).isEqualTo(409);
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/chats").body()).doesNotContain("Buy cheap crates " + word);
        acts.perform(chat(token).ticket(), new Act.Restore(), imani());
    }
}

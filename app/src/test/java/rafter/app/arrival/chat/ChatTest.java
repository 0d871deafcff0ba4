package rafter.app.arrival.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.io.IOException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;
import tools.jackson.databind.JsonNode;

/** A chat from the first words on, by the contract that panels use, with whatever can go wrong on the way. */
class ChatTest extends PanelVisit {

    @Test
    void what_is_sent_twice_is_done_once_even_at_the_same_time() throws Exception {
        Map<String, String> first = Map.of("key", key(), "text", "Where is my umbrella?");
        Callable<String> send =
                () -> read(ask("/panel/" + word + "/chats", first)).get("token").stringValue();
        try (var both = Executors.newFixedThreadPool(4)) {
            var tokens = both.invokeAll(List.of(send, send, send, send));
            String token = tokens.getFirst().get();
            for (var other : tokens) {
                assertThat(other.get()).isEqualTo(token);
            }
            opened.add(chat(token).ticket());
            Map<String, String> line = Map.of("key", key(), "text", "A blue one");
            Callable<Integer> again =
                    () -> ask("/talk/" + token + "/lines", line).statusCode();
            for (var answer : both.invokeAll(List.of(again, again, again))) {
                assertThat(answer.get()).isEqualTo(200);
            }
            assertThat(lines(token).stream().filter(said -> said.equals("CUSTOMER A blue one")))
                    .hasSize(1);
            assertThat(sql().fetchCount(MESSAGE, MESSAGE.TICKET.eq(chat(token).ticket()), MESSAGE.KIND.eq("CUSTOMER")))
                    .isEqualTo(2);
        }
        assertThat(sql().fetchCount(
                                TICKET, TICKET.SUBJECT.eq("Where is my umbrella?"), TICKET.MAILBOX_ID.eq(site.id())))
                .isEqualTo(1);
    }

    @Test
    void the_helper_asks_and_what_it_learns_stands_on_the_ticket() throws Exception {
        String token = begin("Is the ramp at Skelby wide enough?");
        assertThat(lines(token))
                .containsExactly("CUSTOMER Is the ramp at Skelby wide enough?", "HELPER What is your name?");
        assertThat(firstReply(token)).as("what the helper says meets nothing").isEqualTo("RUNNING");
        say(token, "Noor Haddad");
        assertThat(lines(token).getLast()).startsWith("HELPER Where does a mail reach you");
        say(token, "I have none");
        assertThat(lines(token).getLast()).startsWith("HELPER I did not understand that");
        String address = "noor" + unique() + "@seamail.example";
        say(token, "it is " + address);
        assertThat(lines(token).getLast()).startsWith("HELPER Thank you.");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String page = get("/tickets/" + chat(token).ticket()).body();
        assertThat(page).contains("Noor Haddad").contains(address).contains("chat, sent by Rafter");
        assertThat(ticket(token).turn()).isEqualTo(Turn.OURS);
        assertThat(sql().fetchCount(
                                TICKET_EVENT,
                                TICKET_EVENT.TICKET.eq(chat(token).ticket()),
                                TICKET_EVENT.KIND.eq("customer-is")))
                .isEqualTo(1);
    }

    @Test
    void a_letter_begins_with_a_greeting_and_a_line_of_a_chat_does_not() throws Exception {
        String token = begin("Is the ramp wide enough?");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/tickets/" + chat(token).ticket()).body())
                .contains("Reply by chat")
                .doesNotContain("data-greeting", "data-closing");
    }

    @Test
    void an_answer_reaches_the_panel_and_it_is_said_when_it_was_seen() throws Exception {
        String token = begin("Can I add two metres?");
        assertThat(state(token).get("place").intValue()).isEqualTo(1);
        answer(token, "Yes, until 18:00 today.");
        JsonNode state = state(token);
        assertThat(state.get("with").stringValue()).isEqualTo(imani().name());
        assertThat(state.get("place").intValue()).isZero();
        assertThat(lines(token).getLast()).isEqualTo("PERSON Yes, until 18:00 today.");
        assertThat(firstReply(token)).isEqualTo("MET");
        assertThat(ticket(token).turn()).isEqualTo(Turn.CUSTOMER);
        assertThat(ticket(token).owner()).contains(imani().id());
        String page = get("/tickets/" + chat(token).ticket()).body();
        assertThat(page).contains("not seen yet");
        ask("/talk/" + token + "/read", Map.of("seq", "99999"));
        assertThat(get("/tickets/" + chat(token).ticket()).body()).doesNotContain("not seen yet");
        say(token, "Thank you");
        assertThat(ticket(token).turn()).isEqualTo(Turn.OURS);
        assertThat(lines(token))
                .as("the helper is silent once somebody came")
                .last()
                .isEqualTo("CUSTOMER Thank you");
    }

    @Test
    void a_line_of_ours_that_is_sent_twice_is_said_once() throws Exception {
        String token = begin("Hello");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String csrf = token(get("/chats"));
        String key = key();
        for (int i = 0; i < 3; i++) {
            post("/chats/" + chat(token).ticket() + "/say", csrf, "text", "Good morning", "key", key);
        }
        assertThat(lines(token).stream().filter(said -> said.equals("PERSON Good morning")))
                .hasSize(1);
    }

    @Test
    void signs_of_markup_are_words_everywhere() throws Exception {
        String hostile = "<script>alert(1)</script><img src=x onerror=alert(2)> {agent} <b>bold</b>";
        String token = begin(hostile);
        assertThat(lines(token).getFirst()).isEqualTo("CUSTOMER " + hostile);
        signIn(imani().person().address(), RunningApp.PASSWORD);
        acts.perform(chat(token).ticket(), new Act.HandToPerson(Optional.of(imani().id())), imani());
        for (String path : List.of("/chats", "/tickets/" + chat(token).ticket())) {
            String page = get(path).body();
            assertThat(page)
                    .contains("&lt;script&gt;alert(1)")
                    .doesNotContain("<script>alert")
                    .doesNotContain("<img src=x");
        }
    }

    @Test
    void a_hundred_lines_a_second_are_slowed_and_none_is_lost() throws Exception {
        String token = begin("Hello");
        var waiting = new ArrayList<Map<String, String>>();
        for (int i = 0; i < 100; i++) {
            waiting.add(Map.of("key", key(), "text", "Line " + i));
        }
        int refused = 0;
        while (!waiting.isEmpty()) {
            HttpResponse<String> answer = ask("/talk/" + token + "/lines", waiting.getFirst());
            if (answer.statusCode() == 429) {
                refused++;
                assertThat(answer.headers().firstValue("Retry-After")).isPresent();
                clock().set(clock().instant()
                        .plusSeconds(Long.parseLong(
                                answer.headers().firstValue("Retry-After").orElseThrow())));
                continue;
            }
            assertThat(answer.statusCode()).isEqualTo(200);
            waiting.removeFirst();
        }
        assertThat(refused).isGreaterThan(20);
        assertThat(lines(token).stream().filter(said -> said.startsWith("CUSTOMER Line")))
                .hasSize(100)
                .isSortedAccordingTo((a, b) -> Integer.compare(number(a), number(b)));
    }

    private static int number(String line) {
        return Integer.parseInt(line.replaceAll("\\D", ""));
    }

    @Test
    void what_is_too_long_empty_or_without_a_key_is_said_in_words() throws Exception {
        String token = begin("Hello");
        assertThat(say(token, " ").statusCode()).isEqualTo(422);
        assertThat(say(token, "x".repeat(4001)).body()).contains("at most 4,000 letters");
        assertThat(ask("/talk/" + token + "/lines", Map.of("key", "short", "text", "x"))
                        .statusCode())
                .isEqualTo(422);
        assertThat(ask("/panel/" + word + "/chats", Map.of("key", key(), "text", ""))
                        .statusCode())
                .isEqualTo(422);
        assertThat(lines(token)).hasSize(2);
    }

    private static HttpResponse<String> send(String token, byte[] file) throws IOException, InterruptedException {
        String head = "--edge\r\nContent-Disposition: form-data; name=\"key\"\r\n\r\n" + key()
                + "\r\n--edge\r\nContent-Disposition: form-data; name=\"file\"; filename=\"<ramp>.svg\"\r\n"
                + "Content-Type: image/svg+xml\r\n\r\n";
        return PANEL.send(
                HttpRequest.newBuilder(uri("/talk/" + token + "/lines"))
                        .header("Content-Type", "multipart/form-data; boundary=edge")
                        .POST(HttpRequest.BodyPublishers.concat(
                                HttpRequest.BodyPublishers.ofString(head),
                                HttpRequest.BodyPublishers.ofByteArray(file),
                                HttpRequest.BodyPublishers.ofString("\r\n--edge--\r\n")))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    @Test
    void a_file_goes_along_and_is_saved_by_whoever_has_the_chat_alone_and_one_that_is_too_large_does_not()
            throws Exception {
        String token = begin("Here is a picture");
        assertThat(send(token, "<svg onload='alert(1)'/>".getBytes(StandardCharsets.UTF_8))
                        .statusCode())
                .isEqualTo(200);
        JsonNode file = state(token).get("lines").get(2).get("files").get(0);
        assertThat(file.get("name").stringValue()).contains("ramp");
        HttpResponse<String> saved =
                get("/talk/" + token + "/files/" + file.get("id").asString());
        assertThat(saved.headers().firstValue("Content-Type")).contains("application/octet-stream");
        assertThat(saved.headers().firstValue("Content-Disposition").orElseThrow())
                .startsWith("attachment");
        String other = begin("Somebody else");
        assertThat(get("/talk/" + other + "/files/" + file.get("id").asString()).statusCode())
                .isEqualTo(404);
        int before = lines(token).size();
        int status = 413;
        try {
            status = send(token, new byte[26_000_000]).statusCode();
        } catch (IOException hungUp) {
            // A server may hang up on whoever goes on sending.
        }
        assertThat(status).isIn(413, 422);
        assertThat(lines(token)).hasSize(before);
    }

    @Test
    void a_forged_token_opens_nothing() throws Exception {
        String token = begin("Hello");
        for (String forged : List.of("1", "1-x", token + "x", token.replaceFirst("^\\d+", "1"), "-")) {
            assertThat(ask("/talk/" + forged + "/lines", Map.of("key", key(), "text", "x"))
                            .statusCode())
                    .isEqualTo(404);
        }
    }

    @Test
    void a_website_that_is_not_listed_can_neither_hold_the_panel_nor_write() throws Exception {
        HttpResponse<String> open =
                get("/panel/" + word + "/open", "Origin", "https://evil.example", "Accept", "application/json");
        assertThat(open.statusCode()).isEqualTo(403);
        assertThat(open.body()).contains("may not hold the panel");
        HttpResponse<String> page = get("/panel/" + word);
        assertThat(page.headers().firstValue("Content-Security-Policy").orElseThrow())
                .contains("frame-ancestors " + ORIGIN + ";");
        assertThat(page.headers().firstValue("X-Frame-Options")).isEmpty();
        assertThat(page.headers().firstValue("Set-Cookie")).isEmpty();
        assertThat(get("/sign-in").headers().firstValue("X-Frame-Options")).contains("DENY");
        HttpResponse<String> written =
                ask("/panel/" + word + "/chats", Map.of("key", key(), "text", "x"), "Origin", "https://evil.example");
        assertThat(written.statusCode()).isEqualTo(403);
    }

    @Test
    void words_in_braces_without_a_value_are_said_before_they_go_out() throws Exception {
        String token = begin("Hello");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String csrf = token(get("/chats"));
        String at = "/chats/" + chat(token).ticket() + "/say";
        String said =
                post(at, csrf, "text", "Dear {nobody knows}", "key", key()).body();
        assertThat(said).contains("{nobody knows}");
        assertThat(lines(token)).noneMatch(line -> line.startsWith("PERSON"));
        post(at, csrf, "text", "Dear {nobody knows}", "key", key(), "asItIs", "true");
        assertThat(lines(token).getLast()).isEqualTo("PERSON Dear {nobody knows}");
    }
}

package rafter.app.arrival.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CHAT;
import static rafter.database.Tables.CHAT_LINE;
import static rafter.database.Tables.MACRO;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.OPENER;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.TICKET_EVENT;

import java.io.IOException;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.Whereabouts;
import rafter.app.house.access.Holder;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.writing.Ways;
import rafter.core.chat.ChatRules;
import rafter.core.chat.Invite;
import rafter.core.chat.Pages;
import rafter.core.chat.Site;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Presence;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A chat from the first words to its end, by the contract that panels use, with whatever can go wrong on the way. */
@ExtendWith(RunningApp.class)
class ChatTest extends Browsing {

    private static final String ORIGIN = "https://ferries.example";
    private static final HttpClient PANEL = HttpClient.newHttpClient();

    private final ChatSites sites = bean(ChatSites.class);
    private final Chats chats = bean(Chats.class);
    private final Endings endings = bean(Endings.class);
    private final Whereabouts whereabouts = bean(Whereabouts.class);
    private final Acts acts = bean(Acts.class);
    private final String word = "site" + unique();

    private ChatSite site = new ChatSite(0, "", "", List.of(), Optional.empty(), "", 0);
    private final List<TicketNumber> opened = new ArrayList<>();

    @BeforeEach
    void a_site_that_is_open() throws Exception {
        RunningApp.nextMinute();
        whereabouts.say(Presence.HERE, "", true, imani());
        long id = sites.save(
                new ChatSite(0, "Site " + word, word, List.of(new Site(ORIGIN)), Optional.empty(), "", 0), ravi().id());
        site = sites.of(id).orElseThrow();
        insistOnOpen(true);
    }

    /** Who came or went is told to all nodes, and each knows it a moment later. */
    private void insistOnOpen(boolean open) throws IOException, InterruptedException {
        for (int i = 0; i < 100; i++) {
            JsonNode said = read(get("/panel/" + word + "/open", "Origin", ORIGIN, "Accept", "application/json"));
            if (said.get("open").booleanValue() == open) {
                return;
            }
            Thread.sleep(50);
        }
        throw new AssertionError("it never became " + open);
    }

    @AfterEach
    void as_it_was() {
        opened.forEach(number -> acts.perform(number, new Act.MoveTo(TicketState.CLOSED.key()), ravi()));
        sql().update(CHAT)
                .set(CHAT.ENDED_AT, clock().instant())
                .where(CHAT.ENDED_AT.isNull())
                .execute();
        sql().update(OPENER).set(OPENER.REMOVED_AT, clock().instant()).execute();
        sites.remove(site.id(), ravi().id(), clock().instant());
    }

    // ------------------------------------------------------------------ what a panel does

    private static String key() {
        return "key-for-a-test-" + unique();
    }

    private static HttpResponse<String> ask(String path, Map<String, String> fields, String... headers)
            throws IOException, InterruptedException {
        var form = new StringBuilder();
        fields.forEach((name, value) -> form.append(form.isEmpty() ? "" : "&")
                .append(name)
                .append('=')
                .append(URLEncoder.encode(value, StandardCharsets.UTF_8)));
        var request = HttpRequest.newBuilder(uri(path)).header("Content-Type", "application/x-www-form-urlencoded");
        for (int i = 0; i < headers.length; i += 2) {
            request.header(headers[i], headers[i + 1]);
        }
        return PANEL.send(
                request.POST(HttpRequest.BodyPublishers.ofString(form.toString()))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private static JsonNode read(HttpResponse<String> answer) {
        return JsonMapper.shared().readTree(answer.body());
    }

    private String begin(String text) throws IOException, InterruptedException {
        return begin(Map.of("key", key(), "text", text, "path", "/lost", "title", "Lost items"));
    }

    private String begin(Map<String, String> fields) throws IOException, InterruptedException {
        HttpResponse<String> answer = ask("/panel/" + word + "/chats", fields);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        String token = read(answer).get("token").stringValue();
        opened.add(chat(token).ticket());
        return token;
    }

    private HttpResponse<String> say(String token, String text) throws IOException, InterruptedException {
        clock().set(clock().instant().plusSeconds(3));
        return ask("/talk/" + token + "/lines", Map.of("key", key(), "text", text));
    }

    private static JsonNode state(String token) throws IOException, InterruptedException {
        HttpResponse<String> answer = PANEL.send(
                HttpRequest.newBuilder(uri("/talk/" + token + "/state")).build(), HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(200);
        return read(answer);
    }

    private static List<String> lines(String token) throws IOException, InterruptedException {
        var all = new ArrayList<String>();
        state(token)
                .get("lines")
                .forEach(line -> all.add(
                        line.get("who").stringValue() + " " + line.get("text").stringValue()));
        return all;
    }

    private Chats.Chat chat(String token) {
        return bean(Talk.class).of(token);
    }

    private Ticket ticket(String token) {
        return bean(Tickets.class).find(chat(token).ticket(), ravi()).orElseThrow();
    }

    private String firstReply(String token) {
        return sql().select(TICKET_CLOCK.STATE)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(chat(token).ticket()))
                .and(TICKET_CLOCK.OBJECTIVE.eq("FIRST_REPLY"))
                .fetchSingle(TICKET_CLOCK.STATE);
    }

    private void answer(String token, String text) throws IOException, InterruptedException {
        signIn(imani().person().address(), RunningApp.PASSWORD);
        HttpResponse<String> desk = get("/chats");
        HttpResponse<String> said =
                post("/chats/" + chat(token).ticket() + "/say", token(desk), "text", text, "key", key());
        assertThat(said.statusCode()).isEqualTo(200);
    }

    // ------------------------------------------------------------------ talking

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

    // ------------------------------------------------------------------ too much, too large, forged

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

    // ------------------------------------------------------------------ closed, gone, by mail

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
        assertThat(ways.of(chat(token).ticket(), ticket(token)))
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

    @Test
    void somebody_is_invited_where_it_fits_and_it_is_counted() throws Exception {
        Invites invites = bean(Invites.class);
        invites.add(
                new Invite(
                        0,
                        "Did you lose something " + word + "?",
                        new Pages("/lost*"),
                        Duration.ofSeconds(5),
                        "umbrella",
                        Duration.ofDays(1)),
                ravi().id());
        long id = invites.all().getLast().invite().id();
        String at = "/panel/" + word + "/open?path=/lost/1&searched=my+umbrella";
        JsonNode open = read(get(at, "Origin", ORIGIN, "Accept", "application/json"));
        assertThat(open.get("invite").get("id").asString()).isEqualTo(Long.toString(id));
        String shown = "&shown=" + id + ":" + clock().instant().getEpochSecond();
        assertThat(read(get(at + shown, "Origin", ORIGIN, "Accept", "application/json"))
                        .get("invite")
                        .isNull())
                .isTrue();
        assertThat(get(at + "&shown=nonsense,1:,:2", "Origin", ORIGIN, "Accept", "application/json")
                        .statusCode())
                .isEqualTo(200);
        ask("/panel/" + word + "/invites/" + id, Map.of(), "Origin", ORIGIN);
        ask("/panel/" + word + "/invites/" + id, Map.of(), "Origin", "https://evil.example");
        begin(Map.of("key", key(), "text", "Yes, an umbrella", "invite", Long.toString(id)));
        assertThat(invites.all().getLast())
                .extracting(Invites.Counted::shown, Invites.Counted::taken)
                .containsExactly(1, 1);
        invites.remove(id, clock().instant(), ravi().id());
    }

    @Test
    void what_is_set_wrongly_is_said_in_words_and_stays_in_the_form() throws Exception {
        signIn(ravi().person().address(), RunningApp.PASSWORD);
        String csrf = token(get("/house-rules/chat"));
        String said = post(
                        "/house-rules/chat",
                        csrf,
                        "version",
                        "0",
                        "greeting",
                        "Hello there " + word,
                        "patience",
                        "soon")
                .body();
        assertThat(said).contains("is no amount of time").contains("Hello there " + word);
        said = post("/house-rules/chat", csrf, "greeting", "Hi", "patience", "10 m", "ask0", "How old?")
                .body();
        assertThat(said).contains("Choose where the answer to");
        said = post("/house-rules/chat/sites/0", csrf, "name", "x", "word", "Bad Word", "origins", ORIGIN)
                .body();
        assertThat(said).contains("small letters").contains("Bad Word");
        said = post("/house-rules/chat/sites/0", csrf, "name", "x", "word", word, "origins", ORIGIN)
                .body();
        assertThat(said).contains("Another site is called");
        said = post("/house-rules/chat/openers", csrf, "macro", "999999", "pages", "/x")
                .body();
        assertThat(said).contains("Choose a shared macro");
        said = post("/house-rules/chat/invites", csrf, "words", "Come in", "after", "never", "every", "1 d")
                .body();
        assertThat(said).contains("how many seconds").contains("Come in");
        assertThat(get("/requests/new").body()).doesNotContain("Site " + word);
    }

    // ------------------------------------------------------------------ openers

    private long opener(String name) {
        return opener(name, "Things are kept for 30 days.");
    }

    private long opener(String name, String answer) {
        var steps = List.of(
                new Macro.Step("answer", Map.of("text", answer, "then", "CUSTOMER"), false),
                new Macro.Step("tag", Map.of("tag", "found-things"), false));
        var macro = new Macro(0, name, "", "", new Holder.Everybody(), steps, Optional.empty(), 0, 0);
        long id = bean(Macros.class).save(macro, ravi());
        bean(Openers.class).add(id, "/lost*", "", ravi().id());
        return id;
    }

    @Test
    void a_ready_question_is_answered_at_once_counted_and_worded_as_its_macro() throws Exception {
        String name = "I lost something " + word;
        long macro = opener(name);
        Openers openers = bean(Openers.class);
        long id = openers.all().getLast().id();
        assertThat(get("/panel/" + word + "?path=/lost/2").body()).contains(name);
        assertThat(get("/panel/" + word + "?path=/timetable").body()).doesNotContain(name);
        String token = begin(Map.of("key", key(), "opener", Long.toString(id), "path", "/lost"));
        assertThat(lines(token)).containsExactly("CUSTOMER " + name, "HELPER Things are kept for 30 days.");
        assertThat(ticket(token).tags()).contains("found-things");
        assertThat(ticket(token).turn()).isEqualTo(Turn.CUSTOMER);
        String press = state(token).get("lines").get(1).get("press").asString();
        ask("/talk/" + token + "/helped", Map.of("press", press, "helped", "false"));
        ask("/talk/" + token + "/helped", Map.of("press", press, "helped", "true"));
        assertThat(ticket(token).turn()).isEqualTo(Turn.OURS);
        assertThat(lines(token)).contains("CUSTOMER No, that did not help.", "HELPER What is your name?");
        assertThat(openers.counts().get(id)).isEqualTo(new Openers.Count(1, 0, 1));
        sql().update(MACRO)
                .set(MACRO.NAME, name + " anew")
                .where(MACRO.ID.eq(macro))
                .execute();
        assertThat(get("/panel/" + word + "?path=/lost").body()).contains(name + " anew");
    }

    @Test
    void an_answer_that_cannot_be_filled_in_for_somebody_is_left_to_one_of_us() throws Exception {
        opener("What have we bought " + word, "What {company} has bought stands on its invoice.");
        long id = bean(Openers.class).all().getLast().id();
        String token = begin(Map.of("key", key(), "opener", Long.toString(id), "path", "/lost"));
        assertThat(lines(token)).containsExactly("CUSTOMER What have we bought " + word, "HELPER What is your name?");
        assertThat(ticket(token).turn()).isEqualTo(Turn.OURS);
    }

    @Test
    void an_answer_that_helped_resolves_the_ticket() throws Exception {
        opener("Where is my bag " + word);
        long id = bean(Openers.class).all().getLast().id();
        String token = begin(Map.of("key", key(), "opener", Long.toString(id), "path", "/lost"));
        String press = state(token).get("lines").get(1).get("press").asString();
        ask("/talk/" + token + "/helped", Map.of("press", press, "helped", "true"));
        assertThat(ticket(token).open()).isFalse();
        say(token, "One more thing");
        assertThat(ticket(token).open()).isTrue();
        assertThat(bean(ChatLines.class).after(chat(token).id(), 0))
                .extracting(ChatLines.Line::seq)
                .containsExactly(1, 2, 3, 4, 5);
        assertThat(sql().fetchCount(CHAT_LINE, CHAT_LINE.CHAT_ID.eq(chat(token).id())))
                .isEqualTo(5);
    }
}

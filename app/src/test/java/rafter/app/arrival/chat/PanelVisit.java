package rafter.app.arrival.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CHAT;
import static rafter.database.Tables.OPENER;
import static rafter.database.Tables.TICKET_CLOCK;

import java.io.IOException;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.handout.people.Whereabouts;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.chat.Site;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Presence;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A website with the panel, open, and what somebody does there. */
@ExtendWith(RunningApp.class)
abstract class PanelVisit extends Browsing {

    static final String ORIGIN = "https://ferries.example";
    static final HttpClient PANEL = HttpClient.newHttpClient();

    final ChatSites sites = bean(ChatSites.class);
    final Chats chats = bean(Chats.class);
    final Endings endings = bean(Endings.class);
    final Whereabouts whereabouts = bean(Whereabouts.class);
    final Acts acts = bean(Acts.class);
    final String word = "site" + unique();

    ChatSite site = new ChatSite(0, "", "", List.of(), Optional.empty(), "", 0);
    final List<TicketNumber> opened = new ArrayList<>();

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
    void insistOnOpen(boolean open) throws IOException, InterruptedException {
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

    static String key() {
        return "key-for-a-test-" + unique();
    }

    static HttpResponse<String> ask(String path, Map<String, String> fields, String... headers)
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

    static JsonNode read(HttpResponse<String> answer) {
        return JsonMapper.shared().readTree(answer.body());
    }

    String begin(String text) throws IOException, InterruptedException {
        return begin(Map.of("key", key(), "text", text, "path", "/lost", "title", "Lost items"));
    }

    String begin(Map<String, String> fields) throws IOException, InterruptedException {
        HttpResponse<String> answer = ask("/panel/" + word + "/chats", fields);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        String token = read(answer).get("token").stringValue();
        opened.add(chat(token).ticket());
        return token;
    }

    HttpResponse<String> say(String token, String text) throws IOException, InterruptedException {
        clock().set(clock().instant().plusSeconds(3));
        return ask("/talk/" + token + "/lines", Map.of("key", key(), "text", text));
    }

    static JsonNode state(String token) throws IOException, InterruptedException {
        HttpResponse<String> answer = PANEL.send(
                HttpRequest.newBuilder(uri("/talk/" + token + "/state")).build(), HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(200);
        return read(answer);
    }

    static List<String> lines(String token) throws IOException, InterruptedException {
        var all = new ArrayList<String>();
        state(token)
                .get("lines")
                .forEach(line -> all.add(
                        line.get("who").stringValue() + " " + line.get("text").stringValue()));
        return all;
    }

    Chats.Chat chat(String token) {
        return bean(Talk.class).of(token);
    }

    Ticket ticket(String token) {
        return bean(Tickets.class).find(chat(token).ticket(), ravi()).orElseThrow();
    }

    String firstReply(String token) {
        return sql().select(TICKET_CLOCK.STATE)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(chat(token).ticket()))
                .and(TICKET_CLOCK.OBJECTIVE.eq("FIRST_REPLY"))
                .fetchSingle(TICKET_CLOCK.STATE);
    }

    void answer(String token, String text) throws IOException, InterruptedException {
        signIn(imani().person().address(), RunningApp.PASSWORD);
        HttpResponse<String> desk = get("/chats");
        HttpResponse<String> said =
                post("/chats/" + chat(token).ticket() + "/say", token(desk), "text", text, "key", key());
        assertThat(said.statusCode()).isEqualTo(200);
    }
}

package rafter.app.arrival.chat;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.CHAT_LINE;
import static rafter.database.Tables.MACRO;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.house.access.Holder;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.core.chat.Invite;
import rafter.core.chat.Pages;
import rafter.core.ticket.Turn;
import tools.jackson.databind.JsonNode;

/** What can be pressed instead of being written, who is invited, and how administrators set it. */
class OpenersTest extends PanelVisit {

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

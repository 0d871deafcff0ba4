package rafter.app.house.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.database.Tables;

/** To somebody who may see some tickets, the others are not there: on no page, in no count, by no address, in no news. */
@ExtendWith(RunningApp.class)
class ReachTest extends Browsing {

    private final String word = "Zanzibarrel" + unique();
    private TicketNumber hidden;
    private TicketNumber seen;

    private static TicketNumber mail(String subject, String words) {
        String file = Base64.getEncoder().encodeToString(words.getBytes(StandardCharsets.UTF_8));
        return RunningApp.ticketOf(RunningApp.take(("""
                        From: Ottilie Varga <ottilie@reach%d.example>
                        To: help@ternpassage.example
                        Subject: %s
                        Message-ID: <reach-%d@reach.example>
                        MIME-Version: 1.0
                        Content-Type: multipart/mixed; boundary=b

                        --b
                        Content-Type: text/plain

                        %s
                        --b
                        Content-Type: text/plain; name=%s.txt
                        Content-Disposition: attachment; filename=%s.txt
                        Content-Transfer-Encoding: base64

                        %s
                        --b--
                        """)
                        .formatted(unique(), subject, unique(), words, subject, subject, file)
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow());
    }

    @BeforeEach
    void twoTickets() throws Exception {
        hidden = mail(word, "The crate " + word + " leaks.");
        seen = mail("Plainly" + unique(), "The crate is dry.");
        bean(Acts.class).perform(seen, new Act.HandToPerson(Optional.of(imani().id())), odile());
        RunningApp.reach(imani(), new Reach.Teams(Set.of()));
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
    }

    @AfterEach
    void everything() {
        RunningApp.reach(imani(), new Reach.Everything());
    }

    private static TreeSet<String> paths(RequestMethod method) {
        var paths = new TreeSet<String>();
        bean(RequestMappingHandlerMapping.class).getHandlerMethods().forEach((mapping, handler) -> {
            if (handler.getBeanType().getName().startsWith("rafter.")
                    && mapping.getMethodsCondition().getMethods().contains(method)) {
                paths.addAll(mapping.getPatternValues());
            }
        });
        paths.removeAll(Set.of("/live", "/error"));
        return paths;
    }

    @Test
    void no_page_names_what_is_beyond_reach() throws Exception {
        for (String path : paths(RequestMethod.GET)) {
            if (!path.contains("{")) {
                assertThat(get(path).body()).as(path).doesNotContain(word, "/tickets/" + hidden + "\"");
            }
        }
        for (String shape : List.of("cards", "lines", "grid", "lanes", "clock")) {
            for (String view : List.of("open", "unowned", "closed", "my-turn")) {
                assertThat(get("/worklist?view=" + view + "&shape=" + shape).body())
                        .as(view + " as " + shape)
                        .doesNotContain(word, "/tickets/" + hidden + "\"");
            }
        }
    }

    @Test
    void the_words_of_it_are_not_found_nor_its_number() throws Exception {
        for (String asked : List.of(word, hidden.toString(), "leaks")) {
            assertThat(get("/search?q=" + asked).body()).doesNotContain("/tickets/" + hidden + "\"");
            assertThat(get("/search/quick?q=" + asked).body()).doesNotContain("/tickets/" + hidden + "\"");
        }
        assertThat(get("/search?q=" + seen).body()).contains("/tickets/" + seen);
    }

    @Test
    void every_address_under_it_says_that_there_is_none() throws Exception {
        var asked = new ArrayList<String>();
        for (String path : paths(RequestMethod.GET)) {
            if (path.startsWith("/tickets/{number}")) {
                String there = path.replace("{number}", hidden.toString()).replaceAll("\\{[^}]*}", "state");
                asked.add(path);
                HttpResponse<String> answer = get(there);
                assertThat(answer.statusCode()).as(there).isBetween(400, 404);
                assertThat(answer.body()).as(there).doesNotContain(word);
            }
        }
        assertThat(asked).hasSizeGreaterThan(4);
        assertThat(get("/tickets/" + seen).statusCode()).isEqualTo(200);
        assertThat(get("/tickets/" + hidden).statusCode()).isEqualTo(404);
    }

    @Test
    void nothing_can_be_done_to_it() throws Exception {
        String token = token(get("/worklist"));
        int before = sql().fetchCount(Tables.TICKET_EVENT, Tables.TICKET_EVENT.TICKET.eq(hidden));
        for (String path : paths(RequestMethod.POST)) {
            if (path.startsWith("/tickets/{number}")) {
                String there = path.replace("{number}", hidden.toString()).replaceAll("\\{[^}]*}", "1");
                HttpResponse<String> answer = post(
                        there,
                        token,
                        "text",
                        "x",
                        "html",
                        "x",
                        "state",
                        "resolved",
                        "priority",
                        "P1",
                        "topic",
                        "x",
                        "owner",
                        "",
                        "why",
                        "x",
                        "at",
                        "2027-05-01T10:00",
                        "due",
                        "2027-05-01T10:00",
                        "then",
                        "OURS",
                        "from",
                        seen.toString(),
                        "seen",
                        "1",
                        "kind",
                        "NOTE",
                        "base",
                        "0",
                        "team",
                        "1");
                assertThat(answer.body()).as(there).doesNotContain(word);
            }
        }
        assertThat(sql().fetchCount(Tables.TICKET_EVENT, Tables.TICKET_EVENT.TICKET.eq(hidden)))
                .isEqualTo(before);
        assertThat(sql().fetchCount(Tables.DRAFT, Tables.DRAFT.TICKET.eq(hidden)))
                .isZero();
        assertThatThrownBy(() -> bean(Acts.class).perform(hidden, new Act.SetPriority(Priority.P1), imani()))
                .isInstanceOf(Problem.NotFound.class);
        assertThatThrownBy(() -> bean(Acts.class).perform(seen, new Act.Join(hidden), imani()))
                .isInstanceOf(Problem.NotFound.class);
    }

    @Test
    void a_batch_passes_it_by() throws Exception {
        post(
                "/batches",
                token(get("/worklist")),
                "list",
                "view=open",
                "numbers",
                hidden + "," + seen,
                "act",
                "priority",
                "priority",
                "P1");
        List<TicketNumber> items = sql().select(Tables.BATCH_ITEM.TICKET)
                .from(Tables.BATCH_ITEM)
                .where(Tables.BATCH_ITEM.TICKET.in(hidden, seen))
                .fetch(Tables.BATCH_ITEM.TICKET);
        assertThat(items).containsExactly(seen);
    }

    @Test
    void neither_its_files_nor_its_original_mails_are_given_out() throws Exception {
        for (TicketNumber ticket : List.of(hidden, seen)) {
            MessageId message = sql().select(Tables.MESSAGE.ID)
                    .from(Tables.MESSAGE)
                    .where(Tables.MESSAGE.TICKET.eq(ticket))
                    .and(Tables.MESSAGE.INBOUND_ID.isNotNull())
                    .fetchSingle(Tables.MESSAGE.ID);
            long file = sql().select(Tables.ATTACHMENT.ID)
                    .from(Tables.ATTACHMENT)
                    .where(Tables.ATTACHMENT.MESSAGE_ID.eq(message))
                    .fetchSingle(Tables.ATTACHMENT.ID);
            int expected = ticket.equals(seen) ? 200 : 404;
            assertThat(get("/messages/" + message + "/raw").statusCode()).isEqualTo(expected);
            assertThat(get("/files/" + file).statusCode()).isEqualTo(expected);
        }
    }

    @Test
    void an_open_page_is_told_of_what_it_may_see_alone() throws IOException, InterruptedException {
        HttpResponse<java.io.InputStream> live = browser.send(
                HttpRequest.newBuilder(uri("/live"))
                        .header("Accept", "text/event-stream")
                        .build(),
                HttpResponse.BodyHandlers.ofInputStream());
        try (var lines = new BufferedReader(new InputStreamReader(live.body(), StandardCharsets.UTF_8))) {
            bean(LiveNews.class).ticketChanged(hidden);
            bean(LiveNews.class).writing(hidden);
            bean(LiveNews.class).noticed(odile().id());
            // In their order, so that what comes before this was to come, and what did not will not.
            bean(LiveNews.class).ticketChanged(seen);
            var told = new ArrayList<String>();
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                told.add(line);
                if (line.equals("data:" + seen)) {
                    break;
                }
            }
            assertThat(told).contains("data:" + seen).doesNotContain("data:" + hidden, "event:writing", "event:notice");
        }
    }
}

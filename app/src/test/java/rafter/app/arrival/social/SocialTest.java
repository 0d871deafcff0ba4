package rafter.app.arrival.social;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.ERRAND;
import static rafter.database.Tables.KEPT_SEARCH;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.NOISE;
import static rafter.database.Tables.POST;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TOLD;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.Errands;
import rafter.app.arrival.providers.FarSide;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.arrival.providers.Provider;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Ways;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Posts as a network tells of them, by the contract, with whatever can go wrong on the way. */
@ExtendWith(RunningApp.class)
class SocialTest extends Browsing {

    private final Posts posts = bean(Posts.class);
    private final SocialDesk desk = bean(SocialDesk.class);
    private final SocialRules rules = bean(SocialRules.class);
    private final Errands errands = bean(Errands.class);
    private final Tickets tickets = bean(Tickets.class);
    private final Acts acts = bean(Acts.class);
    private final int mark = unique();
    private FarSide network;
    private OurLine account;
    private Instant from;

    @BeforeEach
    void a_network_with_an_account() throws IOException {
        from = RunningApp.MONDAY.plus(Duration.ofDays(20)).plus(Duration.ofMinutes(mark));
        clock().set(from.plusSeconds(600));
        sql().update(KEPT_SEARCH).set(KEPT_SEARCH.REMOVED_AT, from).execute();
        sql().update(NOISE).set(NOISE.REMOVED_AT, from).execute();
        sql().update(POST).set(POST.WRITTEN_AT, RunningApp.MONDAY).execute();
        network = new FarSide(Provider.Kind.SOCIAL, uri("/"));
        account = network.line("@ferries" + mark, Set.of(Wish.PRIVATE), Duration.ZERO, Optional.empty());
    }

    @AfterEach
    void as_it_was() {
        sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CHANNEL.in("post", "private-message"))
                .and(TICKET.OPEN)
                .and(TICKET.JOINED_INTO.isNull())
                .and(TICKET.DISCARDED.isFalse())
                .fetch(TICKET.NUMBER)
                .forEach(one -> acts.perform(one, new Act.MoveTo(TicketState.CLOSED.key()), ravi()));
        sql().update(ERRAND).set(ERRAND.STATE, "SENT").execute();
        network.close();
    }

    // ------------------------------------------------------------------ what a network tells

    private Map<String, Object> written(String post, String handle, String text, Object... more) {
        var all = new ArrayList<Object>(List.of("handle", handle, "name", "Marit Sand", "text", text));
        all.addAll(List.of(more));
        return event(post + "-written", post, from, "written", all.toArray());
    }

    private Map<String, Object> mention(String post) {
        return written(post, "@marit" + mark, "@ferries" + mark + " the crossing is late again");
    }

    private String id(String name) {
        return name + "-" + mark;
    }

    private Posts.Post post(String name) {
        return posts.find(network.provider().id(), name).orElseThrow();
    }

    private Ticket ticket(String name) {
        return tickets.find(post(name).ticket().orElseThrow(), ravi()).orElseThrow();
    }

    private String entry(String name) {
        return sql().select(MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.ID.eq(post(name).entry().orElseThrow()))
                .fetchSingle(MESSAGE.TEXT);
    }

    private void wish(Wish... wishes) {
        bean(rafter.app.arrival.providers.OurLines.class)
                .save(
                        new OurLine(
                                account.id(),
                                account.provider(),
                                account.address(),
                                account.name(),
                                Optional.empty(),
                                Set.of(wishes),
                                Duration.ZERO,
                                account.version()),
                        ravi().id());
    }

    // ------------------------------------------------------------------ what is kept

    @Test
    void what_names_us_is_kept_to_be_looked_at_and_what_does_not_concern_us_is_not() throws Exception {
        network.tell(List.of(
                mention(id("a")),
                written(id("b"), "@jon", "A fine day"),
                written(id("c"), "@jon", "@ferries" + mark + "fan says hello"),
                written(id("d"), "@jon", "mail me at jon@ferries" + mark)));
        assertThat(post(id("a")).kind()).isEqualTo(Posts.Kind.MENTION);
        assertThat(post(id("a")).state()).isEqualTo(Posts.State.NEW);
        assertThat(post(id("a")).signs()).contains("late");
        assertThat(Stream.of("b", "c", "d")
                        .map(this::id)
                        .map(one -> posts.find(network.provider().id(), one)))
                .allMatch(Optional::isEmpty);
    }

    @Test
    void a_kept_search_finds_what_does_not_address_us_and_opens_tickets_where_it_says_so() throws Exception {
        rules.save(0, "Vessel " + mark, "\"kestrel " + mark + "\"", false, ravi().id());
        rules.save(0, "Danger " + mark, "fire" + mark, true, ravi().id());
        network.tell(List.of(
                written(id("a"), "@jon" + mark, "Aboard the Kestrel " + mark + " tonight"),
                written(id("b"), "@jon" + mark, "fire" + mark + " on deck")));
        assertThat(post(id("a")).kind()).isEqualTo(Posts.Kind.FOUND);
        assertThat(post(id("a")).ticket()).isEmpty();
        assertThat(ticket(id("b")).open()).isTrue();
        assertThat(rules.lookForSearches())
                .extracting(SocialRules.Search::found)
                .containsExactly(1, 1);
    }

    @Test
    void a_private_message_is_a_ticket_by_rule_and_the_next_one_joins_it() throws Exception {
        network.tell(List.of(written(
                id("a"), "@marit" + mark, "Where is my booking?", "private", true, "account", account.address())));
        network.tell(
                List.of(written(id("b"), "@marit" + mark, "TP-20312", "private", true, "account", account.address())));
        assertThat(post(id("b")).ticket()).isEqualTo(post(id("a")).ticket());
        assertThat(ticket(id("a")).channel()).isEqualTo("private-message");
        assertThat(ticket(id("a")).turn()).isEqualTo(Turn.OURS);
    }

    @Test
    void of_public_posts_only_the_annoyed_ones_where_the_account_says_so() throws Exception {
        wish(Wish.MENTION, Wish.ANNOYED);
        network.tell(List.of(
                written(id("a"), "@marit" + mark, "@ferries" + mark + " this is terrible and awful"),
                written(id("b"), "@jon" + mark, "@ferries" + mark + " when do you sail?")));
        assertThat(post(id("a")).ticket()).isPresent();
        assertThat(post(id("b")).ticket()).isEmpty();
    }

    static Stream<Integer> seeds() {
        return IntStream.range(0, 10).boxed();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void in_whichever_order_and_however_often_it_is_told_each_post_is_one(int seed) throws Exception {
        wish(Wish.REPLY);
        var random = new Random(seed);
        var ours = written(id("o"), account.address(), "The timetable is out");
        var reply = written(id("r"), "@marit" + mark, "Too late for me", "answers", id("o"));
        var edited = event(id("r") + "-e", id("r"), from.plusSeconds(60), "edited", "text", "Far too late for me");
        var liked = event(id("r") + "-l", id("r"), from.plusSeconds(70), "liked", "people", 3);
        var events = new ArrayList<>(List.of(ours, reply, edited, liked, ours, reply, edited, liked));
        Collections.shuffle(events, random);
        while (!events.isEmpty()) {
            int many = 1 + random.nextInt(events.size());
            network.tell(List.copyOf(events.subList(0, many)));
            events.subList(0, many).clear();
        }
        assertThat(post(id("r")).kind()).isEqualTo(Posts.Kind.REPLY);
        assertThat(post(id("r")).text()).isEqualTo("Far too late for me");
        assertThat(post(id("r")).likes()).isEqualTo(3);
        assertThat(ticket(id("r")).messages()).isEqualTo(1);
        assertThat(entry(id("r"))).isEqualTo("Far too late for me");
    }

    // ------------------------------------------------------------------ later

    @Test
    void an_edit_shows_on_its_ticket_with_what_it_said_before() throws Exception {
        network.tell(List.of(mention(id("a"))));
        desk.makeTicket(post(id("a")).id(), imani());
        network.tell(List.of(event(id("a") + "-e", id("a"), from.plusSeconds(60), "edited", "text", "All is well")));
        assertThat(entry(id("a"))).isEqualTo("All is well");
        assertThat(sql().select(MESSAGE.REMARK)
                        .from(MESSAGE)
                        .where(MESSAGE.ID.eq(post(id("a")).entry().orElseThrow()))
                        .fetchSingle(MESSAGE.REMARK))
                .contains("the crossing is late again");
    }

    @Test
    void of_a_deleted_post_only_that_it_was_deleted_stays_anywhere() throws Exception {
        network.tell(List.of(mention(id("a"))));
        desk.makeTicket(post(id("a")).id(), imani());
        network.tell(List.of(event(id("a") + "-d", id("a"), from.plusSeconds(60), "deleted")));
        assertThat(post(id("a")).text()).isEmpty();
        assertThat(entry(id("a"))).isEqualTo("This was deleted by whoever wrote it.");
        assertThat(ticket(id("a")).subject()).isEqualTo("Post of Marit Sand (@marit" + mark + ")");
        assertThat(sql().select(TOLD.BODY)
                        .from(TOLD)
                        .where(TOLD.SUBJECT.eq(id("a")))
                        .fetch(TOLD.BODY))
                .noneMatch(body -> body.contains("crossing"));
        network.tell(List.of(event(id("a") + "-l", id("a"), from.plusSeconds(70), "liked", "people", 9)));
        assertThat(post(id("a")).text()).isEmpty();
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/social?state=all&at=" + post(id("a")).id()).body()).contains("Deleted by whoever wrote it");
    }

    @Test
    void where_the_workspace_says_so_the_text_of_a_deleted_post_stays() throws Exception {
        rules.save(new SocialRules.Rules(true, 4, 180), rules.version(), ravi().id());
        try {
            network.tell(List.of(mention(id("a"))));
            network.tell(List.of(event(id("a") + "-d", id("a"), from.plusSeconds(60), "deleted")));
            assertThat(post(id("a")).text()).contains("the crossing is late");
            assertThat(post(id("a")).deletedAt()).isPresent();
        } finally {
            rules.save(new SocialRules.Rules(false, 4, 180), rules.version(), ravi().id());
        }
    }

    @Test
    void nobody_becomes_somebody_else_by_what_they_call_themselves() throws Exception {
        network.tell(List.of(
                written(id("a"), "@one" + mark, "@ferries" + mark + " hello"),
                written(id("b"), "@two" + mark, "@ferries" + mark + " hello")));
        int before = sql().fetchCount(CONTACT);
        desk.makeTicket(post(id("a")).id(), imani());
        desk.makeTicket(post(id("b")).id(), imani());
        assertThat(sql().fetchCount(CONTACT)).isEqualTo(before + 2);
        assertThat(ticket(id("a")).contact()).isNotEqualTo(ticket(id("b")).contact());
    }

    @Test
    void a_name_on_a_network_is_joined_with_a_mail_contact_by_hand_and_parted_again() throws Exception {
        Contact mail = bean(TransactionTemplate.class)
                .execute(status -> bean(Contacts.class)
                        .recognise("marit" + mark + "@seamail.example", "Marit Sand", clock().instant()));
        network.tell(List.of(mention(id("a"))));
        desk.makeTicket(post(id("a")).id(), imani());
        assertThat(ticket(id("a")).contact()).isNotEqualTo(mail.id());
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/contacts/" + mail.id() + "/join?with=nobody@nowhere.example")
                        .body())
                .contains("Nobody else is known by");
        var preview = get("/contacts/" + mail.id() + "/join?with=@marit" + mark);
        assertThat(preview.uri().getPath())
                .isEqualTo("/contacts/" + mail.id() + "/join/" + ticket(id("a")).contact());
        String undo = post(preview.uri().getPath(), token(preview)).body();
        assertThat(ticket(id("a")).contact()).isEqualTo(mail.id());
        assertThat(get("/contacts/" + mail.id()).body()).contains("@marit" + mark);
        network.tell(List.of(written(id("b"), "@marit" + mark, "@ferries" + mark + " another matter")));
        desk.makeTicket(post(id("b")).id(), imani());
        assertThat(ticket(id("b")).contact()).isEqualTo(mail.id());
        String raw = "From: marit" + mark + "@seamail.example\r\nTo: "
                + RunningApp.help().address() + "\r\nSubject: By mail\r\nMessage-ID: <w" + mark
                + "@seamail.example>\r\n\r\nHello\r\n";
        TicketNumber mailed = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        assertThat(bean(Ways.class).of(mailed, tickets.find(mailed, ravi()).orElseThrow()))
                .as("privately where they are known, and not publicly where they wrote nothing")
                .extracting(Ways.Choice::key)
                .contains("email", "private-message")
                .doesNotContain("post");
        acts.perform(mailed, new Act.MoveTo(TicketState.CLOSED.key()), ravi());
        var action =
                java.util.regex.Pattern.compile("/contacts/joins/\\d+/undo").matcher(undo);
        assertThat(action.find()).isTrue();
        post(action.group(), token(get("/social")));
        assertThat(ticket(id("a")).contact()).isNotEqualTo(mail.id());
    }

    // ------------------------------------------------------------------ what people do

    @Test
    void noise_of_a_sender_and_of_a_wording_is_set_aside_next_time_and_can_be_taken_back() throws Exception {
        String win = "@ferries" + mark + " win a cruise today with the harbour lottery " + mark;
        network.tell(List.of(
                written(id("a"), "@loud" + mark, "@ferries" + mark + " buy"), written(id("b"), "@shill" + mark, win)));
        long sender = desk.noise(post(id("a")).id(), true, imani());
        desk.noise(post(id("b")).id(), false, imani());
        assertThatThrownBy(() -> desk.noise(post(id("a")).id(), false, imani())).isInstanceOf(Problem.Invalid.class);
        network.tell(List.of(
                written(id("c"), "@loud" + mark, "@ferries" + mark + " buy more things"),
                written(id("d"), "@other" + mark, win.toUpperCase(java.util.Locale.ROOT) + "!!")));
        assertThat(post(id("c")).state()).isEqualTo(Posts.State.ASIDE);
        assertThat(post(id("d")).state()).isEqualTo(Posts.State.ASIDE);
        assertThat(rules.lookForMarks()).extracting(SocialRules.Mark::aside).containsExactly(1, 1);
        desk.again(post(id("c")).id(), Optional.of(sender), imani());
        assertThat(post(id("c")).state()).isEqualTo(Posts.State.NEW);
        network.tell(List.of(written(id("e"), "@loud" + mark, "@ferries" + mark + " sorry")));
        assertThat(post(id("e")).state()).isEqualTo(Posts.State.NEW);
    }

    private SocialDesk.Answer answer(String text, boolean publicly) {
        return new SocialDesk.Answer(text, publicly, 0, Turn.CUSTOMER);
    }

    @Test
    void an_answer_goes_where_it_was_written_publicly_or_privately_and_is_tried_again_while_the_network_is_down()
            throws Exception {
        network.tell(List.of(mention(id("a"))));
        network.answers(503);
        TicketNumber number = desk.answer(post(id("a")).id(), answer("We are sorry.", true), imani());
        assertThat(errands.doOne()).isTrue();
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body()).contains("waiting, next try");
        assertThat(errands.doOne()).as("it waits a moment first").isFalse();
        network.answers(200);
        network.asked();
        clock().tick(Duration.ofSeconds(3));
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked()).singleElement().satisfies(asked -> {
            assertThat(asked.path()).isEqualTo("/posts");
            assertThat(asked.body()).contains("\"private\":false", "\"answers\":\"" + id("a") + "\"", "We are sorry.");
        });
        assertThat(get("/tickets/" + number).body()).contains("sent ");
        desk.answer(post(id("a")).id(), answer("Write us your number.", false), imani());
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked().getFirst().body()).contains("\"private\":true", "\"to\":\"@marit" + mark + "\"");
        assertThat(ticket(id("a")).channel()).isEqualTo("private-message");
        assertThat(bean(Ways.class).of(number, ticket(id("a"))))
                .extracting(Ways.Choice::key)
                .contains("post", "private-message");
    }

    @Test
    void our_own_post_is_known_as_the_answer_that_it_is_and_is_not_shown_twice() throws Exception {
        network.tell(List.of(mention(id("a"))));
        TicketNumber number = desk.answer(post(id("a")).id(), answer("We are sorry.", true), imani());
        assertThat(errands.doOne()).isTrue();
        String key = sql().select(ERRAND.KEY)
                .from(ERRAND)
                .where(ERRAND.TICKET.eq(number))
                .fetchSingle(ERRAND.KEY);
        network.tell(List.of(written(id("o"), account.address(), "We are sorry.", "answers", id("a"), "key", key)));
        assertThat(post(id("o")).kind()).isEqualTo(Posts.Kind.OURS);
        assertThat(post(id("o")).ticket()).contains(number);
        assertThat(ticket(id("a")).messages()).isEqualTo(2);
        assertThat(ticket(id("a")).turn()).as("we wrote").isEqualTo(Turn.CUSTOMER);
        desk.takeAway(post(id("o")).id(), imani());
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked()).last().extracting(FarSide.Asked::verb).isEqualTo("DELETE");
        network.tell(List.of(written(id("r"), "@marit" + mark, "Thanks", "answers", id("o"))));
        assertThat(post(id("r")).ticket())
                .as("the same thread goes on in its ticket")
                .contains(number);
        assertThat(ticket(id("a")).turn()).as("they wrote").isEqualTo(Turn.OURS);
        desk.hide(post(id("r")).id(), true, imani());
        assertThat(post(id("r")).hiddenAt()).isPresent();
    }

    @Test
    void whatever_stands_in_an_id_of_theirs_the_network_is_told_about_that_post() throws Exception {
        String odd = "at://x/ü 1?#" + mark;
        network.tell(List.of(written(odd, account.address(), "Ours")));
        desk.takeAway(post(odd).id(), imani());
        network.asked();
        assertThat(errands.doOne()).isTrue();
        assertThat(network.asked())
                .singleElement()
                .extracting(FarSide.Asked::path)
                .isEqualTo("/posts/" + odd);
    }

    @Test
    void too_long_an_answer_says_so_and_makes_no_ticket() throws Exception {
        network.tell(List.of(mention(id("a"))));
        assertThatThrownBy(() -> desk.answer(post(id("a")).id(), answer("x".repeat(301), true), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThat(post(id("a")).ticket()).isEmpty();
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String token = token(get("/social"));
        assertThat(post("/social/" + post(id("a")).id() + "/answer", token, "text", "y".repeat(301))
                        .body())
                .contains("y".repeat(301))
                .contains("300");
    }

    @Test
    void markup_in_a_post_stays_text_everywhere() throws Exception {
        String evil = "@ferries" + mark + " <img src=x onerror=alert(1)><script>alert(2)</script>";
        network.tell(List.of(written(id("a"), "@evil" + mark, evil)));
        TicketNumber number = desk.makeTicket(post(id("a")).id(), imani());
        signIn(imani().person().address(), RunningApp.PASSWORD);
        for (String page : List.of(
                "/social?state=ticket", "/social?state=all&at=" + post(id("a")).id(), "/tickets/" + number)) {
            assertThat(get(page).body()).doesNotContain("<img src=x").doesNotContain("<script>alert");
        }
    }

    // ------------------------------------------------------------------ waves

    @Test
    void many_posts_on_one_matter_are_one_wave_and_are_answered_together() throws Exception {
        for (int i = 0; i < 5; i++) {
            network.tell(List.of(written(
                    id("w" + i),
                    "@crowd" + i + "x" + mark,
                    "@ferries" + mark + " the evening crossing to Skelby is cancelled, word " + i)));
        }
        Waves waves = bean(Waves.class);
        clock().tick(Duration.ofSeconds(10));
        Thread.sleep(3100);
        Waves.Seen wave = waves.of(post(id("w2")).id()).orElseThrow();
        assertThat(wave.count()).isEqualTo(5);
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/social/waves/" + wave.first()).body()).contains("5 posts");
        List<Long> all = wave.posts().stream().map(Posts.Post::id).toList();
        Waves.Answered answered =
                waves.answer(all, new SocialDesk.Answer("Next crossing at seven.", true, 0, Turn.NOBODY), imani());
        assertThat(answered.tickets()).hasSize(5);
        assertThat(answered.reasons()).isEmpty();
        assertThat(tickets.find(answered.tickets().getLast(), ravi())
                        .orElseThrow()
                        .work()
                        .parent())
                .contains(answered.tickets().getFirst());
        assertThatThrownBy(() -> waves.answer(List.of(), answer("x", true), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void the_list_finds_by_every_filter() throws Exception {
        rules.save(0, "Vessel " + mark, "\"kestrel " + mark + "\"", false, ravi().id());
        network.tell(List.of(
                written(id("a"), "@marit" + mark, "@ferries" + mark + " terrible awful crossing"),
                written(id("b"), "@jon" + mark, "The kestrel " + mark + " is lovely and wonderful")));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/social?state=new&kind=mention&words=awful").body())
                .contains("terrible awful")
                .doesNotContain("lovely");
        assertThat(get("/social?mood=good&words=kestrel+" + mark).body()).contains("lovely");
        assertThat(get("/social?mood=bad&words=kestrel+" + mark).body()).doesNotContain("lovely and");
        long search = rules.searches().getFirst().id();
        assertThat(get("/social?state=all&search=" + search).body())
                .contains("lovely")
                .doesNotContain("terrible awful");
        assertThat(get("/social?state=archived").statusCode()).isEqualTo(200);
        assertThat(get("/social?state=%3Cscript%3E&kind=x&mood=y&search=z&words=%25&at=999999999")
                        .statusCode())
                .isEqualTo(404);
    }
}

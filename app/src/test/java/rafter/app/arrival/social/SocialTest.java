package rafter.app.arrival.social;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TOLD;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.RunningApp;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Ways;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Posts as a network tells of them, in whichever order, and what became of them later. */
class SocialTest extends SocialAtWork {

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

    static Stream<Integer> seeds() {
        return IntStream.range(0, 10).boxed();
    }

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
        assertThat(bean(Ways.class)
                        .of(
                                mailed,
                                tickets.find(mailed, ravi()).orElseThrow(),
                                List.of("marit" + mark + "@seamail.example"),
                                bean(Traces.class).of(mailed)))
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
}

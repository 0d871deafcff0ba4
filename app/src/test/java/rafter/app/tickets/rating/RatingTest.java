package rafter.app.tickets.rating;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.RATING_REQUEST;
import static rafter.database.Tables.TICKET;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;

/** Customers are asked once, late enough and not too often; who has the link can rate once, and nobody else. */
@ExtendWith(RunningApp.class)
class RatingTest extends Browsing {

    private static final Pattern LINK = Pattern.compile("/rate/([0-9a-f]+)\\?rating=good");

    private final RatingRules rules = bean(RatingRules.class);
    private final RatingRequests requests = bean(RatingRequests.class);
    private final Ratings ratings = bean(Ratings.class);
    private final int nth = unique();
    private final String customer = "ada" + nth + "@rated" + nth + ".example";

    @BeforeEach
    void asks() {
        change(24, 30);
    }

    private void change(int hours, int days) {
        RatingRules.Rule was = rules.current();
        rules.change(
                new RatingRules.Rule(was.version(), true, Duration.ofHours(hours), Duration.ofDays(days)),
                RunningApp.ravi());
    }

    private TicketNumber mailed(String subject) {
        String raw = "From: Ada <" + customer + ">\nMessage-ID: <r" + unique() + "@post.example>\nSubject: " + subject
                + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private TicketNumber resolved(String subject) {
        TicketNumber number = mailed(subject);
        int seen = ticket(number).lastPublicSeq();
        bean(Answering.class)
                .answer(
                        number,
                        new Answering.Answer("<p>It is done.</p>", "", Optional.empty(), Turn.NOBODY, seen),
                        imani());
        return number;
    }

    private static Ticket ticket(TicketNumber number) {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    private void ask() {
        requests.ask(RunningApp.clock().instant(), 1000);
    }

    private Optional<String> token(TicketNumber number) {
        return sql()
                .select(MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("AUTOMATIC"))
                .fetch(MESSAGE.TEXT)
                .stream()
                .map(LINK::matcher)
                .filter(Matcher::find)
                .map(found -> found.group(1))
                .findFirst();
    }

    private String asked(String subject) {
        TicketNumber number = resolved(subject);
        RunningApp.clock().tick(Duration.ofHours(25));
        ask();
        return token(number).orElseThrow();
    }

    @Test
    void a_customer_is_asked_when_the_time_has_gone_by_and_not_before_and_never_twice() {
        TicketNumber number = resolved("Asked " + nth);
        RunningApp.clock().tick(Duration.ofHours(23));
        ask();
        assertThat(token(number)).isEmpty();
        RunningApp.clock().tick(Duration.ofHours(2));
        ask();
        assertThat(token(number)).isPresent();
        int messages = ticket(number).messages();
        RunningApp.clock().tick(Duration.ofHours(1));
        ask();
        assertThat(ticket(number).messages()).isEqualTo(messages);
        assertThat(ticket(number).open()).isFalse();
    }

    @Test
    void one_whose_ticket_was_taken_up_again_is_asked_once_it_is_resolved_anew() {
        TicketNumber number = resolved("Again " + nth);
        RunningApp.clock().tick(Duration.ofHours(20));
        bean(Acts.class).perform(number, new Act.MoveTo("in-hand"), imani());
        RunningApp.clock().tick(Duration.ofHours(10));
        ask();
        assertThat(token(number)).isEmpty();
        bean(Acts.class).perform(number, new Act.MoveTo("resolved"), imani());
        RunningApp.clock().tick(Duration.ofHours(25));
        ask();
        assertThat(token(number)).isPresent();
    }

    @Test
    void a_customer_is_left_alone_for_the_days_that_were_set_and_the_ticket_says_why() {
        asked("First " + nth);
        TicketNumber second = resolved("Second " + nth);
        RunningApp.clock().tick(Duration.ofHours(25));
        ask();
        assertThat(token(second)).isEmpty();
        assertThat(ratings.notAsked(second)).containsExactly("they were asked of late");
        assertThat(bean(Traces.class).of(second).may(OwnTrace.NOT_ASKED)).isTrue();
        RunningApp.clock().tick(Duration.ofDays(31));
        TicketNumber third = resolved("Third " + nth);
        RunningApp.clock().tick(Duration.ofHours(25));
        ask();
        assertThat(token(third)).isPresent();
    }

    @Test
    void nobody_is_asked_whom_nobody_answered_nor_about_what_was_resolved_before_it_was_switched_on() {
        TicketNumber unanswered = mailed("Unanswered " + nth);
        bean(Acts.class).perform(unanswered, new Act.MoveTo("resolved"), imani());
        RatingRules.Rule was = rules.current();
        rules.change(new RatingRules.Rule(was.version(), false, was.after(), was.rest()), RunningApp.ravi());
        TicketNumber before = resolved("Before " + nth);
        RunningApp.clock().tick(Duration.ofHours(1));
        change(24, 30);
        RunningApp.clock().tick(Duration.ofHours(30));
        ask();
        assertThat(token(unanswered)).isEmpty();
        assertThat(token(before)).isEmpty();
    }

    @Test
    void a_rating_stands_on_the_ticket_its_owner_is_told_and_the_link_is_good_for_once() {
        String token = asked("Once " + nth);
        TicketNumber number = ratings.asked(token).number();
        ratings.rate(token, Work.Rating.POOR, "Took <b>days</b>");
        assertThat(ticket(number).work().rated().orElseThrow().comment()).isEqualTo("Took <b>days</b>");
        assertThat(sql().fetchValue(TICKET.RATING, TICKET.NUMBER.eq(number))).isEqualTo("POOR");
        assertThat(bean(Notices.class).of(imani(), Optional.empty(), 20))
                .anyMatch(n -> n.ticket().equals(number) && n.words().contains("as poor"));
        assertThatThrownBy(() -> ratings.rate(token, Work.Rating.GOOD, "")).isInstanceOf(Problem.Stale.class);
        assertThat(ticket(number).work().rated().orElseThrow().rating()).isEqualTo(Work.Rating.POOR);
    }

    @Test
    void of_two_who_press_at_once_one_is_too_late() throws Exception {
        String token = asked("Race " + nth);
        var together = new CountDownLatch(1);
        try (var pool = Executors.newFixedThreadPool(2)) {
            List<Future<Boolean>> both = List.of(Work.Rating.GOOD, Work.Rating.POOR).stream()
                    .map(rating -> pool.submit(() -> {
                        together.await();
                        try {
                            ratings.rate(token, rating, "");
                            return true;
                        } catch (Problem.Stale late) {
                            return false;
                        }
                    }))
                    .toList();
            together.countDown();
            assertThat(List.of(both.get(0).get(), both.get(1).get())).containsExactlyInAnyOrder(true, false);
        }
    }

    @Test
    void a_link_that_we_did_not_send_rates_nothing() {
        String token = asked("Forged " + nth);
        String forged = token.substring(1) + (token.charAt(0) == 'a' ? 'b' : 'a');
        assertThatThrownBy(() -> ratings.rate(forged, Work.Rating.GOOD, "")).isInstanceOf(Problem.NotFound.class);
        byte[] kept = sql().select(RATING_REQUEST.TOKEN)
                .from(RATING_REQUEST)
                .where(RATING_REQUEST.TICKET.eq(ratings.asked(token).number()))
                .fetchSingle(RATING_REQUEST.TOKEN);
        assertThat(new String(kept, StandardCharsets.ISO_8859_1)).doesNotContain(token);
    }

    @Test
    void the_page_needs_no_password_says_what_is_wrong_and_keeps_what_was_typed() throws Exception {
        String token = asked("Page " + nth);
        assertThat(get("/rate/" + token + "?rating=fair").body())
                .contains("Page " + nth)
                .contains("value=\"FAIR\"")
                .contains("checked");
        assertThat(ticket(ratings.asked(token).number()).work().rated()).isEmpty();
        HttpResponse<String> nothing = post("/rate/" + token, "", "comment", "Kept words");
        assertThat(nothing.statusCode()).isEqualTo(422);
        assertThat(nothing.body()).contains("Choose one of the three").contains("Kept words");
        assertThat(post("/rate/" + token, "", "rating", "GOOD", "comment", "Fine")
                        .body())
                .contains("Thank you");
        HttpResponse<String> twice = post("/rate/" + token, "", "rating", "POOR");
        assertThat(twice.statusCode()).isEqualTo(409);
        assertThat(twice.body()).contains("You have rated this already");
        assertThat(get("/rate/0000").statusCode()).isEqualTo(404);
    }

    @Test
    void only_who_may_change_house_rules_changes_this_one_and_no_wait_is_longer_than_a_month() {
        RatingRules.Rule was = rules.current();
        assertThatThrownBy(() -> rules.change(was, imani())).isInstanceOf(Problem.NoRight.class);
        assertThatThrownBy(() -> rules.change(
                        new RatingRules.Rule(was.version(), true, Duration.ofHours(721), was.rest()),
                        RunningApp.ravi()))
                .hasMessageContaining("720 hours");
    }
}

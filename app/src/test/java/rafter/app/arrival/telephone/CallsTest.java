package rafter.app.arrival.telephone;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TOLD;

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
import rafter.app.RunningApp;
import rafter.app.arrival.providers.OurLine;
import rafter.app.house.people.Contact;
import rafter.app.house.people.KnownBy;
import rafter.core.telephone.Course;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;

/** Calls as an exchange tells of them, by the contract, with whatever can go wrong on the way. */
class CallsTest extends CallsAtWork {

    private final CallFiles files = bean(CallFiles.class);

    static Stream<Integer> seeds() {
        return IntStream.range(0, 12).boxed();
    }

    @Test
    void a_call_is_a_ticket_of_who_has_its_number_from_the_first_ring_on() throws Exception {
        Contact ingrid = contact("Ingrid " + unique(), number.replace("+44 ", "0"));
        exchange.tell(List.of(began()));
        assertThat(ticket().contact()).isEqualTo(ingrid.id());
        assertThat(ticket().subject()).isEqualTo("Call from " + ingrid.name());
        assertThat(ticket().channel()).isEqualTo("telephone");
        assertThat(ticket().turn()).isEqualTo(Turn.OURS);
        assertThat(ticket().owner()).isEmpty();
    }

    @Test
    void that_one_of_us_takes_it_is_a_reply_and_makes_the_ticket_theirs() throws Exception {
        exchange.tell(List.of(began(), taken(30)));
        assertThat(ticket().owner()).contains(imani().id());
        List<TicketEvent> events = tickets.events(List.of(call().ticket().orElseThrow()))
                .values()
                .iterator()
                .next();
        assertThat(events)
                .filteredOn(event -> event instanceof TicketEvent.WeWrote wrote && !wrote.automatic())
                .hasSize(1);
        exchange.tell(List.of(told("ended", 300)));
        assertThat(entries())
                .containsExactly(
                        "Called " + line.name() + " from " + number + ". Waited 0:30.",
                        "Waited 0:30. " + imani().name() + " spoke with them for 4:30.");
        assertThat(ticket().work().shownCalls()).hasSize(1);
        assertThat(ticket().work().shownCalls().getFirst().said().length()).isEqualTo(Duration.ofSeconds(270));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void in_whichever_order_and_however_often_it_is_told_it_is_one_call(int seed) throws Exception {
        var random = new Random(seed);
        var events = new ArrayList<>(answered());
        events.addAll(answered());
        Collections.shuffle(events, random);
        while (!events.isEmpty()) {
            int many = 1 + random.nextInt(events.size());
            exchange.tell(List.copyOf(events.subList(0, many)));
            events.subList(0, many).clear();
        }
        assertThat(call().outcome()).contains(Course.Outcome.ANSWERED);
        assertThat(call().waited()).isEqualTo(Duration.ofSeconds(30));
        assertThat(call().talked()).isEqualTo(Duration.ofSeconds(250));
        assertThat(call().held()).isEqualTo(Duration.ofSeconds(20));
        assertThat(entries()).hasSize(2);
        assertThat(entries().getLast()).endsWith("spoke with them for 4:10, on hold for 0:20.");
        assertThat(ticket().work().calls()).hasSize(1);
    }

    @Test
    void who_waits_and_gives_up_is_to_be_called_back() throws Exception {
        exchange.tell(List.of(began(), told("ended", 40)));
        assertThat(ticket().tags()).contains("call back");
        assertThat(ticket().open()).isTrue();
        assertThat(call().outcome()).contains(Course.Outcome.ABANDONED);
        assertThat(entries().getFirst()).endsWith("Waited 0:40, then gave up.");
    }

    @Test
    void what_rang_only_briefly_is_no_ticket_where_the_line_does_not_say_so() throws Exception {
        exchange.tell(List.of(began(), told("ended", 3)));
        assertThat(call().ticket()).isEmpty();
        assertThat(call().outcome()).contains(Course.Outcome.MISSED);
    }

    @Test
    void what_rang_briefly_and_was_a_ticket_meanwhile_goes_into_the_bin() throws Exception {
        exchange.tell(List.of(began()));
        exchange.tell(List.of(told("ended", 3)));
        assertThat(ticket().discarded()).isTrue();
    }

    @Test
    void of_a_hidden_number_nobody_is_known_and_of_a_number_that_two_have_neither_is_taken() throws Exception {
        contact("One " + unique(), number);
        contact("Other " + unique(), number);
        exchange.tell(List.of(began()));
        assertThat(ticket().subject()).isEqualTo("Call from " + number);
        assertThat(bean(KnownBy.class).ofNumber("")).isEmpty();
        assertThat(bean(KnownBy.class).ofNumber(number)).hasSize(2);
    }

    @Test
    void what_is_not_signed_as_we_sign_is_not_kept() throws Exception {
        String body = "{\"told\":[]}";
        assertThat(exchange.send(body, "another secret", clock().instant()).statusCode())
                .isEqualTo(401);
        assertThat(exchange.send(body, exchange.secret(), clock().instant().minusSeconds(301))
                        .statusCode())
                .isEqualTo(401);
        assertThat(exchange.send(body, exchange.secret(), clock().instant().plusSeconds(301))
                        .statusCode())
                .isEqualTo(401);
        assertThat(exchange.send(body, exchange.secret(), clock().instant().minusSeconds(290))
                        .statusCode())
                .isEqualTo(202);
    }

    @Test
    void who_forges_again_and_again_waits() throws Exception {
        sql().execute("delete from rate_limit");
        int refused = 0;
        for (int i = 0; i < 70; i++) {
            refused += exchange.send("{}", "another secret", clock().instant()).statusCode() == 429 ? 1 : 0;
        }
        assertThat(refused).isEqualTo(10);
        clock().tick(Duration.ofMinutes(2));
        String nothing = "{\"told\":[]}";
        assertThat(exchange.send(nothing, exchange.secret(), clock().instant()).statusCode())
                .isEqualTo(202);
        // The clock of the next test goes before this one's.
        sql().execute("delete from rate_limit");
    }

    @Test
    void what_cannot_be_read_at_all_is_refused_whole() throws Exception {
        for (String body : List.of(
                "",
                "nothing",
                "[]",
                "{\"told\":{}}",
                "{\"told\":[1]}",
                "{\"told\":[{\"id\":\"1\",\"subject\":\"" + call + "\",\"at\":\"yesterday\"}]}",
                "{\"told\":[{\"id\":1,\"subject\":\"" + call + "\",\"at\":\"2027-03-01T09:00:00Z\"}]}")) {
            assertThat(exchange.send(body, exchange.secret(), clock().instant()).statusCode())
                    .as(body)
                    .isEqualTo(400);
        }
        assertThat(sql().fetchCount(TOLD, TOLD.SUBJECT.eq(call))).isZero();
    }

    @Test
    void what_means_nothing_stands_aside_with_its_reason_and_keeps_nothing_else_from_being_read() throws Exception {
        exchange.tell(List.of(began(), told("sang", 5)));
        assertThat(sql().select(TOLD.REASON)
                        .from(TOLD)
                        .where(TOLD.SUBJECT.eq(call))
                        .and(TOLD.STATE.eq("FAILED"))
                        .fetch(TOLD.REASON))
                .containsExactly("nothing is known of “sang” of a call");
        assertThat(call().ticket()).isPresent();
    }

    @Test
    void markup_in_a_number_stays_text() throws Exception {
        String evil = "<script>alert(1)</script>";
        exchange.tell(List.of(event(call + "-1", call, at(0), "began", "number", evil, "line", line.address())));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String page = get("/calls/" + call().id()).body();
        assertThat(page).doesNotContain("<script>alert").contains("&lt;script&gt;alert");
        assertThat(get("/tickets/" + call().ticket().orElseThrow()).body()).doesNotContain("<script>alert(1)");
    }

    @Test
    void what_was_spoken_on_the_machine_comes_as_a_file_with_its_length_also_when_the_exchange_was_down()
            throws Exception {
        exchange.answers(503);
        exchange.tell(List.of(began(), told("spoken", 20, "seconds", 34, "file", "/files/v1"), told("ended", 54)));
        assertThat(files.fetchOne()).isTrue();
        assertThat(entries()).hasSize(1);
        exchange.answers(200);
        assertThat(files.fetchOne()).as("it waits a moment first").isFalse();
        clock().tick(Duration.ofSeconds(5));
        assertThat(files.fetchOne()).isTrue();
        assertThat(entries()).last().isEqualTo("Left a message of 0:34.");
        assertThat(sql().select(ATTACHMENT.NAME, ATTACHMENT.MEDIA_TYPE)
                        .from(ATTACHMENT)
                        .join(MESSAGE)
                        .on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID))
                        .where(MESSAGE.TICKET.eq(call().ticket().orElseThrow()))
                        .fetch(r -> r.value1() + " " + r.value2()))
                .containsExactly("message.wav audio/wav");
        exchange.tell(List.of(told("spoken", 20, "seconds", 34, "file", "/files/v1")));
        assertThat(files.fetchOne()).as("the same once").isFalse();
        assertThat(ticket().tags()).contains("call back");
    }

    @Test
    void a_call_is_recorded_only_where_the_line_says_so_and_the_notice_is_told() throws Exception {
        exchange.tell(List.of(
                began(), taken(10), told("noticed", 12), told("ended", 70), told("recorded", 71, "file", "/files/r1")));
        assertThat(files.fetchOne()).isTrue();
        assertThat(entries()).last().isEqualTo("The call was recorded, 1:00.");
        assertThat(call().noticedAt()).contains(at(12));
        OurLine quiet = exchange.line("+44 20 5551 " + unique(), Set.of(), Duration.ZERO, Optional.empty());
        String other = "q-" + unique();
        exchange.tell(List.of(
                event(other + "1", other, at(0), "began", "number", number, "line", quiet.address()),
                event(other + "2", other, at(5), "taken", "person", imani().id().toString()),
                event(other + "3", other, at(9), "ended"),
                event(other + "4", other, at(9), "recorded", "file", "/files/r2")));
        assertThat(files.fetchOne()).isFalse();
    }
}

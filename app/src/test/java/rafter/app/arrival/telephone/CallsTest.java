package rafter.app.arrival.telephone;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.app.arrival.providers.FarSide.event;
import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.CALL;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TOLD;

import java.io.IOException;
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
import rafter.app.arrival.providers.FarSide;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLine.Wish;
import rafter.app.arrival.providers.Provider;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Reach;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Worker;
import rafter.core.telephone.Course;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Calls as an exchange tells of them, by the contract, with whatever can go wrong on the way. */
@ExtendWith(RunningApp.class)
class CallsTest extends Browsing {

    private final CallBook calls = bean(CallBook.class);
    private final CallDesk desk = bean(CallDesk.class);
    private final CallingOut calling = bean(CallingOut.class);
    private final CallFiles files = bean(CallFiles.class);
    private final Tickets tickets = bean(Tickets.class);
    private final Acts acts = bean(Acts.class);
    private final String number = "+44 20 7" + (100_000_000 + unique());
    private final String call = "c-" + unique();
    private final List<TicketNumber> opened = new ArrayList<>();
    private FarSide exchange;
    private OurLine line;
    private Instant from;

    @BeforeEach
    void an_exchange_with_a_line() throws IOException {
        from = RunningApp.nextMinute();
        clock().set(from.plusSeconds(600));
        exchange = new FarSide(Provider.Kind.TELEPHONE, uri("/"));
        line = exchange.line(
                "+44 20 5550 " + unique(),
                Set.of(Wish.ABANDONED, Wish.RECORDED),
                Duration.ofSeconds(90),
                Optional.empty());
    }

    @AfterEach
    void as_it_was() {
        sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CHANNEL.eq("telephone"))
                .and(TICKET.OPEN)
                .and(TICKET.JOINED_INTO.isNull())
                .and(TICKET.DISCARDED.isFalse())
                .fetch(TICKET.NUMBER)
                .forEach(opened::add);
        opened.forEach(one -> acts.perform(one, new Act.MoveTo(TicketState.CLOSED.key()), ravi()));
        sql().update(CALL)
                .set(CALL.ENDED_AT, clock().instant())
                .setNull(CALL.AFTER_UNTIL)
                .where(CALL.ENDED_AT.isNull().or(CALL.AFTER_UNTIL.isNotNull()))
                .execute();
        exchange.close();
    }

    // ------------------------------------------------------------------ what an exchange tells

    private Instant at(int seconds) {
        return from.plusSeconds(seconds);
    }

    private Map<String, Object> began() {
        return event(call + "-1", call, at(0), "began", "number", number, "line", line.address());
    }

    private Map<String, Object> taken(int seconds) {
        return event(
                call + "-t" + seconds,
                call,
                at(seconds),
                "taken",
                "person",
                imani().id().toString());
    }

    private Map<String, Object> told(String what, int seconds, Object... more) {
        return event(call + "-" + what + seconds, call, at(seconds), what, more);
    }

    private List<Map<String, Object>> answered() {
        return List.of(began(), taken(30), told("held", 90), told("resumed", 110), told("ended", 300));
    }

    private CallBook.Call call() {
        return bean(TransactionTemplate.class)
                .execute(status -> calls.hold(exchange.provider().id(), call))
                .orElseThrow();
    }

    private Ticket ticket() {
        TicketNumber one = call().ticket().map(calls::goesOn).orElseThrow();
        return tickets.find(one, ravi()).orElseThrow();
    }

    private List<String> entries() {
        return sql().select(MESSAGE.TEXT)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(call().ticket().orElseThrow()))
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.TEXT);
    }

    private Contact contact(String name, String phone) {
        KnownBy known = bean(KnownBy.class);
        return bean(TransactionTemplate.class).execute(status -> {
            Contact made = known.make(name, Optional.empty(), clock().instant());
            known.addNumber(made.id(), phone);
            return made;
        });
    }

    // ------------------------------------------------------------------ the course of a call

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

    static Stream<Integer> seeds() {
        return IntStream.range(0, 12).boxed();
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

    // ------------------------------------------------------------------ what is not taken

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

    // ------------------------------------------------------------------ files

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

    // ------------------------------------------------------------------ what people do

    @Test
    void who_has_a_call_holds_it_has_a_word_and_hands_it_over() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        exchange.asked();
        desk.hold(id, imani());
        exchange.tell(List.of(told("held", 20)));
        desk.word(id, sefa().id(), imani());
        assertThat(call().word()).contains(sefa().id());
        assertThatThrownBy(() -> desk.give(id, sefa())).isInstanceOf(Problem.NoRight.class);
        desk.give(id, imani());
        assertThat(exchange.asked().stream().map(FarSide.Asked::path))
                .containsExactly("/calls/" + call + "/hold", "/calls/" + call + "/word", "/calls/" + call + "/give");
        exchange.tell(List.of(told("taken", 40, "person", sefa().id().toString())));
        assertThat(ticket().owner()).contains(sefa().id());
        assertThat(call().word()).isEmpty();
        exchange.tell(List.of(told("ended", 60)));
        assertThat(entries().getLast())
                .isEqualTo("Waited 0:10. " + imani().name() + ", then " + sefa().name()
                        + " spoke with them for 0:30, on hold for 0:20.");
    }

    @Test
    void an_exchange_that_does_not_answer_is_told_and_nothing_is_changed() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        exchange.answers(500);
        long id = call().id();
        assertThatThrownBy(() -> desk.hold(id, imani()))
                .isInstanceOf(Problem.Invalid.class)
                .extracting(e -> ((Problem) e).words())
                .asString()
                .contains("Nothing was changed");
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/calls/" + id).body()).contains("The exchange says no.");
        exchange.answers(200);
        desk.hold(id, imani());
    }

    @Test
    void a_call_goes_on_with_a_ticket_that_was_there_and_what_follows_happens_there() throws Exception {
        Contact ingrid = contact("Ingrid " + unique(), number);
        String first = "f-" + unique();
        exchange.tell(List.of(
                event(first + "1", first, at(-500), "began", "number", number, "line", line.address()),
                event(first + "2", first, at(-400), "ended")));
        TicketNumber earlier = sql().select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.CONTACT_ID.eq(ingrid.id()))
                .fetchSingle(TICKET.NUMBER);
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        desk.goOn(id, earlier, imani());
        assertThat(call().ticket()).contains(earlier);
        assertThat(ticket().owner()).contains(imani().id());
        exchange.tell(List.of(told("ended", 60)));
        assertThat(tickets.find(earlier, ravi()).orElseThrow().work().shownCalls())
                .hasSize(1);
        assertThat(ticket().tags()).as("they were called back, as it were").doesNotContain("call back");
        assertThatThrownBy(() -> desk.goOn(id, new TicketNumber(1), imani())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void who_calls_is_chosen_or_written_down_and_is_known_by_the_number_from_then_on() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        desk.callerIsNew(call().id(), "Noor Haddad", Optional.empty(), imani());
        Contact noor = bean(Contacts.class).get(ticket().contact());
        assertThat(noor.name()).isEqualTo("Noor Haddad");
        assertThat(bean(KnownBy.class).ofNumber(number)).extracting(Contact::id).containsExactly(noor.id());
        assertThatThrownBy(() -> desk.callerIsNew(call().id(), " ", Optional.empty(), imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void what_is_typed_is_kept_at_once_and_written_down_with_the_call_also_after_its_end() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        assertThat(desk.notes(id, "Wants the evening", 0, imani())).isEqualTo(1);
        assertThatThrownBy(() -> desk.notes(id, "Another window", 0, imani())).isInstanceOf(Problem.Stale.class);
        exchange.tell(List.of(told("ended", 60)));
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Wants the evening");
        desk.notes(id, "Wants the evening crossing", 1, imani());
        desk.finish(id, Optional.of(Turn.CUSTOMER), imani());
        assertThat(ticket().work().shownCalls()).hasSize(1);
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Wants the evening crossing");
        assertThat(ticket().turn()).isEqualTo(Turn.CUSTOMER);
    }

    @Test
    void what_was_typed_and_left_is_written_down_once_whoever_typed_it_is_free() throws Exception {
        exchange.tell(List.of(began(), taken(10), told("ended", 590)));
        desk.notes(call().id(), "Typed after the end", 0, imani());
        assertThat(bean(WrittenDown.class).later()).isZero();
        clock().tick(Duration.ofMinutes(3));
        assertThat(bean(WrittenDown.class).later()).isEqualTo(1);
        assertThat(ticket().work().shownCalls().getFirst().said().notes()).isEqualTo("Typed after the end");
        assertThat(bean(WrittenDown.class).later()).isZero();
    }

    private boolean busy() {
        return bean(Workforce.class).workers().stream()
                .filter(one -> one.id().equals(imani().id()))
                .mapToDouble(Worker::load)
                .anyMatch(load -> load >= 1);
    }

    @Test
    void a_call_takes_all_of_somebody_until_they_are_free_after_it() throws Exception {
        assertThat(busy()).isFalse();
        exchange.tell(List.of(began(), taken(30)));
        assertThat(busy()).isTrue();
        exchange.tell(List.of(told("ended", 590)));
        assertThat(busy()).as("after-call time").isTrue();
        desk.finish(call().id(), Optional.of(Turn.NOBODY), imani());
        assertThat(busy()).isFalse();
    }

    @Test
    void of_two_who_take_a_call_at_once_one_has_it_and_the_exchange_rings_each_once() throws Exception {
        exchange.tell(List.of(began()));
        long id = call().id();
        exchange.asked();
        desk.take(id, imani());
        assertThatThrownBy(() -> desk.take(id, sefa())).isInstanceOf(Problem.Stale.class);
        assertThat(ticket().owner()).contains(imani().id());
        Ringing ringing = bean(Ringing.class);
        assertThat(ringing.ring(call(), imani().id())).isEmpty();
        assertThat(ringing.ring(call(), imani().id())).isEmpty();
        assertThat(exchange.asked()).hasSize(1);
        exchange.answers(409);
        assertThat(ringing.ring(call(), sefa().id())).contains("The exchange says no.");
        assertThat(call().rung()).as("it can be tried again").isEmpty();
    }

    @Test
    void only_who_has_a_call_holds_it_hands_it_over_or_ends_it() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        long id = call().id();
        exchange.asked();
        for (Runnable deed : List.<Runnable>of(
                () -> desk.hold(id, sefa()), () -> desk.word(id, imani().id(), sefa()), () -> desk.end(id, sefa()))) {
            assertThatThrownBy(deed::run).isInstanceOf(Problem.NoRight.class);
        }
        assertThatThrownBy(() -> desk.resume(id, imani())).as("nobody is held").isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> desk.word(id, imani().id(), imani())).isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> desk.finish(id, Optional.empty(), imani())).isInstanceOf(Problem.Stale.class);
        assertThat(exchange.asked()).isEmpty();
        exchange.tell(List.of(told("ended", 60)));
        assertThatThrownBy(() -> desk.hold(id, imani())).isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> desk.take(id, imani())).isInstanceOf(Problem.Stale.class);
    }

    @Test
    void whoever_may_not_see_its_ticket_does_not_see_a_call() throws Exception {
        exchange.tell(List.of(began()));
        RunningApp.reach(sefa(), new Reach.Teams(Set.of(new rafter.core.id.TeamId(999_999))));
        try {
            assertThatThrownBy(() -> desk.call(call().id(), sefa())).isInstanceOf(Problem.NotFound.class);
            signIn(sefa().person().address(), RunningApp.PASSWORD);
            assertThat(get("/calls").body()).doesNotContain(number);
            assertThat(get("/calls/" + call().id()).statusCode()).isEqualTo(404);
        } finally {
            RunningApp.reach(sefa(), new Reach.Everything());
        }
    }

    @Test
    void what_a_call_is_about_is_saved_and_what_cannot_be_is_said() throws Exception {
        exchange.tell(List.of(began(), taken(10)));
        signIn(imani().person().address(), RunningApp.PASSWORD);
        String at = "/calls/" + call().id();
        String token = token(get(at));
        assertThat(post(at + "/about", token, "topic", "bicycles", "priority", "P2")
                        .body())
                .contains("What it is about is saved");
        assertThat(ticket().topic()).isEqualTo("bicycles");
        assertThat(ticket().priority().name()).isEqualTo("P2");
        assertThat(post(at + "/about", token, "topic", "x".repeat(61), "priority", "P2")
                        .body())
                .contains("at most sixty letters");
        assertThat(post(at + "/go-on", token, "ticket", "seven").body()).contains("is no number of a ticket");
        assertThat(post(at + "/call-back", token, "when", "soon", "why", "the slot")
                        .body())
                .contains("is no date with a time");
        assertThat(get(at + "/companies?asked=zzz").body()).contains("No company is called so");
        assertThat(get(at + "/contacts?name=zzz").body()).contains("Nobody of that name there");
    }

    // ------------------------------------------------------------------ calling

    private long callOut(String key) {
        return calling.call(new CallingOut.Wanted(Optional.empty(), Optional.empty(), number, line.id(), key), imani());
    }

    @Test
    void we_call_once_however_often_it_is_pressed_and_who_is_not_reached_was_not_answered() throws Exception {
        String key = "press-of-a-button-" + unique();
        long id = callOut(key);
        assertThat(exchange.asked()).hasSize(1);
        exchange.tell(List.of(
                event(key + "1", key, at(601), "began", "outgoing", true, "number", number, "line", line.address()),
                event(key + "2", key, at(620), "ended")));
        assertThat(callOut(key)).isEqualTo(id);
        assertThat(exchange.asked()).isEmpty();
        Ticket ticket = tickets.find(calls.find(id).orElseThrow().ticket().orElseThrow(), ravi())
                .orElseThrow();
        assertThat(ticket.messages()).isZero();
        assertThat(ticket.work().shownCalls().getFirst().said().length()).isZero();
        assertThat(ticket.owner()).contains(imani().id());
    }

    @Test
    void who_is_reached_by_our_call_has_an_answer() throws Exception {
        exchange.tell(List.of(began(), told("ended", 40)));
        TicketNumber about = call().ticket().orElseThrow();
        String key = "press-of-a-button-" + unique();
        calling.call(new CallingOut.Wanted(Optional.of(about), Optional.empty(), number, line.id(), key), imani());
        exchange.tell(List.of(
                event(key + "1", key, at(601), "began", "outgoing", true, "number", number, "line", line.address()),
                event(key + "2", key, at(610), "taken", "person", imani().id().toString()),
                event(key + "3", key, at(640), "ended")));
        Ticket ticket = tickets.find(about, ravi()).orElseThrow();
        assertThat(ticket.tags()).doesNotContain("call back");
        assertThat(sql().select(MESSAGE.TEXT)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(about))
                        .and(MESSAGE.KIND.eq("PUBLIC"))
                        .fetch(MESSAGE.TEXT))
                .containsExactly("Called " + number + ". " + imani().name() + " spoke with them for 0:30.");
    }

    @Test
    void where_the_exchange_does_not_take_it_nobody_is_called_and_no_ticket_stays() {
        exchange.answers(503);
        int before = sql().fetchCount(TICKET, TICKET.DISCARDED.isFalse());
        assertThatThrownBy(() -> callOut("press-of-a-button-" + unique()))
                .isInstanceOf(Problem.Invalid.class)
                .extracting(e -> ((Problem) e).words())
                .asString()
                .contains("Nobody was called");
        assertThat(sql().fetchCount(TICKET, TICKET.DISCARDED.isFalse())).isEqualTo(before);
        var nobody = new CallingOut.Wanted(
                Optional.empty(), Optional.empty(), "ferry", line.id(), "press-of-a-button-" + unique());
        assertThatThrownBy(() -> calling.call(nobody, imani())).isInstanceOf(Problem.Invalid.class);
    }

    @Test
    void to_call_back_is_a_task_with_a_time() throws Exception {
        exchange.tell(List.of(began(), taken(10), told("ended", 60)));
        desk.callBack(call().id(), Optional.of(clock().instant().plusSeconds(3600)), "the slot", imani());
        assertThat(ticket().work().tasks().getFirst().what()).isEqualTo("Call back " + number + ": the slot");
        assertThatThrownBy(() ->
                        desk.callBack(call().id(), Optional.of(clock().instant().minusSeconds(1)), "", imani()))
                .isInstanceOf(Problem.Invalid.class);
    }

    // ------------------------------------------------------------------ pages

    @Test
    void the_sheet_and_the_list_show_what_was_told() throws Exception {
        Contact ingrid = contact("Ingrid " + unique(), number);
        exchange.tell(answered());
        signIn(imani().person().address(), RunningApp.PASSWORD);
        assertThat(get("/calls").body()).contains(ingrid.name()).contains("called, answered by");
        assertThat(get("/calls/" + call().id()).body())
                .contains(ingrid.name())
                .contains("talked 4:10, on hold 0:20, answered");
        assertThat(get("/calls?unanswered=true").body()).doesNotContain(ingrid.name());
        assertThat(get("/calls/of/" + call().ticket().orElseThrow()).uri().getPath())
                .startsWith("/tickets/");
        assertThat(get("/calls/999999999").statusCode()).isEqualTo(404);
        assertThat(get("/calls/out?ticket=" + call().ticket().orElseThrow()).body())
                .contains(number);
    }
}

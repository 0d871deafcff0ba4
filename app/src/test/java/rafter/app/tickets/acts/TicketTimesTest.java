package rafter.app.tickets.acts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.TICKET_EVENT;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Optional;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Times agreed with the customer, and tickets that come back. It is Monday, within opening hours. */
@ExtendWith(RunningApp.class)
class TicketTimesTest extends Browsing {

    private final TicketTimes times = bean(TicketTimes.class);
    private final Tickets tickets = bean(Tickets.class);
    private final String id = "<times" + unique() + "@post.example>";
    private TicketNumber number;

    @BeforeEach
    void a_ticket() {
        clock().set(RunningApp.MONDAY);
        number = ticket(
                "From: Ann Lee <ann" + unique() + "@post.example>\nMessage-ID: " + id + "\nSubject: Times\n\nHello");
    }

    private static TicketNumber ticket(String raw) {
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket() {
        return tickets.find(number, odile()).orElseThrow();
    }

    private static Instant local(String time) {
        return LocalDateTime.parse("2027-03-" + time)
                .atZone(bean(Targets.class).terms().zone())
                .toInstant();
    }

    private static int events(TicketNumber number, String kind) {
        return RunningApp.sql()
                .fetchCount(TICKET_EVENT, TICKET_EVENT.TICKET.eq(number).and(TICKET_EVENT.KIND.eq(kind)));
    }

    // ------------------------------------------------------------------ agreed with the customer

    private Optional<Instant> agree(Optional<Instant> due, String why) {
        bean(Acts.class).perform(number, new Act.AgreeTime(due, why), imani());
        return bean(Acts.class).resolutionDue(number);
    }

    @Test
    void the_resolution_is_due_at_the_time_agreed() {
        assertThat(agree(Optional.of(local("04T11:00")), "they are away")).hasValue(local("04T11:00"));
        assertThat(ticket().agreedDue()).hasValue(local("04T11:00"));
    }

    @Test
    void what_happened_at_this_very_instant_has_happened_however_fine_the_clock_is() {
        // The database keeps microseconds and rounds them up here.
        clock().set(RunningApp.MONDAY.plusNanos(130_126_542));
        bean(Answering.class)
                .answer(
                        number,
                        new Answering.Answer(
                                "<p>On its way</p>", "", Optional.empty(), Turn.CUSTOMER, ticket().lastPublicSeq()),
                        imani());
        bean(Acts.class).perform(number, new Act.BringBack(Optional.of(local("04T11:00"))), imani());
        assertThat(clocks(number)).containsEntry("FIRST_REPLY", "MET").containsEntry("RESOLUTION", "HELD");
    }

    @Test
    void a_node_whose_clock_is_behind_does_not_forget_what_another_wrote() {
        clock().set(RunningApp.MONDAY.plusSeconds(60));
        bean(Answering.class)
                .answer(
                        number,
                        new Answering.Answer(
                                "<p>On its way</p>", "", Optional.empty(), Turn.CUSTOMER, ticket().lastPublicSeq()),
                        imani());
        clock().set(RunningApp.MONDAY.plusSeconds(20));
        bean(Acts.class).perform(number, new Act.SetTopic("billing"), imani());
        assertThat(clocks(number)).containsEntry("FIRST_REPLY", "MET").containsEntry("RESOLUTION", "HELD");
    }

    private static java.util.Map<String, String> clocks(TicketNumber number) {
        return RunningApp.sql()
                .select(TICKET_CLOCK.OBJECTIVE, TICKET_CLOCK.STATE)
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(number))
                .fetchMap(TICKET_CLOCK.OBJECTIVE, TICKET_CLOCK.STATE);
    }

    @Test
    void agreed_for_a_night_it_is_due_when_the_last_opening_before_ends() {
        Instant due = agree(Optional.of(local("04T23:30")), "").orElseThrow();
        assertThat(due).isBefore(local("04T23:30")).isAfter(local("04T12:00"));
    }

    @Test
    void taken_back_the_policy_holds_again() {
        Optional<Instant> before = agree(Optional.empty(), "");
        bean(Acts.class).perform(number, new Act.AgreeTime(Optional.of(local("11T11:00")), ""), imani());
        assertThat(agree(Optional.empty(), "")).isEqualTo(before);
        assertThat(events(number, "time-agreed")).isEqualTo(2);
    }

    @Test
    void a_time_that_cannot_be_kept_is_refused_and_nothing_is_changed() {
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(number, new Act.AgreeTime(Optional.of(RunningApp.MONDAY), ""), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("passed");
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(
                                number,
                                new Act.AgreeTime(Optional.of(RunningApp.MONDAY.plus(Duration.ofDays(900))), ""),
                                imani()))
                .hasMessageContaining("two years");
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(number, new Act.AgreeTime(Optional.of(local("04T11:00")), "x".repeat(201)), imani()))
                .hasMessageContaining("200 letters");
        clock().set(local("06T10:00"));
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(number, new Act.AgreeTime(Optional.of(local("06T18:00")), ""), imani()))
                .as("a Saturday")
                .hasMessageContaining("Nobody works");
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.RESOLVED.key()), imani());
        assertThatThrownBy(() -> bean(Acts.class)
                        .perform(number, new Act.AgreeTime(Optional.of(local("11T11:00")), ""), imani()))
                .hasMessageContaining("resolved");
        assertThat(ticket().agreedDue()).isEmpty();
        assertThat(events(number, "time-agreed")).isZero();
    }

    @ParameterizedTest
    @ValueSource(strings = {"tomorrow", "2027-03-04", "2027-13-04T10:00", "2027-03-04T25:00Z"})
    void what_is_no_time_is_said_to_be_none(String written) {
        assertThatThrownBy(() -> times.read(written))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining(written);
    }

    @Test
    void a_form_writes_times_as_they_are_read_here() {
        assertThat(times.read("2027-03-04T11:00")).hasValue(local("04T11:00"));
        assertThat(times.local(local("04T11:00"))).isEqualTo("2027-03-04T11:00");
        assertThat(times.read(" ")).isEmpty();
    }

    // ------------------------------------------------------------------ coming back

    @Test
    void at_its_time_it_is_our_turn_again_once_and_its_owner_is_told() {
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        bean(Acts.class).perform(number, new Act.MoveTo(TicketState.WITH_CUSTOMER.key()), sefa());
        bean(Acts.class).perform(number, new Act.BringBack(Optional.of(local("02T09:00"))), sefa());
        times.broughtBack(clock().instant(), 100);
        assertThat(ticket().turn()).isEqualTo(Turn.CUSTOMER);
        int unread = bean(Notices.class).unread(sefa());
        clock().set(local("02T09:00"));
        times.broughtBack(clock().instant(), 100);
        times.broughtBack(clock().instant(), 100);
        assertThat(ticket().state()).isEqualTo(TicketState.IN_HAND);
        assertThat(ticket().broughtBackAt()).hasValue(local("02T09:00"));
        assertThat(events(number, "brought-back")).isEqualTo(1);
        assertThat(bean(Notices.class).unread(sefa())).isEqualTo(unread + 1);
    }

    @Test
    void two_nodes_that_look_at_once_bring_each_back_once() throws Exception {
        bean(Acts.class).perform(number, new Act.BringBack(Optional.of(local("02T09:00"))), imani());
        clock().set(local("02T10:00"));
        try (var nodes = Executors.newFixedThreadPool(4)) {
            for (int i = 0; i < 8; i++) {
                nodes.submit(() -> times.broughtBack(clock().instant(), 100));
            }
        }
        assertThat(events(number, "brought-back")).isEqualTo(1);
    }

    @Test
    void the_customers_answer_makes_it_needless() {
        bean(Acts.class).perform(number, new Act.BringBack(Optional.of(local("02T09:00"))), imani());
        RunningApp.take(("From: Ann Lee <" + from() + ">\nMessage-ID: <again" + unique()
                        + "@post.example>\nIn-Reply-To: " + id + "\nSubject: Re: Times\n\nHere it is")
                .getBytes(StandardCharsets.UTF_8));
        assertThat(ticket().bringBackAt()).isEmpty();
        clock().set(local("02T10:00"));
        times.broughtBack(clock().instant(), 100);
        assertThat(events(number, "brought-back")).isZero();
    }

    private String from() {
        return RunningApp.sql()
                .select(rafter.database.Tables.CONTACT_ADDRESS.ADDRESS)
                .from(rafter.database.Tables.CONTACT_ADDRESS)
                .where(rafter.database.Tables.CONTACT_ADDRESS.CONTACT_ID.eq(ticket().contact()))
                .fetchSingle(rafter.database.Tables.CONTACT_ADDRESS.ADDRESS);
    }

    // ------------------------------------------------------------------ the page

    @Test
    void the_page_offers_times_takes_them_back_and_says_what_was_wrong() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/tickets/" + number + "/choose/times");
        assertThat(page.body())
                .contains("Have it come back", "Tomorrow", "Another time agreed with the customer")
                .doesNotContain("Take back");
        String token = token(page);
        clock().tick(Duration.ofMinutes(10));
        assertThat(post("/tickets/" + number + "/due", token, "due", "2027-03-04T11:00", "why", "they are away")
                        .body())
                .contains("agreed with the customer on", "they are away");
        assertThat(post("/tickets/" + number + "/bring-back", token, "when", "2027-03-02T09:00")
                        .body())
                .contains("has it come back");
        assertThat(get("/tickets/" + number + "/choose/times").body())
                .contains("Take back", "Not any more", "2027-03-04T11:00");
        assertThat(get("/tickets/" + number + "/clocks").body()).contains("another time was agreed with the customer");
        assertThat(post("/tickets/" + number + "/due", token, "due", "soon").body())
                .contains("is no date with a time");
        post("/tickets/" + number + "/due", token, "due", "");
        post("/tickets/" + number + "/bring-back", token, "when", "");
        assertThat(ticket().agreedDue()).isEmpty();
        assertThat(ticket().bringBackAt()).isEmpty();
        assertThat(get("/tickets/999999999/choose/times").statusCode()).isEqualTo(404);
    }
}

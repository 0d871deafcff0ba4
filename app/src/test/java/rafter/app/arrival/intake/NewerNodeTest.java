package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.INBOUND;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.STEP_TIMER;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jooq.JSONB;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.clocks.StepFiring;
import rafter.core.id.TicketNumber;
import rafter.core.json.NewerVersion;
import rafter.core.ticket.Act;
import rafter.core.ticket.EventJson;
import rafter.core.ticket.Priority;

/** Of two nodes on one database one is newer: what it wrote is neither guessed at nor written over by the other one. */
@ExtendWith(RunningApp.class)
class NewerNodeTest extends Browsing {

    private final int nth = unique();
    private TicketNumber number;

    @BeforeEach
    void a_newer_node_writes_to_a_ticket() {
        number = RunningApp.ticketOf(RunningApp.take(mail("first", "")).orElseThrow());
        bean(Acts.class)
                .perform(number, new Act.BringBack(Optional.of(clock().instant().plus(Duration.ofHours(1)))), imani());
        int seq = sql().fetchCount(TICKET_EVENT, TICKET_EVENT.TICKET.eq(number)) + 1;
        sql().insertInto(TICKET_EVENT)
                .set(TICKET_EVENT.TICKET, number)
                .set(TICKET_EVENT.SEQ, seq)
                .set(TICKET_EVENT.AT, clock().instant())
                .set(TICKET_EVENT.KIND, "novel")
                .set(TICKET_EVENT.VERSION, (short) 1)
                .set(TICKET_EVENT.ACTOR, "system")
                .set(TICKET_EVENT.BODY, JSONB.valueOf("{}"))
                .execute();
        form(EventJson.FORM + 1);
    }

    @AfterEach
    void every_node_is_of_the_newer_version() {
        sql().transaction(update -> {
            update.dsl().execute("alter table ticket_event disable trigger ticket_event_append_only");
            update.dsl()
                    .deleteFrom(TICKET_EVENT)
                    .where(TICKET_EVENT.TICKET.eq(number))
                    .and(TICKET_EVENT.KIND.eq("novel"))
                    .execute();
            update.dsl().execute("alter table ticket_event enable trigger ticket_event_append_only");
        });
        form(EventJson.FORM);
    }

    private void form(int form) {
        sql().update(TICKET)
                .set(TICKET.FORM, (short) form)
                .where(TICKET.NUMBER.eq(number))
                .execute();
    }

    private byte[] mail(String id, String answers) {
        return ("From: newer%d@post.example\nMessage-ID: <newer-%s-%d@post.example>\n%sSubject: Written by a newer node\n\nHello %s"
                        .formatted(
                                nth,
                                id,
                                nth,
                                answers.isEmpty()
                                        ? ""
                                        : "In-Reply-To: <newer-" + answers + "-" + nth + "@post.example>\n",
                                id))
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void its_page_says_that_rafter_is_being_updated_and_nothing_is_changed() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/tickets/" + number);
        assertThat(page.statusCode()).isEqualTo(503);
        assertThat(page.body()).contains("Rafter is being updated", "Nothing was changed");
        assertThatExceptionOfType(NewerVersion.class)
                .isThrownBy(() -> bean(Acts.class).perform(number, new Act.SetPriority(Priority.P1), imani()));
        assertThat(get("/worklist?view=open&sort=-age").body())
                .as("lists show what stands in its row")
                .contains("/tickets/" + number);
    }

    @Test
    void a_mail_for_it_waits_for_a_node_that_understands_it_and_holds_up_no_other() {
        bean(Inbox.class).receive(RunningApp.help().id(), Optional.empty(), mail("second", "first"));
        bean(Inbox.class).receive(RunningApp.help().id(), Optional.empty(), mail("other", ""));
        bean(Processor.class).processAll();
        assertThat(state("second")).isEqualTo("WAITING");
        assertThat(state("other")).isEqualTo("DONE");
        assertThat(sql().fetchCount(MESSAGE, MESSAGE.TICKET.eq(number))).isEqualTo(2);

        // A node of the newer version would deal with it at once; this one, brought up to date, does so when the time
        // has gone by.
        every_node_is_of_the_newer_version();
        clock().tick(Duration.ofMinutes(2));
        bean(Processor.class).processAll();
        assertThat(state("second")).isEqualTo("DONE");
        assertThat(sql().select(INBOUND.TICKET, INBOUND.ATTEMPTS)
                        .from(INBOUND)
                        .where(INBOUND.RFC_MESSAGE_ID.contains("newer-second-" + nth))
                        .fetchSingle())
                .satisfies(
                        row -> assertThat(row.value1()).isEqualTo(number),
                        row -> assertThat(row.value2()).isZero());
    }

    private String state(String id) {
        return sql().select(INBOUND.STATE)
                .from(INBOUND)
                .where(INBOUND.RFC_MESSAGE_ID.contains("newer-" + id + "-" + nth))
                .fetchSingle(INBOUND.STATE);
    }

    @Test
    void what_time_does_to_it_is_left_to_the_newer_node() {
        sql().insertInto(STEP_TIMER)
                .set(STEP_TIMER.TICKET, number)
                .set(STEP_TIMER.OBJECTIVE, "RESOLUTION")
                .set(STEP_TIMER.RUN_STARTED, Instant.EPOCH)
                .set(STEP_TIMER.STEP, "later")
                .set(STEP_TIMER.DUE_AT, clock().instant())
                .execute();
        clock().tick(Duration.ofHours(2));
        bean(StepFiring.class).fireDue(100);
        bean(TicketTimes.class).broughtBack(clock().instant(), 100);
        bean(Tickets.class).closeOver(clock().instant(), 100);
        assertThat(sql().fetchExists(STEP_TIMER, STEP_TIMER.TICKET.eq(number), STEP_TIMER.STEP.eq("later")))
                .isTrue();
        assertThat(bean(StepFiring.class).nextDue().filter(due -> !due.isAfter(clock().instant())))
                .isEmpty();
        assertThat(sql().select(TICKET.BRING_BACK_AT)
                        .from(TICKET)
                        .where(TICKET.NUMBER.eq(number))
                        .fetchSingle(TICKET.BRING_BACK_AT))
                .isNotNull();
        sql().deleteFrom(STEP_TIMER).where(STEP_TIMER.TICKET.eq(number)).execute();
    }
}

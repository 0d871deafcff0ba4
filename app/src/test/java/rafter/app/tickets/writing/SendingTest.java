package rafter.app.tickets.writing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.EntryStore;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Replies that go out at a time of their own: once, unless they are taken back or something was written meanwhile. */
@ExtendWith(RunningApp.class)
class SendingTest extends Browsing {

    private final Sending sending = bean(Sending.class);
    private final Answering answering = bean(Answering.class);
    private final Drafts drafts = bean(Drafts.class);
    private final TicketNumber number = mail();

    private static TicketNumber mail() {
        int one = unique();
        String raw = "From: Ida <ida" + one + "@later" + one + ".example>\nMessage-ID: <l" + one
                + "@post.example>\nSubject: Later " + one + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket() {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    private Answering.Answer answer(String html) {
        return new Answering.Answer(html, "", Turn.CUSTOMER, ticket().lastPublicSeq());
    }

    private Optional<Instant> in(Duration time) {
        return Optional.of(RunningApp.clock().instant().plus(time));
    }

    private int due(Duration later) {
        RunningApp.clock().tick(later);
        return sending.sendDue(50);
    }

    @Test
    void it_goes_out_when_its_time_has_come_and_once() {
        int before = ticket().messages();
        assertThat(sending.later(number, answer("<p>Yes</p>"), in(Duration.ofHours(2)), imani()))
                .isEmpty();
        assertThat(sending.waiting(number, imani()).orElseThrow().chosen()).isTrue();
        assertThat(due(Duration.ofMinutes(119))).isZero();
        assertThat(ticket().messages()).isEqualTo(before);
        RunningApp.clock().tick(Duration.ofMinutes(2));
        var both = CompletableFuture.allOf(
                CompletableFuture.runAsync(() -> sending.sendDue(50)),
                CompletableFuture.runAsync(() -> sending.sendDue(50)));
        both.join();
        assertThat(ticket().messages()).isEqualTo(before + 1);
        assertThat(ticket().turn()).isEqualTo(Turn.CUSTOMER);
        assertThat(drafts.find(number, Drafts.Kind.REPLY, imani()).version()).isZero();
        assertThat(due(Duration.ofHours(1))).isZero();
    }

    @Test
    void taken_back_it_is_a_draft_again_and_too_late_is_said() {
        sending.later(number, answer("<p>Yes</p>"), in(Duration.ofMinutes(1)), imani());
        sending.takeBack(number, imani());
        assertThat(due(Duration.ofMinutes(5))).isZero();
        assertThat(drafts.find(number, Drafts.Kind.REPLY, imani()).html()).isEqualTo("<p>Yes</p>");
        assertThatThrownBy(() -> sending.takeBack(number, imani()))
                .isInstanceOf(Problem.Stale.class)
                .hasMessageContaining("too late");
    }

    @Test
    void who_goes_on_writing_does_not_want_it_to_go_out_as_it_was() {
        sending.later(number, answer("<p>Yes</p>"), in(Duration.ofMinutes(1)), imani());
        int version = drafts.find(number, Drafts.Kind.REPLY, imani()).version();
        drafts.save(number, Drafts.Kind.REPLY, "<p>Yes, and</p>", "", Turn.CUSTOMER, version, imani());
        assertThat(due(Duration.ofMinutes(5))).isZero();
    }

    @Test
    void what_a_colleague_wrote_meanwhile_holds_it_and_its_writer_is_told() {
        sending.later(number, answer("<p>Mine</p>"), in(Duration.ofMinutes(10)), imani());
        answering.answer(number, answer("<p>Theirs</p>"), sefa());
        int before = ticket().messages();
        due(Duration.ofMinutes(11));
        assertThat(ticket().messages()).isEqualTo(before);
        assertThat(drafts.find(number, Drafts.Kind.REPLY, imani()).html()).contains("Mine");
        assertThat(sending.trouble(number, imani())).contains("Sefa");
        assertThat(bean(Notices.class).of(imani(), Optional.empty(), 100))
                .anyMatch(notice ->
                        notice.ticket().equals(number) && notice.words().contains("was not sent"));
        assertThat(due(Duration.ofHours(1))).isZero();
    }

    @Test
    void sent_at_once_it_meets_what_was_written_meanwhile_as_when_its_time_comes() {
        sending.later(number, answer("<p>Mine</p>"), in(Duration.ofHours(1)), imani());
        answering.answer(number, answer("<p>Theirs</p>"), sefa());
        int before = ticket().messages();
        sending.now(number, imani());
        assertThat(ticket().messages()).isEqualTo(before);
        assertThat(sending.waiting(number, imani())).isEmpty();
        assertThat(sending.trouble(number, imani())).contains("Sefa");
    }

    @Test
    void who_takes_part_gets_a_copy_of_what_goes_out_later_too_when_nobody_said_otherwise() {
        String other = "also" + unique() + "@part.example";
        bean(EntryStore.class).takePart(number, List.of(other));
        int seen = ticket().lastPublicSeq();
        var answer = new Answering.Answer("<p>Yes</p>", "", Optional.empty(), Turn.CUSTOMER, seen);
        sending.later(number, answer, in(Duration.ofMinutes(1)), imani());
        due(Duration.ofMinutes(2));
        assertThat(RunningApp.sql()
                        .select(MESSAGE.CC_ADDRESSES)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(number))
                        .and(MESSAGE.KIND.eq("PUBLIC"))
                        .fetchSingle(MESSAGE.CC_ADDRESSES))
                .contains(other);
    }

    @Test
    void what_is_in_its_way_is_said_at_once() {
        assertThat(sending.later(number, answer("<p>{nobody}</p>"), in(Duration.ofHours(1)), imani()))
                .containsInstanceOf(Answering.Outcome.Gaps.class);
        assertThatThrownBy(() -> sending.later(number, answer(" "), in(Duration.ofHours(1)), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> sending.later(number, answer("<p>x</p>"), in(Duration.ofHours(-1)), imani()))
                .hasMessageContaining("has passed");
        assertThatThrownBy(() -> sending.later(number, answer("<p>x</p>"), in(Duration.ofDays(400)), imani()))
                .hasMessageContaining("a year");
        assertThat(sending.waiting(number, imani())).isEmpty();
    }

    @Test
    void by_plain_forms_it_waits_is_sent_at_once_or_taken_back() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        String at = "/tickets/" + number;
        String seen = "" + ticket().lastPublicSeq();
        String far = RunningApp.clock().instant().plus(Duration.ofDays(400)).toString();
        String waiting = post(at + "/reply", token, "html", "Soon", "seen", seen, "later", far)
                .body();
        assertThat(waiting).contains("more than a year");
        String tomorrow = RunningApp.clock().instant().plus(Duration.ofDays(1)).toString();
        assertThat(post(at + "/reply", token, "html", "Soon", "seen", seen, "later", tomorrow)
                        .body())
                .contains("Your reply goes out");
        assertThat(post(at + "/reply/back", token).body())
                .contains("is taken back")
                .contains("Soon");
        post(at + "/reply", token, "html", "Soon", "seen", seen, "later", tomorrow);
        int before = ticket().messages();
        post(at + "/reply/now", token);
        assertThat(ticket().messages()).isEqualTo(before + 1);
        assertThat(post(at + "/reply/back", token).body()).contains("too late");
    }
}

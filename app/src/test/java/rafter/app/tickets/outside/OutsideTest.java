package rafter.app.tickets.outside;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;

import jakarta.mail.Multipart;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
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
import rafter.app.tickets.writing.DraftFiles;
import rafter.app.tickets.writing.Drafts;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.MessageRecord;

/** Conversations with third parties inside a ticket: unseen by the customer, answered into their own thread, and reminded. */
@ExtendWith(RunningApp.class)
class OutsideTest extends Browsing {

    private final Outside outside = bean(Outside.class);
    private final Reminders reminders = bean(Reminders.class);
    private final int nth = unique();
    private final String customer = "ida" + nth + "@outer" + nth + ".example";
    private final String harbour = "office@harbour" + nth + ".example";
    private final TicketNumber number = mailed(customer, "", "Outer " + nth);

    private static TicketNumber mailed(String from, String more, String subject) {
        String raw = "From: Somebody <" + from + ">\nMessage-ID: <o" + unique() + "@post.example>\n" + more
                + "Subject: " + subject + "\n\nSome words";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Ticket ticket() {
        return bean(Tickets.class).find(number, imani()).orElseThrow();
    }

    private static Outside.Letter letter(String to, Optional<Duration> nudge, int times) {
        return new Outside.Letter(
                Optional.empty(),
                to,
                "Slot for {ticket}",
                "<p>Can you hold {ticket}?</p>",
                List.of(),
                true,
                nudge,
                times);
    }

    private MessageRecord written(MessageId message) {
        return sql().selectFrom(MESSAGE).where(MESSAGE.ID.eq(message)).fetchSingle();
    }

    private List<String> kinds() {
        return sql().select(MESSAGE.KIND)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.ne("AUTOMATIC"))
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.KIND);
    }

    @Test
    void a_letter_waits_for_a_partner_and_their_answer_lands_in_its_thread_and_makes_it_our_turn() {
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        MessageId sent = outside.write(number, letter(harbour, Optional.empty(), 0), imani());
        assertThat(ticket().turn()).isEqualTo(Turn.PARTNER);
        assertThat(written(sent).getText()).contains("Can you hold " + number);
        TicketNumber there = mailed(harbour, "In-Reply-To: " + written(sent).getMessageId() + "\n", "Re: Slot");
        assertThat(there).isEqualTo(number);
        assertThat(ticket().turn()).isEqualTo(Turn.OURS);
        assertThat(kinds()).containsExactly("CUSTOMER", "OUTSIDE_OUT", "OUTSIDE_IN");
        assertThat(bean(Traces.class).of(number).may(OwnTrace.OUTSIDE)).isTrue();
        assertThat(outside.of(number, imani()))
                .hasSize(1)
                .first()
                .satisfies(thread -> assertThat(thread.answered()).isTrue());
        assertThat(bean(Notices.class).of(imani(), Optional.empty(), 50))
                .anyMatch(notice ->
                        notice.ticket().equals(number) && notice.words().contains("answered outside"));
    }

    @Test
    void an_answer_from_an_address_nobody_knows_lands_there_too_and_says_so() {
        MessageId sent = outside.write(number, letter(harbour, Optional.empty(), 0), imani());
        String other = "night@elsewhere" + nth + ".example";
        assertThat(mailed(other, "References: " + written(sent).getMessageId() + "\n", "Re: Slot"))
                .isEqualTo(number);
        MessageRecord answer = sql().selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("OUTSIDE_IN"))
                .fetchSingle();
        assertThat(answer.getRemark()).contains("another address than it was written to");
    }

    @Test
    void the_customer_hears_nothing_of_it_and_their_answers_are_theirs_whatever_they_refer_to() {
        MessageId sent = outside.write(number, letter(harbour, Optional.empty(), 0), imani());
        mailed(harbour, "In-Reply-To: " + written(sent).getMessageId() + "\n", "Re: Slot");
        var answering = bean(Answering.class);
        int seen = ticket().lastPublicSeq();
        var answer = (Answering.Outcome.Sent) answering.answer(
                number, new Answering.Answer("<p>It is held.</p>", "", Optional.empty(), Turn.CUSTOMER, seen), imani());
        MessageRecord reply = written(answer.message());
        assertThat(reply.getToAddresses()).isEqualTo(customer);
        assertThat(reply.getCcAddresses()).isEmpty();
        assertThat(sql().fetchExists(PARTICIPANT, PARTICIPANT.TICKET.eq(number), PARTICIPANT.ADDRESS.eq(harbour)))
                .isFalse();
        assertThat(mailed(customer, "In-Reply-To: " + written(sent).getMessageId() + "\n", "Re: it"))
                .isEqualTo(number);
        assertThat(kinds()).endsWith("CUSTOMER");
    }

    @Test
    void they_are_reminded_after_working_time_so_often_and_no_more_once_they_answer() {
        MessageId sent = outside.write(number, letter(harbour, Optional.of(Duration.ofHours(2)), 2), imani());
        RunningApp.clock().tick(Duration.ofMinutes(1));
        reminders.nudge(RunningApp.clock().instant(), 50);
        assertThat(kinds()).containsExactly("CUSTOMER", "OUTSIDE_OUT");
        for (int i = 0; i < 4; i++) {
            RunningApp.clock().tick(Duration.ofDays(5));
            reminders.nudge(RunningApp.clock().instant(), 50);
        }
        assertThat(kinds()).containsExactly("CUSTOMER", "OUTSIDE_OUT", "OUTSIDE_OUT", "OUTSIDE_OUT");
        outside.write(
                number, letter("second@harbour" + nth + ".example", Optional.of(Duration.ofHours(2)), 2), imani());
        mailed("second@harbour" + nth + ".example", "In-Reply-To: " + lastOut() + "\n", "Re: Slot");
        int before = kinds().size();
        RunningApp.clock().tick(Duration.ofDays(5));
        reminders.nudge(RunningApp.clock().instant(), 50);
        assertThat(kinds()).hasSize(before);
        assertThat(written(sent).getText()).isNotBlank();
    }

    private String lastOut() {
        return sql().select(MESSAGE.MESSAGE_ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("OUTSIDE_OUT"))
                .orderBy(MESSAGE.SEQ.desc())
                .limit(1)
                .fetchSingle(MESSAGE.MESSAGE_ID);
    }

    @Test
    void what_is_wrong_is_said_and_nothing_is_sent() {
        assertThatThrownBy(() -> outside.write(number, letter(customer, Optional.empty(), 0), imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("customer’s own address");
        assertThatThrownBy(() -> outside.write(number, letter(" ", Optional.empty(), 0), imani()))
                .hasMessageContaining("to whom");
        assertThatThrownBy(() -> outside.write(number, letter("not-an-address", Optional.empty(), 0), imani()))
                .isInstanceOf(Problem.Invalid.class);
        assertThatThrownBy(() -> outside.write(number, letter(harbour, Optional.of(Duration.ofMinutes(1)), 2), imani()))
                .hasMessageContaining("five minutes");
        assertThatThrownBy(() -> outside.write(number, letter(harbour, Optional.of(Duration.ofHours(1)), 11), imani()))
                .hasMessageContaining("ten times");
        assertThat(kinds()).containsExactly("CUSTOMER");
        assertThat(outside.of(number, imani())).isEmpty();
    }

    @Test
    void by_a_plain_form_it_is_sent_and_what_was_typed_comes_back() throws Exception {
        String token = token(signIn("imani@ternpassage.example", RunningApp.PASSWORD));
        String at = "/tickets/" + number + "/outside";
        String wrong = post(at, token, "to", harbour, "subject", "Slot", "html", "Kept words", "after", "soon")
                .body();
        assertThat(wrong).contains("“soon” is no amount of time").contains("Kept words");
        String sent = post(
                        at, token, "to", harbour, "subject", "Slot", "html", "Hold it", "waits", "true", "after", "8 h")
                .body();
        assertThat(sent)
                .contains("The customer does not see it")
                .contains(harbour)
                .contains("waiting since");
        long thread = outside.of(number, imani()).getFirst().id();
        assertThat(get(at + "?thread=" + thread).body()).contains("Re: Slot").contains(harbour);
        assertThat(post(at + "/" + thread + "/remind-no-more", token).body()).contains("not reminded any more");
        assertThat(outside.of(number, imani()).getFirst().nextNudge()).isEmpty();
    }

    @Test
    void a_message_is_sent_on_with_its_files_and_the_customer_hears_nothing_of_it() throws Exception {
        String raw = "From: Ida <" + customer + ">\nMessage-ID: <fw" + unique()
                + "@post.example>\nSubject: Papers\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b\n\n--b\n"
                + "Content-Type: text/plain\n\nHere are the papers.\n--b\nContent-Type: application/pdf; name=papers.pdf\n"
                + "Content-Disposition: attachment; filename=papers.pdf\n\n%PDF-1.4\n--b--\n";
        TicketNumber papers = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        MessageId first = sql().select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(papers))
                .and(MESSAGE.KIND.eq("CUSTOMER"))
                .fetchSingle(MESSAGE.ID);
        Outside.Forwarded forwarded = outside.forwarded(papers, first, imani());
        assertThat(forwarded.subject()).isEqualTo("Fwd: Papers");
        assertThat(forwarded.html()).contains("Here are the papers").contains("wrote:");
        List<Long> files =
                forwarded.files().stream().map(Outside.Forwarded.File::id).toList();
        outside.write(
                papers,
                new Outside.Letter(
                        Optional.empty(),
                        harbour,
                        forwarded.subject(),
                        forwarded.html(),
                        files,
                        false,
                        Optional.empty(),
                        0),
                imani());
        RunningApp.post();
        var mail = RunningApp.mailOf(harbour).getLast();
        assertThat(mail.getSubject()).isEqualTo("Fwd: Papers");
        var parts = (Multipart) mail.getContent();
        assertThat(parts.getBodyPart(1).getFileName()).isEqualTo("papers.pdf");
        assertThatThrownBy(() -> outside.forwarded(number, first, imani())).isInstanceOf(Problem.NotFound.class);
    }

    @Test
    void files_of_another_ticket_do_not_go_along() {
        outside.write(
                number,
                new Outside.Letter(
                        Optional.empty(),
                        harbour,
                        "Look",
                        "<p>Look</p>",
                        List.of(1L, 2L, 3L),
                        false,
                        Optional.empty(),
                        0),
                imani());
        assertThat(sql().fetchCount(
                                rafter.database.Tables.ATTACHMENT,
                                rafter.database.Tables.ATTACHMENT.MESSAGE_ID.in(
                                        sql().select(MESSAGE.ID).from(MESSAGE).where(MESSAGE.TICKET.eq(number)))))
                .isZero();
    }

    @Test
    void an_unseen_copy_goes_out_stands_on_the_ticket_and_in_nobodys_mail() throws Exception {
        String boss = "boss" + nth + "@quiet" + nth + ".example";
        bean(Answering.class)
                .answer(
                        number,
                        new Answering.Answer(
                                "<p>It is held.</p>",
                                "",
                                Optional.empty(),
                                boss + ", " + customer,
                                Turn.CUSTOMER,
                                ticket().lastPublicSeq(),
                                false),
                        imani());
        RunningApp.post();
        var copy = RunningApp.mailOf(boss).getLast();
        assertThat(copy.getAllRecipients()).extracting(Object::toString).containsExactly(customer);
        assertThat(new String(copy.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
                .doesNotContain(boss);
        assertThat(sql().select(MESSAGE.BCC_ADDRESSES)
                        .from(MESSAGE)
                        .where(MESSAGE.TICKET.eq(number))
                        .and(MESSAGE.KIND.eq("PUBLIC"))
                        .fetchSingle(MESSAGE.BCC_ADDRESSES))
                .as("who gets it anyway gets it once")
                .isEqualTo(boss);
        assertThat(sql().fetchExists(PARTICIPANT, PARTICIPANT.TICKET.eq(number), PARTICIPANT.ADDRESS.eq(boss)))
                .isFalse();
    }

    @Test
    void a_letter_is_kept_while_it_is_typed_and_goes_out_with_what_was_attached() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String page = "/tickets/" + number + "/outside";
        bean(Drafts.class)
                .save(
                        number,
                        Drafts.Kind.OUTSIDE,
                        new Drafts.Writing("<p>Half a letter</p>", harbour, "", "", Turn.CUSTOMER, "Crane", 0),
                        0,
                        imani());
        bean(DraftFiles.class)
                .attach(number, Drafts.Kind.OUTSIDE, "plan.txt", "text/plain", new byte[] {65, 66}, imani());
        assertThat(get(page).body())
                .contains("Half a letter")
                .contains(harbour)
                .contains("value=\"Crane\"")
                .contains("plan.txt");
        assertThat(get("/tickets/" + number).body()).doesNotContain("Half a letter");
        MessageId sent = outside.write(number, letter(harbour, Optional.empty(), 0), imani());
        assertThat(sql().select(ATTACHMENT.NAME)
                        .from(ATTACHMENT)
                        .where(ATTACHMENT.MESSAGE_ID.eq(sent))
                        .fetch(ATTACHMENT.NAME))
                .containsExactly("plan.txt");
        assertThat(bean(Drafts.class).find(number, Drafts.Kind.OUTSIDE, imani()).version())
                .isZero();
    }

    @Test
    void another_letter_is_begun_once_the_first_is_sent_or_thrown_away() throws Exception {
        outside.write(number, letter(harbour, Optional.empty(), 0), imani());
        long thread = outside.of(number, imani()).getFirst().id();
        bean(Drafts.class)
                .save(
                        number,
                        Drafts.Kind.OUTSIDE,
                        new Drafts.Writing("<p>Begun</p>", harbour, "", "", Turn.CUSTOMER, "Crane", thread),
                        0,
                        imani());
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        String page = "/tickets/" + number + "/outside";
        assertThat(get(page).body()).contains("You had begun this letter").contains("Begun");
        assertThat(get(page + "?thread=" + thread).body())
                .contains("Begun")
                .doesNotContain("You had begun this letter");
        post("/tickets/" + number + "/drafts/outside/discard", token(get("/today")));
        assertThat(get(page).body()).doesNotContain("Begun");
    }

    @Test
    void the_page_that_is_the_customers_alone_is_given_to_nobody_outside() throws Exception {
        var letter = new Outside.Letter(
                Optional.empty(), harbour, "Crane", "<p>See {request page}</p>", List.of(), true, Optional.empty(), 0);
        assertThatThrownBy(() -> outside.write(number, letter, imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("{request page}");
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number + "/outside").body()).doesNotContain("{request page}");
    }
}

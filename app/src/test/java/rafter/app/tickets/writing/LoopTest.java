package rafter.app.tickets.writing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.deliver;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.post;
import static rafter.app.RunningApp.pump;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.arrival.mail.Outbox;
import rafter.app.arrival.mail.SendMail;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Delivery;
import rafter.core.id.CompanyId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.database.Tables;

/** From an email to an answer and back, through real mail servers and the real database. */
@ExtendWith(RunningApp.class)
class LoopTest {

    private final int nth = unique();
    private final String dov = "dov" + nth + "@brightwater.example";

    private String mail(String from, String headers, String text) {
        return "From: Dov Reiss <" + from + ">\nTo: help@ternpassage.example\nSubject: Slot " + nth + "\n" + headers
                + "Content-Type: text/plain; charset=utf-8\n\n" + text + "\n";
    }

    private String id(String name) {
        return "<" + name + "." + nth + "@brightwater.example>";
    }

    private TicketNumber opened() {
        deliver(mail(dov, "Message-ID: " + id("first") + "\n", "Is the trailer on?"));
        pump();
        return newest();
    }

    private TicketNumber newest() {
        return sql().select(Tables.TICKET.NUMBER)
                .from(Tables.TICKET)
                .orderBy(Tables.TICKET.NUMBER.desc())
                .limit(1)
                .fetchSingle(Tables.TICKET.NUMBER);
    }

    private Ticket ticket(TicketNumber number) {
        return bean(Tickets.class).find(number, odile()).orElseThrow();
    }

    private Answering.Outcome answer(TicketNumber number, String html, Turn then) {
        var answer = new Answering.Answer(html, "", then, ticket(number).lastPublicSeq());
        Answering.Outcome outcome = bean(Answering.class).answer(number, answer, imani());
        post();
        return outcome;
    }

    private MimeMessage lastMail(String address) {
        return mailOf(address).getLast();
    }

    @Test
    void the_loop_an_email_becomes_a_ticket_is_answered_and_the_answer_to_that_joins() throws Exception {
        TicketNumber number = opened();
        Ticket ticket = ticket(number);
        assertThat(ticket.turn()).isEqualTo(Turn.OURS);
        assertThat(ticket.subject()).isEqualTo("Slot " + nth);
        assertThat(lastMail(dov).getSubject()).contains(number.toString());
        assertThat(lastMail(dov).getHeader("Auto-Submitted")).containsExactly("auto-replied");

        answer(number, "<p>Yes, <strong>lane 4</strong>.</p>", Turn.CUSTOMER);
        MimeMessage ours = lastMail(dov);
        assertThat(ours.getHeader("In-Reply-To")).containsExactly(id("first"));
        assertThat(ours.getHeader("References", " ")).contains(id("first"));
        assertThat(ours.getFrom()[0].toString())
                .contains("help@ternpassage.example")
                .contains("Imani Okoro");
        assertThat(ours.getReplyTo()[0].toString()).contains("help+t" + number + ".");
        assertThat(ticket(number).state()).isEqualTo(TicketState.WITH_CUSTOMER);

        deliver(mail(
                dov,
                "Message-ID: " + id("second") + "\nIn-Reply-To: " + ours.getMessageID() + "\n",
                "Thanks.\n\n> Yes, lane 4."));
        pump();
        assertThat(newest()).isEqualTo(number);
        assertThat(ticket(number).state()).isEqualTo(TicketState.IN_HAND);
        assertThat(ticket(number).messages()).isEqualTo(4);
    }

    @Test
    void a_second_delivery_of_the_same_message_changes_nothing() {
        TicketNumber number = opened();
        deliver("Received: by another server\n" + mail(dov, "Message-ID: " + id("first") + "\n", "Is the trailer on?"));
        pump();
        assertThat(newest()).isEqualTo(number);
        assertThat(ticket(number).messages()).isEqualTo(2);
    }

    @Test
    void a_mark_in_the_reply_address_joins_even_without_references_and_a_forged_one_does_not() throws Exception {
        TicketNumber number = opened();
        answer(number, "<p>Yes.</p>", Turn.CUSTOMER);
        String marked = lastMail(dov).getReplyTo()[0].toString().replaceAll(".*<|>.*", "");
        deliver(mail(dov, "Delivered-To: " + marked + "\n", "By the mark"));
        pump();
        assertThat(newest()).isEqualTo(number);
        String forged = marked.replaceFirst("\\.[0-9a-f]{4}", ".0000");
        deliver(mail(dov, "Delivered-To: " + forged + "\n", "By a forged mark"));
        pump();
        assertThat(newest()).isGreaterThan(number);
    }

    @Test
    void a_like_subject_alone_joins_nothing() {
        TicketNumber number = opened();
        deliver(mail(dov, "Message-ID: " + id("other") + "\n", "The same subject by chance"));
        pump();
        assertThat(newest()).isGreaterThan(number);
        assertThat(ticket(newest()).linkedTo()).isEmpty();
    }

    @Test
    void a_stranger_on_the_thread_gets_a_ticket_of_their_own_and_no_sight_of_the_other() throws Exception {
        TicketNumber number = opened();
        String nosy = "nosy" + nth + "@post.example";
        deliver(mail(
                nosy, "Message-ID: " + id("nosy") + "\nIn-Reply-To: " + id("first") + "\n", "What is this about?"));
        pump();
        assertThat(newest()).isGreaterThan(number);
        assertThat(ticket(newest()).linkedTo()).hasValue(number);
        answer(number, "<p>Only for Dov.</p>", Turn.CUSTOMER);
        assertThat(mailOf(nosy)).hasSize(1);
        assertThat(mailOf(nosy).getFirst().getContent().toString()).doesNotContain("Only for Dov");
    }

    @Test
    void an_absence_notice_joins_without_changing_the_turn_reopening_or_getting_an_answer() {
        TicketNumber number = opened();
        answer(number, "<p>Done.</p>", Turn.NOBODY);
        int mails = mailOf(dov).size();
        deliver(mail(
                dov,
                "Message-ID: " + id("away") + "\nAuto-Submitted: auto-replied\nIn-Reply-To: " + id("first") + "\n",
                "I am away."));
        pump();
        assertThat(ticket(number).state()).isEqualTo(TicketState.RESOLVED);
        assertThat(ticket(number).messages()).isEqualTo(4);
        assertThat(mailOf(dov)).hasSize(mails);
    }

    @Test
    void a_bounce_is_shown_on_the_ticket_whose_mail_bounced() throws Exception {
        TicketNumber number = opened();
        answer(number, "<p>Yes.</p>", Turn.CUSTOMER);
        String ours = lastMail(dov).getMessageID();
        deliver(
                "From: mailer-daemon@brightwater.example\nTo: help@ternpassage.example\nSubject: Undelivered\nMIME-Version: 1.0\n"
                        + "Content-Type: multipart/report; report-type=delivery-status; boundary=b" + nth + "\n\n--b"
                        + nth
                        + "\nContent-Type: text/plain\n\nNo such mailbox.\n--b" + nth
                        + "\nContent-Type: message/delivery-status\n\nFinal-Recipient: rfc822; x\nAction: failed\n\n--b"
                        + nth
                        + "\nContent-Type: text/rfc822-headers\n\nMessage-ID: " + ours + "\n\n--b" + nth + "--\n");
        pump();
        assertThat(newest()).isEqualTo(number);
        assertThat(sql().fetchCount(
                                Tables.MESSAGE, Tables.MESSAGE.TICKET.eq(number).and(Tables.MESSAGE.KIND.eq("BOUNCE"))))
                .isEqualTo(1);
        assertThat(ticket(number).turn()).isEqualTo(Turn.CUSTOMER);
    }

    @Test
    void a_resolved_ticket_is_taken_up_again_within_the_days_set_and_later_a_new_one_is_linked() {
        TicketNumber number = opened();
        answer(number, "<p>Done.</p>", Turn.NOBODY);
        clock().tick(Duration.ofDays(6));
        deliver(mail(dov, "Message-ID: " + id("soon") + "\nIn-Reply-To: " + id("first") + "\n", "Not quite."));
        pump();
        assertThat(ticket(number).state()).isEqualTo(TicketState.IN_HAND);
        answer(number, "<p>Done now.</p>", Turn.NOBODY);
        clock().tick(Duration.ofDays(8));
        deliver(mail(dov, "Message-ID: " + id("late") + "\nIn-Reply-To: " + id("first") + "\n", "Again."));
        pump();
        assertThat(newest()).isGreaterThan(number);
        assertThat(ticket(newest()).linkedTo()).hasValue(number);
        bean(Tickets.class).closeOver(clock().instant(), 1000);
        assertThat(ticket(number).state()).isEqualTo(TicketState.CLOSED);
        clock().set(RunningApp.MONDAY);
    }

    @Test
    void the_company_is_recognised_by_domain_but_never_for_a_public_one() {
        TicketNumber number = opened();
        assertThat(company(number)).isPresent();
        deliver(mail("someone" + nth + "@post.example", "", "Hello"));
        pump();
        assertThat(company(newest())).isEmpty();
    }

    private Optional<CompanyId> company(TicketNumber number) {
        return Optional.ofNullable(sql().select(Tables.CONTACT.COMPANY_ID)
                .from(Tables.TICKET)
                .join(Tables.CONTACT)
                .on(Tables.CONTACT.ID.eq(Tables.TICKET.CONTACT_ID))
                .where(Tables.TICKET.NUMBER.eq(number))
                .fetchSingle(Tables.CONTACT.COMPANY_ID));
    }

    @Test
    void a_known_second_address_of_the_contact_takes_part_in_the_ticket() {
        TicketNumber number = opened();
        String home = "dov" + nth + "@letterbox.example";
        bean(rafter.app.house.people.Contacts.class).addAddress(ticket(number).contact(), home);
        deliver(mail(home, "Message-ID: " + id("home") + "\nIn-Reply-To: " + id("first") + "\n", "From home."));
        pump();
        assertThat(newest()).isEqualTo(number);
    }

    @Test
    void an_address_gets_only_so_many_acknowledgements_in_an_hour() {
        for (int i = 0; i < 8; i++) {
            deliver(mail(dov, "Message-ID: " + id("loop" + i) + "\n", "Number " + i));
            pump();
        }
        assertThat(mailOf(dov)).hasSize(5);
    }

    @Test
    void two_people_answering_at_once_are_told_before_sending_and_nothing_is_lost() {
        TicketNumber number = opened();
        int seen = ticket(number).lastPublicSeq();
        bean(Drafts.class).save(number, Drafts.Kind.REPLY, "<p>Mine</p>", "", Turn.CUSTOMER, 0, sefa());
        answer(number, "<p>Imani was first.</p>", Turn.CUSTOMER);
        var second = bean(Answering.class)
                .answer(number, new Answering.Answer("<p>Mine</p>", "", Turn.CUSTOMER, seen), sefa());
        assertThat(second).isInstanceOfSatisfying(Answering.Outcome.Crossed.class, crossed -> {
            assertThat(crossed.words()).contains("Imani Okoro answered");
            var again = new Answering.Answer("<p>Mine</p>", "", Turn.CUSTOMER, crossed.seq());
            assertThat(bean(Drafts.class)
                            .find(number, Drafts.Kind.REPLY, sefa())
                            .html())
                    .isEqualTo("<p>Mine</p>");
            assertThat(bean(Answering.class).answer(number, again, sefa())).isInstanceOf(Answering.Outcome.Sent.class);
        });
        assertThat(bean(Drafts.class).find(number, Drafts.Kind.REPLY, sefa()).version())
                .isZero();
    }

    @Test
    void a_draft_changed_on_another_device_is_not_overwritten() {
        TicketNumber number = opened();
        Drafts drafts = bean(Drafts.class);
        drafts.save(number, Drafts.Kind.REPLY, "<p>One</p>", "", Turn.CUSTOMER, 0, imani());
        assertThat(drafts.save(number, Drafts.Kind.REPLY, "<p>Two</p>", "", Turn.CUSTOMER, 1, imani()))
                .isInstanceOf(Drafts.Saved.Kept.class);
        assertThat(drafts.save(number, Drafts.Kind.REPLY, "<p>Three</p>", "", Turn.CUSTOMER, 1, imani()))
                .isInstanceOfSatisfying(
                        Drafts.Saved.ChangedElsewhere.class,
                        there -> assertThat(there.there().html()).isEqualTo("<p>Two</p>"));
    }

    @Test
    void attachments_go_along_and_too_many_are_refused_with_the_rest_kept() throws Exception {
        TicketNumber number = opened();
        Drafts drafts = bean(Drafts.class);
        bean(DraftFiles.class)
                .attach(number, Drafts.Kind.REPLY, "plan größe.pdf", "application/pdf", new byte[1000], imani());
        assertThatThrownBy(() -> bean(DraftFiles.class)
                        .attach(
                                number,
                                Drafts.Kind.REPLY,
                                "big.bin",
                                "application/octet-stream",
                                new byte[25_000_000],
                                imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("are saved");
        answer(number, "<p>See the plan.</p>", Turn.CUSTOMER);
        var parts = (jakarta.mail.Multipart) lastMail(dov).getContent();
        assertThat(parts.getCount()).isEqualTo(2);
        assertThat(jakarta.mail.internet.MimeUtility.decodeText(
                        parts.getBodyPart(1).getFileName()))
                .isEqualTo("plan größe.pdf");
    }

    @Test
    void a_pasted_picture_goes_along_in_its_place_and_a_quotation_mark_in_a_files_name_stays_one() throws Exception {
        TicketNumber number = opened();
        String dot = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
        String address = Pictures.address(bean(Pictures.class)
                .attach(
                        number,
                        Drafts.Kind.REPLY,
                        "dot.png",
                        "image/png",
                        java.util.Base64.getDecoder().decode(dot),
                        imani()));
        bean(DraftFiles.class)
                .attach(number, Drafts.Kind.REPLY, "the \"plan\".txt", "text/plain", new byte[10], imani());
        answer(number, "<p>Here: <img src=\"" + address + "\"></p>", Turn.CUSTOMER);
        var raw = new java.io.ByteArrayOutputStream();
        lastMail(dov).writeTo(raw);
        String mail = raw.toString(java.nio.charset.StandardCharsets.ISO_8859_1);
        assertThat(mail)
                .contains("multipart/related", "Content-ID: <", "src=\"cid:")
                .containsIgnoringCase("content-disposition: inline");
        assertThat(mail).doesNotContain("%22").contains("\\\"plan\\\"");
    }

    @Test
    void a_failing_mail_server_delays_and_never_loses() {
        TicketNumber number = opened();
        var broken = bean(Mailboxes.class).find(RunningApp.help().id()).orElseThrow();
        int port = broken.smtp().port();
        sql().update(Tables.MAILBOX)
                .set(Tables.MAILBOX.SMTP_PORT, 1)
                .where(Tables.MAILBOX.ID.eq(broken.id()))
                .execute();
        int before = mailOf(dov).size();
        var sent = (Answering.Outcome.Sent) answer(number, "<p>Later.</p>", Turn.CUSTOMER);
        Delivery delivery =
                bean(Outbox.class).deliveries(List.of(sent.message())).get(sent.message());
        assertThat(delivery.state()).isEqualTo(Delivery.State.QUEUED);
        assertThat(delivery.reason()).contains("Nothing answers");
        assertThat(mailOf(dov)).hasSize(before);
        sql().update(Tables.MAILBOX)
                .set(Tables.MAILBOX.SMTP_PORT, port)
                .where(Tables.MAILBOX.ID.eq(broken.id()))
                .execute();
        bean(SendMail.class).send(delivery.id());
        assertThat(mailOf(dov)).hasSize(before + 1);
        assertThat(bean(SendMail.class).send(delivery.id())).isEmpty();
        assertThat(mailOf(dov)).hasSize(before + 1);
    }

    @Test
    void an_empty_reply_and_a_wrong_cc_are_refused_in_words() {
        TicketNumber number = opened();
        assertThatThrownBy(() -> answer(number, "<p> &nbsp;</p>", Turn.CUSTOMER))
                .isInstanceOf(Problem.Invalid.class);
        var wrong = new Answering.Answer("<p>Hi</p>", "not-an-address", Turn.CUSTOMER, 99);
        assertThatThrownBy(() -> bean(Answering.class).answer(number, wrong, imani()))
                .hasMessageContaining("not-an-address");
    }

    @Test
    void only_a_lead_hands_over_what_a_colleague_owns_but_anybody_may_take_it() {
        TicketNumber number = opened();
        Tickets tickets = bean(Tickets.class);
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        assertThatThrownBy(
                        () -> bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(odile().id())), sefa()))
                .isInstanceOf(Problem.NoRight.class);
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(sefa().id())), odile());
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        assertThat(ticket(number).owner()).hasValue(imani().id());
    }

    @Test
    void a_choice_made_on_an_old_page_is_refused_when_somebody_was_faster() {
        TicketNumber number = opened();
        Tickets tickets = bean(Tickets.class);
        bean(Acts.class).perform(number, new Act.SetPriority(Priority.P1), Optional.of("P3"), imani());
        assertThatThrownBy(() ->
                        bean(Acts.class).perform(number, new Act.SetPriority(Priority.P4), Optional.of("P3"), sefa()))
                .isInstanceOf(Problem.Stale.class)
                .hasMessageContaining("is P1 now");
    }

    @Test
    void the_row_of_a_ticket_is_the_fold_of_its_events_and_its_due_instant_the_first_of_its_clocks() {
        TicketNumber number = opened();
        bean(Acts.class).perform(number, new Act.SetPriority(Priority.P1), imani());
        answer(number, "<p>Yes.</p>", Turn.CUSTOMER);
        deliver(mail(dov, "Message-ID: " + id("more") + "\nIn-Reply-To: " + id("first") + "\n", "And the other one?"));
        pump();
        var row = sql().selectFrom(Tables.TICKET)
                .where(Tables.TICKET.NUMBER.eq(number))
                .fetchSingle();
        Ticket fold = ticket(number);
        assertThat(row.getState()).isEqualTo(fold.state().key());
        assertThat(row.getPriority()).isEqualTo(fold.priority().name());
        assertThat(row.getLastSeq()).isEqualTo(fold.seq());
        Instant first = sql().select(Tables.TICKET_CLOCK.DUE_AT)
                .from(Tables.TICKET_CLOCK)
                .where(Tables.TICKET_CLOCK.TICKET.eq(number))
                .and(Tables.TICKET_CLOCK.STATE.eq("RUNNING"))
                .orderBy(Tables.TICKET_CLOCK.DUE_AT)
                .limit(1)
                .fetchSingle(Tables.TICKET_CLOCK.DUE_AT);
        assertThat(row.getNextDue()).isEqualTo(first);
    }

    @Test
    void events_are_append_only_even_for_those_who_know_sql() {
        TicketNumber number = opened();
        assertThatThrownBy(() -> sql().deleteFrom(Tables.TICKET_EVENT)
                        .where(Tables.TICKET_EVENT.TICKET.eq(number))
                        .execute())
                .hasMessageContaining("append-only");
    }
}

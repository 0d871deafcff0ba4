package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;

import jakarta.mail.MessagingException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.app.RunningApp;
import rafter.core.id.PersonId;
import rafter.core.text.Earlier;
import rafter.database.Tables;

/** Every message becomes exactly one entry or is set aside, whatever it is. */
@ExtendWith(RunningApp.class)
class IntakeTest {

    static List<Corpus.Case> corpus() {
        return Corpus.all();
    }

    @Test
    void the_corpus_is_large_enough() {
        assertThat(corpus()).hasSizeGreaterThanOrEqualTo(50);
        assertThat(corpus().stream().map(Corpus.Case::name)).doesNotHaveDuplicates();
    }

    @ParameterizedTest
    @MethodSource("corpus")
    void it_is_read_and_shown(Corpus.Case one) throws MessagingException {
        ReadMail mail = MailReader.read(one.raw());
        one.expect()
                .accept(new Corpus.Read(
                        mail, IncomingHtml.of(mail, Earlier.of(Set.of("help@ternpassage.example"), List::of))));
    }

    @ParameterizedTest
    @MethodSource("corpus")
    void it_becomes_one_entry_or_is_set_aside_and_a_second_delivery_changes_nothing(Corpus.Case one) {
        long id = RunningApp.take(one.raw()).orElseThrow();
        String state = sql().select(Tables.INBOUND.STATE)
                .from(Tables.INBOUND)
                .where(Tables.INBOUND.ID.eq(id))
                .fetchSingle(Tables.INBOUND.STATE);
        assertThat(state).isEqualTo(one.aside() ? "ASIDE" : "DONE");
        assertThat(sql().fetchCount(Tables.MESSAGE, Tables.MESSAGE.INBOUND_ID.eq(id)))
                .isEqualTo(one.aside() ? 0 : 1);
        assertThat(RunningApp.take(one.raw())).isEmpty();
        assertThat(bean(Inbox.class).raw(id)).isEqualTo(one.raw());
    }

    @Test
    void a_message_waits_for_the_earlier_one_that_it_answers() {
        String first = "From: kai@post.example\nMessage-ID: <kai1@post.example>\nSubject: One\n\nOne";
        String second =
                "From: kai@post.example\nMessage-ID: <kai2@post.example>\nIn-Reply-To: <kai1@post.example>\nSubject: Two\n\nTwo";
        long a = bean(Inbox.class)
                .receive(RunningApp.help().id(), java.util.Optional.empty(), first.getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
        long b = RunningApp.take(second.getBytes(StandardCharsets.UTF_8)).orElseThrow();
        assertThat(RunningApp.ticketOf(b)).isEqualTo(RunningApp.ticketOf(a));
    }

    @Test
    void what_was_set_aside_can_be_made_a_ticket_or_dismissed_and_brought_back() {
        String notice =
                "From: robot@post.example\nMessage-ID: <robot@post.example>\nAuto-Submitted: auto-replied\nSubject: Away\n\nAway";
        Inbox inbox = bean(Inbox.class);
        long id = RunningApp.take(notice.getBytes(StandardCharsets.UTF_8)).orElseThrow();
        assertThat(inbox.aside(0, 200)).anySatisfy(aside -> {
            assertThat(aside.id()).isEqualTo(id);
            assertThat(aside.reason()).contains("automatic reply");
        });
        PersonId me = RunningApp.ravi().id();
        inbox.dismiss(id, me);
        assertThat(inbox.aside(0, 200)).noneMatch(aside -> aside.id() == id);
        inbox.bringBack(id, me);
        inbox.tryAgain(id, true, me);
        bean(Processor.class).processAll();
        assertThat(RunningApp.ticketOf(id).none()).isFalse();
    }

    @Test
    void a_mail_that_claims_to_be_ours_is_set_aside_and_a_copy_of_our_own_is_ignored() {
        String forged = "From: help@ternpassage.example\nMessage-ID: <forged@ternpassage.example>\nSubject: x\n\nHi";
        long id = RunningApp.take(forged.getBytes(StandardCharsets.UTF_8)).orElseThrow();
        assertThat(bean(Inbox.class).aside(0, 200)).anyMatch(aside -> aside.id() == id);
    }

    @Test
    void list_mail_opens_a_ticket_that_is_not_acknowledged() {
        String list =
                "From: tides@lists.example\nMessage-ID: <l1@lists.example>\nList-Id: <tides.lists.example>\nSubject: News\n\nNews";
        long id = RunningApp.take(list.getBytes(StandardCharsets.UTF_8)).orElseThrow();
        RunningApp.post();
        assertThat(RunningApp.ticketOf(id).none()).isFalse();
        assertThat(RunningApp.mailOf("tides@lists.example")).isEmpty();
    }
}

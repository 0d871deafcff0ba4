package rafter.app.tickets.mails;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.CONTACT;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acknowledgements;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.wording.Templates;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** The mails that Rafter writes by itself: which one, in which language, and how they are worded. */
@ExtendWith(RunningApp.class)
class AutomaticMailsTest extends Browsing {

    private final Templates templates = bean(Templates.class);
    private final int nth = unique();
    private final String address = "noor.m" + nth + "@m" + nth + ".example";
    private final List<Long> made = new ArrayList<>();
    private final List<TicketNumber> opened = new ArrayList<>();

    @BeforeEach
    void at_nine_on_monday() {
        // A Monday of its own: the minutes of all tests together are longer than a day.
        clock().set(RunningApp.MONDAY.plus(Duration.ofDays(7)).plusSeconds(unique()));
    }

    @AfterEach
    void as_it_was() {
        made.forEach(id -> templates.remove(id, one -> false, ravi().id()));
        Template first = templates.get(templates.the(Purpose.ACKNOWLEDGEMENT).id());
        if (first.versions().size() > 1) {
            save(with(first, first.open(), first.criteria(), first.versions().getFirst()));
        }
        opened.forEach(number -> bean(Acts.class).perform(number, new Act.MoveTo(TicketState.CLOSED.key()), imani()));
    }

    private static Template with(Template one, Template.Open open, Criteria criteria, Template.Version... versions) {
        return new Template(
                one.id(), one.purpose(), one.name(), true, open, criteria, List.of(versions), one.version());
    }

    private void save(Template template) {
        long id = templates.save(template, ravi().id());
        if (template.id() == 0) {
            made.add(id);
        }
    }

    private static Template acknowledgement(Template.Open open, Criteria criteria, String subject) {
        return new Template(
                0,
                Purpose.ACKNOWLEDGEMENT,
                "Another",
                true,
                open,
                criteria,
                List.of(new Template.Version("", subject, "Text {ticket}, open {opens}")),
                0);
    }

    private TicketNumber mail() {
        String raw = "From: Noor Vale <" + address + ">\nMessage-ID: <m" + unique() + "@post.example>\nSubject: Slot m"
                + nth + "\n\nWords";
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        opened.add(number);
        RunningApp.post();
        return number;
    }

    private String subject() throws MessagingException {
        List<MimeMessage> all = mailOf(address);
        return all.isEmpty() ? "nothing" : all.getLast().getSubject();
    }

    @Test
    void there_is_a_mail_for_each_purpose_from_the_beginning() {
        for (Purpose purpose : Purpose.values()) {
            assertThat(templates.of(purpose)).as("%s", purpose).hasSize(purpose == Purpose.OWN ? 0 : 1);
            assertThat(templates.of(purpose)).allMatch(one -> one.faults().isEmpty());
        }
    }

    @Test
    void an_acknowledgement_is_in_the_language_of_the_customer() throws MessagingException {
        Template first = templates.get(templates.the(Purpose.ACKNOWLEDGEMENT).id());
        save(with(
                first,
                first.open(),
                first.criteria(),
                first.words(""),
                new Template.Version("de", "Ihre Anfrage {ticket}", "Guten Tag {customer}")));
        TicketNumber english = mail();
        assertThat(subject()).contains("We have your request, number " + english);
        sql().update(CONTACT)
                .set(CONTACT.LANGUAGE, "de")
                .where(CONTACT.NAME.eq("Noor Vale"))
                .execute();
        TicketNumber german = mail();
        assertThat(subject()).isEqualTo("Ihre Anfrage " + german);
    }

    @Test
    void while_we_are_closed_another_one_says_when_we_open() throws MessagingException, IOException {
        save(acknowledgement(Template.Open.CLOSED, Criteria.everything(), "We are closed"));
        mail();
        assertThat(subject()).contains("We have your request");
        clock().tick(Duration.ofHours(14));
        mail();
        assertThat(subject()).isEqualTo("We are closed");
    }

    @Test
    void which_one_depends_on_what_the_ticket_became() throws MessagingException {
        save(acknowledgement(
                Template.Open.ANY, Criteria.test(KnownField.TOPIC, Operator.IS, "topic m" + nth), "About a topic"));
        TicketNumber number = mail();
        assertThat(subject()).as("it waits until the rules have been read").isEqualTo("nothing");
        bean(Acts.class).perform(number, new Act.SetTopic("topic m" + nth), imani());
        clock().tick(Duration.ofMinutes(3));
        assertThat(bean(Acknowledgements.class).sendDue(10)).isEqualTo(1);
        RunningApp.post();
        assertThat(subject()).isEqualTo("About a topic");
        assertThat(bean(Acknowledgements.class).sendDue(10)).isZero();
        TicketNumber other = mail();
        bean(Acknowledgements.class).late(other);
        bean(Acknowledgements.class).late(other);
        RunningApp.post();
        assertThat(mailOf(address)).hasSize(2);
        assertThat(subject()).contains("We have your request, number " + other);
    }

    @Test
    void a_template_that_was_changed_meanwhile_is_not_overwritten_and_one_that_was_removed_comes_back() {
        Template first = templates.the(Purpose.RATING);
        save(with(first, first.open(), first.criteria(), first.words("")));
        assertThatThrownBy(() -> save(with(first, first.open(), first.criteria(), first.words(""))))
                .isInstanceOf(Problem.Stale.class);
        assertThatThrownBy(() -> templates.remove(first.id(), one -> false, ravi().id()))
                .hasMessageContaining("needed");
        save(acknowledgement(Template.Open.ANY, Criteria.everything(), "Gone"));
        long id = made.getLast();
        assertThatThrownBy(() -> templates.remove(id, one -> true, ravi().id())).hasMessageContaining("rule");
        templates.remove(id, one -> false, ravi().id());
        assertThat(templates.find(id)).isEmpty();
        templates.bringBack(id, ravi().id());
        assertThat(templates.find(id)).isPresent();
        assertThatThrownBy(() -> templates.save(first, imani().id())).isInstanceOf(Problem.class);
    }

    @Test
    void a_mail_is_looked_at_with_a_real_ticket_sent_to_who_words_it_and_what_was_typed_stays()
            throws IOException, InterruptedException, MessagingException {
        TicketNumber number = mail();
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        String token = token(get("/house-rules/mails/new?purpose=own"));
        String[] typed = {
            "id",
            "0",
            "version",
            "0",
            "purpose",
            "own",
            "shown",
            "0",
            "name",
            "Own m" + nth,
            "on",
            "true",
            "v.0.language",
            "",
            "v.0.body",
            "Hello {customer}, about {subject}",
            "ticket",
            number.toString()
        };
        assertThat(post("/house-rules/mails/save", token, with(typed, "act", "shape", "v.0.subject", "On {ticket}"))
                        .body())
                .contains("On " + number)
                .contains("Hello Noor Vale, about Slot m" + nth);
        assertThat(post("/house-rules/mails/save", token, with(typed, "act", "send", "v.0.subject", "On {ticket}"))
                        .body())
                .contains("A test is on its way to ravi@ternpassage.example");
        RunningApp.post();
        assertThat(mailOf("ravi@ternpassage.example").getLast().getSubject()).isEqualTo("Test: On " + number);
        assertThat(post("/house-rules/mails/save", token, with(typed, "act", "save", "v.0.subject", "{nobody}"))
                        .body())
                .contains("There is no placeholder {nobody}")
                .contains("Hello {customer}, about {subject}");
        assertThat(post("/house-rules/mails/save", token, with(typed, "act", "add-language", "v.0.subject", "On"))
                        .body())
                .contains("v.1.language");
        assertThat(post("/house-rules/mails/save", token, with(typed, "act", "save", "v.0.subject", "On {ticket}"))
                        .body())
                .contains("is saved and used from now on")
                .contains("Own m" + nth);
        made.add(templates.of(Purpose.OWN).getFirst().id());
    }

    private static String[] with(String[] typed, String... more) {
        return Stream.of(typed, more).flatMap(Arrays::stream).toArray(String[]::new);
    }
}

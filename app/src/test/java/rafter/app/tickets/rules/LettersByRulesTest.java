package rafter.app.tickets.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.mailOf;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.NOTICE;
import static rafter.database.Tables.RULE_RUN;
import static rafter.database.Tables.TEAM_MEMBER;

import jakarta.mail.MessagingException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import rafter.app.RunningApp;
import rafter.app.house.access.Persons;
import rafter.app.house.notices.NoticeRules;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Companies;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.SteeringChoices;
import rafter.app.tickets.outside.Outside;
import rafter.app.tickets.outside.OutsideThread;
import rafter.app.tickets.wording.Templates;
import rafter.core.criteria.Criteria;
import rafter.core.id.CompanyId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.notice.Audience;
import rafter.core.notice.NoticeChoice;
import rafter.core.notice.NoticeEvent;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.ticket.Act;
import rafter.core.wording.Purpose;
import rafter.core.wording.Template;

/** Mails and notices that rules write: by templates, to people outside, and by the choice of who is told of what. */
class LettersByRulesTest extends RulesAtWork {

    private final Templates templates = bean(Templates.class);
    private final String partner = "harbour@" + word + ".example";
    private Optional<Long> made = Optional.empty();

    @AfterEach
    void no_template() {
        no_rules();
        made.ifPresent(id -> templates.remove(id, one -> false, ravi().id()));
    }

    private long template() {
        var template = new Template(
                0,
                Purpose.OWN,
                "Delay " + word,
                true,
                Template.Open.ANY,
                Criteria.everything(),
                List.of(
                        new Template.Version("", "Delay of {ticket}", "Dear {customer}, it takes longer."),
                        new Template.Version("de", "Verspätung {ticket}", "Guten Tag {customer}")),
                0);
        long id = templates.save(template, ravi().id());
        made = Optional.of(id);
        return id;
    }

    private String lastSubject(String to) throws MessagingException {
        RunningApp.post();
        return mailOf(to).getLast().getSubject();
    }

    @Test
    void a_rule_writes_by_a_template_in_the_language_of_the_customer() throws MessagingException {
        long id = template();
        force(when(Happening.CUSTOMER_WROTE, deed("mail", "template", Long.toString(id))));
        assertThatThrownBy(() -> templates.remove(id, one -> books.uses(one.id()), ravi().id()))
                .hasMessageContaining("A rule writes by this template");
        TicketNumber number = arrived("Hello");
        writesAgain(number);
        assertThat(lastSubject(address)).isEqualTo("Delay of " + number);
        sql().update(CONTACT)
                .set(CONTACT.LANGUAGE, "de-AT")
                .where(CONTACT.ID.in(sql().select(CONTACT_ADDRESS.CONTACT_ID)
                        .from(CONTACT_ADDRESS)
                        .where(CONTACT_ADDRESS.ADDRESS.eq(address))))
                .execute();
        writesAgain(number);
        assertThat(lastSubject(address)).isEqualTo("Verspätung " + number);
    }

    @Test
    void a_rule_puts_a_policy_a_queue_and_a_skill_on_a_ticket_and_one_that_is_gone_is_a_fault() {
        String policy = bean(SteeringChoices.class).policies().getFirst().id();
        force(arrival(deed("policy", "policy", policy)));
        TicketNumber number = arrived("Hello");
        assertThat(ticket(number).steering().policy()).isEqualTo(policy);
        assertThat(bean(RuleWords.class).faults(arrival(deed("policy", "policy", "none-such"))))
                .anyMatch(fault -> fault.contains("no such policy"));
        assertThat(bean(RuleWords.class).faults(arrival(deed("queue", "queue", "999999"))))
                .anyMatch(fault -> fault.contains("no such queue"));
        assertThat(bean(RuleWords.class).faults(arrival(deed("skill", "skill", ""))))
                .anyMatch(fault -> fault.contains("Choose a skill"));
    }

    private void writesAgain(TicketNumber number) {
        RunningApp.take(("From: " + address + "\nIn-Reply-To: <r" + mail + "@post.example>\nMessage-ID: <again"
                                + RunningApp.unique() + "@post.example>\nSubject: Re\n\nMore for " + number)
                        .getBytes(StandardCharsets.UTF_8))
                .orElseThrow();
        read();
    }

    @Test
    void a_template_that_is_gone_is_a_fault_before_it_comes_to_it() {
        Rule rule = when(Happening.CUSTOMER_WROTE, deed("mail", "template", "999999"));
        assertThat(bean(RuleWords.class).faults(rule)).anyMatch(fault -> fault.contains("template is gone"));
        assertThat(bean(RuleWords.class).faults(arrival(deed("outside", "text", "Hello"))))
                .anyMatch(fault -> fault.contains("to which address"));
        assertThat(bean(RuleWords.class)
                        .faults(arrival(deed("outside", "address", partner, "text", "See {request page}"))))
                .anyMatch(fault -> fault.contains("{request page}"));
    }

    @Test
    void a_rule_writes_to_somebody_outside_unseen_by_the_customer_and_reminds_them_until_they_answer()
            throws MessagingException {
        Rule remind = rule(
                new Occasion.Clock(Moment.CREATED, Duration.ofHours(5), false, 3, Duration.ofHours(5)),
                about(),
                true,
                deed("remind"));
        force(
                arrival(deed("outside", "address", partner, "subject", "Slot for {customer}", "text", "Is it free?")),
                remind);
        TicketNumber number = arrived("A slot, please");
        assertThat(lastSubject(partner)).isEqualTo("Slot for Ida Quay");
        assertThat(mailOf(address)).as("the acknowledgement alone").hasSize(1);
        OutsideThread thread =
                bean(Outside.class).of(number, odile()).stream().findFirst().orElseThrow();
        assertThat(thread.addresses()).containsExactly(partner);
        clock().tick(Duration.ofHours(6));
        read();
        assertThat(lastSubject(partner)).isEqualTo("Re: Slot for Ida Quay");
        assertThat(mailOf(partner)).hasSize(2);
        sql().update(rafter.database.Tables.OUTSIDE_THREAD)
                .set(rafter.database.Tables.OUTSIDE_THREAD.ANSWERED, true)
                .where(rafter.database.Tables.OUTSIDE_THREAD.ID.eq(thread.id()))
                .execute();
        clock().tick(Duration.ofHours(6));
        read();
        RunningApp.post();
        assertThat(mailOf(partner)).hasSize(2);
    }

    @Test
    void what_several_rules_did_is_written_in_its_order_though_one_of_them_asked_what_was_done_before() {
        TeamId team = bean(Persons.class).addTeam("Team " + word, Guard.ITSELF);
        sql().insertInto(TEAM_MEMBER, TEAM_MEMBER.TEAM_ID, TEAM_MEMBER.PERSON_ID)
                .values(team, imani().id())
                .execute();
        joined.add(team);
        Rule first = arrival(deed("tag", "tag", "first"));
        Rule second = arrival(deed("hand-by", "by", Deed.By.LEAST.name(), "team", team.toString()));
        Rule third = when(Happening.OWNER, deed("tag", "tag", "third"));
        force(first, second, third);
        TicketNumber number = arrived("Hello");
        assertThat(ticket(number).tags()).contains("first", "third");
        assertThat(sql().select(RULE_RUN.RULE_ID)
                        .from(RULE_RUN)
                        .where(RULE_RUN.TICKET.eq(number))
                        .orderBy(RULE_RUN.ID)
                        .fetch(RULE_RUN.RULE_ID))
                .containsExactly(first.id(), second.id(), third.id());
    }

    @Test
    void a_ticket_goes_to_who_looks_after_the_company_of_its_customer() {
        Companies companies = bean(Companies.class);
        CompanyId company = companies.saveLookedAfter(
                Optional.of(imani().id()),
                Optional.empty(),
                "Firm " + word,
                "",
                word + ".example",
                Map.of(),
                OptionalInt.empty(),
                ravi().id());
        assertThat(companies.agent(company)).contains(imani().id());
        force(arrival(deed("hand-by", "by", Deed.By.COMPANY.name())));
        assertThat(ticket(arrived("Of no company")).owner()).isEmpty();
        String raw = "From: Lo <lo@" + word + ".example>\nSubject: About " + word + "\n\nOf the firm";
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        mails.add(number);
        read();
        assertThat(ticket(number).owner()).contains(imani().id());
        companies.lookedAfter(company, Optional.empty(), ravi().id());
        assertThat(companies.agent(company)).isEmpty();
    }

    // ------------------------------------------------------------------ who is told of what

    private void choose(NoticeEvent event, Audience audience, boolean on, String words) {
        NoticeChoice was = NoticeChoice.of(books.newest().book(), event, audience);
        books.choose(
                new NoticeChoice(event, audience, on, was.subject(), words),
                books.newest().edition(),
                ravi().id());
    }

    @Test
    void who_is_told_of_what_holds_at_once_while_other_changes_of_the_rules_wait() throws MessagingException {
        RuleBooks.Draft draft = books.draft();
        RuleBook waits =
                new RuleBook(List.of(new RuleBook.Section("s", "All", List.of(arrival(deed("tag", "tag", "waits"))))));
        books.save(waits, draft.version(), ravi().id(), "a test");
        choose(NoticeEvent.RESOLVED, Audience.CUSTOMER, true, "Dear {customer}, {ticket} is done.");
        choose(NoticeEvent.RESOLVED, Audience.LEADS, true, "Done: {ticket} " + word);
        assertThat(books.draft().book().rules()).hasSize(3);
        assertThat(books.newest().book().rules()).hasSize(2);
        TicketNumber number = arrived("To be resolved");
        assertThat(ticket(number).tags()).isEmpty();
        acts.perform(number, new Act.MoveTo("in-hand"), imani());
        read();
        RunningApp.post();
        assertThat(mailOf(address)).hasSize(1);
        acts.perform(number, new Act.MoveTo("resolved"), imani());
        read();
        assertThat(lastSubject(address)).isEqualTo("Your request " + number + ": About " + word);
        assertThat(sql().fetchCount(NOTICE, NOTICE.WORDS.eq("Done: " + number + " " + word)))
                .isEqualTo(1);
        choose(NoticeEvent.RESOLVED, Audience.CUSTOMER, false, "Dear {customer}, {ticket} is done.");
        acts.perform(number, new Act.MoveTo("in-hand"), imani());
        acts.perform(number, new Act.MoveTo("resolved"), imani());
        read();
        RunningApp.post();
        assertThat(mailOf(address)).hasSize(2);
        assertThatThrownBy(() ->
                        books.choose(NoticeChoice.of(books.newest().book()).getFirst(), 0, ravi().id()))
                .isInstanceOf(Problem.Stale.class);
    }

    @Test
    void a_notice_that_rafter_gives_by_itself_can_be_reworded_and_switched_off_for_everybody() {
        NoticeRules notices = bean(NoticeRules.class);
        notices.choose(
                new NoticeRules.Rule(Notices.Kind.ANSWERED, true, "News " + word + " on {ticket}: {words}"),
                ravi().id());
        TicketNumber number = arrived("Hello");
        acts.perform(number, new Act.HandToPerson(Optional.of(imani().id())), imani());
        writesAgain(number);
        assertThat(sql().fetchCount(NOTICE, NOTICE.WORDS.startsWith("News " + word + " on " + number + ": Ida Quay")))
                .isEqualTo(1);
        notices.choose(new NoticeRules.Rule(Notices.Kind.ANSWERED, false, ""), ravi().id());
        writesAgain(number);
        assertThat(sql().fetchCount(NOTICE, NOTICE.TICKET.eq(number).and(NOTICE.KIND.eq("ANSWERED"))))
                .isEqualTo(1);
        assertThatThrownBy(() ->
                        notices.choose(new NoticeRules.Rule(Notices.Kind.ANSWERED, true, "{customer}"), ravi().id()))
                .hasMessageContaining("{customer}");
        notices.choose(new NoticeRules.Rule(Notices.Kind.ANSWERED, true, ""), ravi().id());
    }

    @Test
    void the_pages_of_notices_say_what_is_wrong_and_keep_what_was_typed() throws Exception {
        signIn("ravi@ternpassage.example", RunningApp.PASSWORD);
        var page = get("/house-rules/notices");
        assertThat(page.body()).contains("The customer rates it").contains("A ticket was handed to me");
        String path = "/house-rules/notices/resolved/customer";
        String seen = Long.toString(books.newest().edition());
        assertThat(post(path, token(page), "seen", seen, "on", "true", "subject", "", "words", "Typed " + word)
                        .body())
                .contains("The mail needs a subject.")
                .contains("Typed " + word);
        assertThat(post(path, token(page), "seen", seen, "on", "true", "subject", "S", "words", "{nobody}")
                        .body())
                .contains("{nobody}")
                .contains("What you typed is still here");
        assertThat(post(path, token(page), "seen", seen, "on", "true", "subject", "S", "words", "Fine " + word)
                        .body())
                .contains("the customer is told from now on");
        assertThat(get(path).body()).contains("Fine " + word);
        assertThat(post(path, token(page), "seen", seen, "on", "true", "subject", "S", "words", "Late")
                        .body())
                .contains("Somebody else put rules into force");
        assertThat(get("/house-rules/notices/nothing/customer").statusCode()).isEqualTo(404);
    }
}

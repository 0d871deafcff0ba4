package rafter.app.tickets.rules;

import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.ravi;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.RULE_CAUSE;
import static rafter.database.Tables.RULE_RUN;
import static rafter.database.Tables.RULE_TIMER;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.macros.Macros;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** What tests of rules share: a book for the tickets of one test, and mail that arrives. */
@ExtendWith(RunningApp.class)
abstract class RulesAtWork extends Browsing {

    final RuleBooks books = bean(RuleBooks.class);
    final RuleFiring firing = bean(RuleFiring.class);
    final RuleWhy why = bean(RuleWhy.class);
    final RuleRehearsals rehearsals = bean(RuleRehearsals.class);
    final RuleTimers timers = bean(RuleTimers.class);
    final Acts acts = bean(Acts.class);
    final Tickets tickets = bean(Tickets.class);
    final Macros macros = bean(Macros.class);
    final String word = "word" + unique();

    @BeforeEach
    void at_nine_on_monday() {
        RunningApp.nextMinute();
    }

    @AfterEach
    void no_rules() {
        if (books.draft().changed() || books.current().any()) {
            force();
        }
        sql().deleteFrom(RULE_CAUSE).execute();
        sql().deleteFrom(RULE_TIMER).execute();
        // Other classes look into lists of what is open.
        mails.stream()
                .filter(number -> ticket(number).open())
                .forEach(number -> acts.perform(number, new Act.MoveTo(TicketState.CLOSED.key()), odile()));
        joined.forEach(team -> sql().deleteFrom(rafter.database.Tables.TEAM_MEMBER)
                .where(rafter.database.Tables.TEAM_MEMBER.TEAM_ID.eq(team))
                .execute());
    }

    void force(Rule... rules) {
        RuleBook book = new RuleBook(List.of(new RuleBook.Section("s", "All", List.of(rules))));
        RuleBooks.Draft draft = books.draft();
        books.save(book, draft.version(), ravi().id(), "a test");
        if (books.draft().changed()) {
            long edition = books.putIntoForce(draft.version() + 1, List.of(), ravi().id());
            bean(rafter.app.platform.BackgroundWork.class).run(RuleTimers.KIND, edition);
        }
    }

    Rule rule(Occasion occasion, Criteria criteria, boolean carriesOn, Deed... deeds) {
        String id = "rule-" + unique();
        return new Rule(
                id, "Rule " + id, "For a test.", true, occasion, criteria, List.of(deeds), carriesOn, Instant.EPOCH);
    }

    Rule arrival(Deed... deeds) {
        return rule(new Occasion.Arrival(), about(), true, deeds);
    }

    Rule when(Happening happening, Deed... deeds) {
        return rule(new Occasion.Change(Set.of(happening), ""), about(), true, deeds);
    }

    /** Tickets of this test alone. */
    Criteria about() {
        return Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, word);
    }

    static Deed deed(String form, String... typed) {
        var map = new java.util.HashMap<String, String>();
        for (int i = 0; i < typed.length; i += 2) {
            map.put(typed[i], typed[i + 1]);
        }
        return new Deed(form, map);
    }

    String address = "";
    int mail;
    final List<TicketNumber> mails = new ArrayList<>();
    final List<TeamId> joined = new ArrayList<>();

    TicketNumber mail(String text) {
        int one = unique();
        mail = one;
        address = "ida" + one + "@rule" + one + ".example";
        String raw = "From: Ida Quay <" + address + ">\nMessage-ID: <r" + one + "@post.example>\nSubject: About " + word
                + "\n\n" + text;
        TicketNumber number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
        mails.add(number);
        return number;
    }

    void read() {
        while (firing.readDue(100) > 0) {
            // More.
        }
    }

    TicketNumber arrived(String text) {
        TicketNumber number = mail(text);
        read();
        return number;
    }

    Ticket ticket(TicketNumber number) {
        return tickets.find(number, odile()).orElseThrow();
    }

    HttpResponse<String> as(String who, String path) {
        try {
            signIn(who + "@ternpassage.example", RunningApp.PASSWORD);
            return get(path);
        } catch (java.io.IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    int runs(Rule rule) {
        return sql().fetchCount(RULE_RUN, RULE_RUN.RULE_ID.eq(rule.id()));
    }

    static String subject(jakarta.mail.internet.MimeMessage mail) {
        try {
            return mail.getSubject();
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }
}

package rafter.app.tickets.rules;

import static rafter.database.Tables.CONTACT_ADDRESS;

import java.time.Clock;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.ContactId;
import rafter.core.id.Id;
import rafter.core.id.MessageId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Reading;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleTrial;
import rafter.core.text.MailAddress;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Way;

/** Trying a message with the rules, and what they did on a ticket. */
@Controller
class TryingController {

    private final DSLContext sql;
    private final RuleBooks books;
    private final DeedForms deeds;
    private final RulePast past;
    private final RuleWhy why;
    private final CustomerFacts customers;
    private final Persons persons;
    private final Access access;
    private final Clock clock;

    TryingController(
            DSLContext sql,
            RuleBooks books,
            DeedForms deeds,
            RulePast past,
            RuleWhy why,
            CustomerFacts customers,
            Persons persons,
            Access access,
            Clock clock) {
        this.sql = sql;
        this.books = books;
        this.deeds = deeds;
        this.past = past;
        this.why = why;
        this.customers = customers;
        this.persons = persons;
        this.access = access;
        this.clock = clock;
    }

    /** What the rules read and did on a ticket, and why. */
    @GetMapping("/tickets/{number}/rules")
    String explained(@PathVariable TicketNumber number, Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("number", number);
        model.addAttribute("readings", why.of(number, me));
        model.addAttribute("mayChange", me.role().has(Right.HOUSE_RULES));
        return "tickets/rules/explained";
    }

    /** A message that is pasted, or the first one of a ticket, with the book as it is being changed; nothing comes of it. */
    @RequestMapping(
            path = RulesController.HERE + "/try",
            method = {RequestMethod.GET, RequestMethod.POST})
    String tried(
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "") String team,
            @RequestParam(defaultValue = "") String ticket,
            Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        Instant now = clock.instant();
        model.addAttribute("from", from);
        model.addAttribute("subject", subject);
        model.addAttribute("text", text);
        model.addAttribute("team", team);
        model.addAttribute("ticket", ticket);
        model.addAttribute("teams", persons.teams());
        RuleBook book = books.draft().book();
        model.addAttribute("rules", book.rules().size());
        boolean typed = !subject.isBlank() || !text.isBlank() || !from.isBlank();
        Optional<TicketNumber> number =
                Id.read(ticket.strip(), TicketNumber::new).filter(one -> why.there(one, me));
        if (!ticket.isBlank() && number.isEmpty()) {
            model.addAttribute("problem", "There is no ticket " + ticket.strip() + ". What you typed is still here.");
        } else if (number.isPresent()) {
            show(why.arrival(number.get(), me), why.arrivedAt(number.get()), book, model);
        } else if (!from.isBlank() && MailAddress.of(from).isEmpty()) {
            model.addAttribute("problem", "“" + from.strip() + "” is no mail address. What you typed is still here.");
        } else if (typed) {
            show(stood(from.strip(), subject.strip(), text, Id.read(team, TeamId::new), now), now, book, model);
        }
        return "tickets/rules/try";
    }

    private void show(RuleTrial.Stood stood, Instant at, RuleBook book, Model model) {
        RuleTrial.Outcome outcome =
                RuleTrial.read(RuleTrial.Tried.of(book), new Reading.Trigger.Came(), stood, deeds.effects(), at);
        List<RuleWhy.Step> steps = why.of(outcome, book, at);
        long matched = steps.stream().filter(RuleWhy.Step::matched).count();
        model.addAttribute("steps", steps);
        model.addAttribute(
                "summary",
                Say.number(steps.size()) + (steps.size() == 1 ? " rule was read, " : " rules were read, ") + matched
                        + " matched.");
    }

    private RuleTrial.Stood stood(String from, String subject, String text, Optional<TeamId> team, Instant now) {
        Optional<ContactId> contact = sql.select(CONTACT_ADDRESS.CONTACT_ID)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.ADDRESS.eq(from.toLowerCase(java.util.Locale.ROOT)))
                .fetchOptional(CONTACT_ADDRESS.CONTACT_ID);
        Facts customer = contact.map(customers::ofContact)
                .orElseGet(() -> Facts.none().with(KnownField.CONTACT_ADDRESS, from))
                .with(KnownField.FIRST_MESSAGE, text);
        ContactId who = contact.orElse(new ContactId(0));
        var actor = new Actor.Contact(who);
        List<TicketEvent> events = List.of(
                new TicketEvent.Opened(
                        now, actor, TicketEvent.Origin.CUSTOMER, Way.by("email"), subject, who, Priority.P3, team),
                new TicketEvent.CustomerWrote(now, actor, new MessageId(0), false));
        return past.stood(
                customer, events, List.of(new RulePast.Said(now, text)), now, EnumSet.allOf(KnownField.class));
    }
}

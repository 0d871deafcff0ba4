package rafter.app.work.customers;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Company;
import rafter.app.house.people.ContactCard;
import rafter.app.house.people.ContactCards;
import rafter.app.house.people.ContactJoins;
import rafter.app.house.people.Duplicates;
import rafter.app.house.people.KnownBy;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.work.worklist.ChosenTickets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.Id;
import rafter.core.id.TicketNumber;

/** A contact: what is written down about them, to be changed, and their tickets. */
@Controller
@RequestMapping("/contacts/{id}")
class ContactController {

    private static final int TICKETS = 20;

    /** A ticket of theirs. */
    public record Theirs(TicketNumber number, String subject, String state, String when) {}

    private final DSLContext sql;
    private final ContactCards cards;
    private final Duplicates duplicates;
    private final KnownBy known;
    private final ContactJoins joins;
    private final Companies companies;
    private final OwnFields fields;
    private final FieldInputs inputs;
    private final Targets targets;
    private final Access access;
    private final Clock clock;
    private final TicketStates states;

    ContactController(
            DSLContext sql,
            ContactCards cards,
            Duplicates duplicates,
            KnownBy known,
            ContactJoins joins,
            Companies companies,
            OwnFields fields,
            FieldInputs inputs,
            Targets targets,
            Access access,
            Clock clock,
            TicketStates states) {
        this.states = states;
        this.sql = sql;
        this.cards = cards;
        this.duplicates = duplicates;
        this.known = known;
        this.joins = joins;
        this.companies = companies;
        this.fields = fields;
        this.inputs = inputs;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String page(@PathVariable ContactId id, Model model) {
        Optional<ContactId> into = joins.into(id);
        if (into.isPresent()) {
            return "redirect:/contacts/" + into.get();
        }
        return page(cards.get(id), access.require(Right.WORK), model);
    }

    private String page(ContactCard card, Viewer me, Model model) {
        Optional<Company> company = card.company().flatMap(companies::find);
        model.addAttribute("card", card);
        model.addAttribute("company", company);
        model.addAttribute("companies", companies.all());
        model.addAttribute("own", inputs.of(OwnField.Bearer.CONTACT, card.own()));
        model.addAttribute(
                "ofCompany",
                company.map(c -> fields.values(OwnField.Bearer.COMPANY, c.own()))
                        .orElse(List.of()));
        model.addAttribute("languages", Languages.with(card.language()));
        model.addAttribute("zones", new TreeSet<>(ZoneId.getAvailableZoneIds()));
        model.addAttribute("addresses", String.join("\n", card.addresses()));
        model.addAttribute("phones", String.join("\n", card.phones()));
        model.addAttribute(
                "handles",
                known.names(card.id()).stream().map(KnownBy.Author::handle).toList());
        model.addAttribute("tickets", tickets(card.id(), me));
        model.addAttribute("most", TICKETS);
        model.addAttribute("twins", duplicates.of(card.id()));
        model.addAttribute(
                "open",
                card.addresses().isEmpty()
                        ? ""
                        : ChosenTickets.openWhere(Criteria.test(
                                KnownField.CONTACT_ADDRESS,
                                Operator.IS,
                                card.addresses().stream().min(String::compareTo).orElseThrow())));
        return "work/customers/contact";
    }

    /** The latest of their tickets. */
    private List<Theirs> tickets(ContactId contact, Viewer me) {
        Instant now = clock.instant();
        return sql.select(TICKET.NUMBER, TICKET.SUBJECT, TICKET.STATE, TICKET.CHANGED_AT)
                .from(me.tickets())
                .where(TICKET.CONTACT_ID.eq(contact))
                .andNot(TICKET.DISCARDED)
                .orderBy(TICKET.NUMBER.desc())
                .limit(TICKETS)
                .fetch(r -> new Theirs(
                        r.value1(),
                        r.value2(),
                        states.name(r.value3()),
                        Say.when(r.value4(), now, targets.terms().zone())));
    }

    @PostMapping
    String save(
            @PathVariable ContactId id,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String company,
            @RequestParam(defaultValue = "") String addresses,
            @RequestParam(defaultValue = "") String phones,
            @RequestParam(defaultValue = "") String language,
            @RequestParam(defaultValue = "") String zone,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam MultiValueMap<String, String> form,
            Model model,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<CompanyId> chosen = Id.read(company, CompanyId::new);
        Map<String, String> typed = OwnFields.typed(form);
        var card = new ContactCard(
                id, name, chosen, lines(addresses), lines(phones), language, zone.strip(), typed, version);
        Map<String, String> before = cards.get(id).own();
        try {
            cards.save(card, me.id());
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return page(card, me, model);
        }
        redirect.addFlashAttribute(
                "said", name.strip() + " is saved." + fields.notAsked(OwnField.Bearer.CONTACT, typed, before));
        return "redirect:/contacts/" + id;
    }

    /** One a line; commas part them, too. */
    private static List<String> lines(String typed) {
        return typed.lines()
                .flatMap(line -> List.of(line.split("[,;]")).stream())
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .toList();
    }
}

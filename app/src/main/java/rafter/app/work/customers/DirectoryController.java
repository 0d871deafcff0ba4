package rafter.app.work.customers;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.Companies;
import rafter.app.house.people.Company;
import rafter.app.house.people.Duplicates;
import rafter.app.house.states.TicketStates;
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
import rafter.core.id.TicketNumber;

/** Contacts and companies: their lists, and a company's page. */
@Controller
@RequestMapping("/people")
class DirectoryController {

    private static final int TICKETS = 20;
    private static final int MOST_WORDS = 200;
    private static final int PAIRS = 100;

    private final Directory directory;
    private final CompanyDirectory firms;
    private final Duplicates duplicates;
    private final Companies companies;
    private final OwnFields fields;
    private final TicketStates states;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    DirectoryController(
            Directory directory,
            CompanyDirectory firms,
            Duplicates duplicates,
            Companies companies,
            OwnFields fields,
            TicketStates states,
            Targets targets,
            Access access,
            Clock clock) {
        this.directory = directory;
        this.firms = firms;
        this.duplicates = duplicates;
        this.companies = companies;
        this.fields = fields;
        this.states = states;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    /** A ticket in a list of a company's. */
    public record Line(TicketNumber number, String subject, String state, String contact, String when, String exact) {}

    @GetMapping
    String contacts(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(required = false) Optional<CompanyId> company,
            @RequestParam(defaultValue = "false") boolean open,
            @RequestParam(required = false) Optional<ContactId> after,
            @RequestParam(required = false) Optional<ContactId> before,
            Model model) {
        Viewer me = access.require(Right.WORK);
        var asked = new Directory.Asked(checked(q), company, open);
        model.addAttribute("q", q);
        model.addAttribute("open", open);
        model.addAttribute("company", company.flatMap(companies::find));
        model.addAttribute("part", directory.contacts(asked, from(after, before), me));
        model.addAttribute(
                "here",
                "/people?q=" + inAddress(q) + "&open=" + open
                        + company.map(id -> "&company=" + id).orElse("") + "&");
        model.addAttribute("count", counted(directory.count(asked, me)));
        model.addAttribute("mayImport", me.role().has(Right.HOUSE_RULES));
        return "work/customers/contacts";
    }

    /** Contacts that may be the same persons. */
    @GetMapping("/duplicates")
    String duplicates(Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("pairs", duplicates.overAll(PAIRS));
        model.addAttribute("most", PAIRS);
        model.addAttribute("mayImport", me.role().has(Right.HOUSE_RULES));
        return "work/customers/duplicates";
    }

    @GetMapping("/companies")
    String companies(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(required = false) Optional<CompanyId> after,
            @RequestParam(required = false) Optional<CompanyId> before,
            Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("q", q);
        model.addAttribute("here", "/people/companies?q=" + inAddress(q) + "&");
        model.addAttribute("part", firms.companies(checked(q), from(after, before), me));
        model.addAttribute("mayImport", me.role().has(Right.HOUSE_RULES));
        return "work/customers/companies";
    }

    @GetMapping("/companies/{id}")
    String company(@PathVariable CompanyId id, Model model) {
        Viewer me = access.require(Right.WORK);
        Company company = companies.find(id).orElseThrow(() -> new Problem.NotFound("There is no such company."));
        Instant now = clock.instant();
        model.addAttribute("company", company);
        model.addAttribute(
                "list", ChosenTickets.openWhere(Criteria.test(KnownField.COMPANY, Operator.IS, id.toString())));
        model.addAttribute("figures", firms.figures(id, me, now));
        model.addAttribute("own", fields.values(OwnField.Bearer.COMPANY, company.own()));
        model.addAttribute(
                "part",
                directory.contacts(new Directory.Asked("", Optional.of(id), false), new ByName.From.Top<>(), me));
        model.addAttribute("openOnes", lines(firms.tickets(id, true, TICKETS, me), now));
        model.addAttribute("endedOnes", lines(firms.tickets(id, false, TICKETS, me), now));
        model.addAttribute("mayChange", me.role().has(Right.HOUSE_RULES));
        return "work/customers/company";
    }

    private List<Line> lines(List<CompanyDirectory.Theirs> tickets, Instant now) {
        ZoneId zone = targets.terms().zone();
        return tickets.stream()
                .map(one -> new Line(
                        one.number(),
                        one.subject(),
                        states.name(one.state()),
                        one.contact(),
                        Say.when(one.changed(), now, zone),
                        Say.exactly(one.changed(), zone)))
                .toList();
    }

    private static <T> ByName.From<T> from(Optional<T> after, Optional<T> before) {
        return after.<ByName.From<T>>map(ByName.From.After::new)
                .or(() -> before.map(ByName.From.Before::new))
                .orElse(new ByName.From.Top<>());
    }

    private static String checked(String words) {
        if (words.length() > MOST_WORDS) {
            throw new Problem.Invalid("Contacts are looked for by at most " + MOST_WORDS + " letters.");
        }
        return words.replace("\u0000", "");
    }

    private static String inAddress(String words) {
        return URLEncoder.encode(words, StandardCharsets.UTF_8);
    }

    private static String counted(int count) {
        return count < Directory.COUNTED ? Say.number(count) : "more than " + Say.number(Directory.COUNTED);
    }
}

package rafter.app.house.people;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
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
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.fields.FieldInputs;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.criteria.OwnField;
import rafter.core.id.CompanyId;
import rafter.core.id.PersonId;

/** The companies whose people are recognised by their mail domain. */
@Controller
@RequestMapping("/house-rules/companies")
class CompaniesController {

    private static final CompanyId NEW = new CompanyId(0);

    private static final List<String> PLANS = List.of("", "Harbour", "Anchor");

    /** What is typed into the form. */
    public record Form(
            CompanyId id,
            String name,
            String plan,
            String domains,
            @Nullable PersonId agent,
            @Nullable Integer version) {

        /** A form that lacks a field is that of a new company with nothing in it. */
        public Form(
                @Nullable CompanyId id,
                @Nullable String name,
                @Nullable String plan,
                @Nullable String domains,
                @Nullable PersonId agent,
                @Nullable Integer version) {
            this.id = id == null ? NEW : id;
            this.name = Say.orBlank(name);
            this.plan = Say.orBlank(plan);
            this.domains = Say.orBlank(domains);
            this.agent = agent;
            this.version = version;
        }

        static Form of(Company c, Optional<PersonId> agent) {
            return new Form(c.id(), c.name(), c.plan(), String.join(" ", c.domains()), agent.orElse(null), c.version());
        }

        private Optional<PersonId> chosen() {
            return Optional.ofNullable(agent).filter(person -> !person.none());
        }
    }

    private final OwnFields fields;
    private final FieldInputs inputs;

    private final Companies companies;
    private final Persons persons;
    private final Access access;

    CompaniesController(OwnFields fields, FieldInputs inputs, Companies companies, Persons persons, Access access) {
        this.persons = persons;
        this.fields = fields;
        this.inputs = inputs;
        this.companies = companies;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("companies", companies.all());
        if (!model.containsAttribute("domains")) {
            model.addAttribute("domains", String.join("\n", companies.publicDomains()));
        }
        return "house/people/companies";
    }

    @GetMapping("/{id}")
    String edit(@PathVariable CompanyId id, Model model) {
        access.require(Right.HOUSE_RULES);
        Form form = id.none()
                ? new Form(NEW, "", "", "", null, 0)
                : companies
                        .find(id)
                        .map(one -> Form.of(one, companies.agent(id)))
                        .orElseThrow(() -> new Problem.NotFound("There is no such company."));
        return form(
                form,
                companies.find(id).map(Company::own).orElseGet(() -> inputs.presets(OwnField.Bearer.COMPANY)),
                model);
    }

    private String form(Form form, Map<String, String> values, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("own", inputs.of(OwnField.Bearer.COMPANY, values));
        model.addAttribute("plans", PLANS);
        model.addAttribute("people", persons.active());
        return "house/people/company";
    }

    @PostMapping("/public")
    String savePublic(@RequestParam(defaultValue = "") String domains, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            companies.savePublicDomains(domains, me);
            redirect.addFlashAttribute("said", "The public mail domains are saved.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("domains", domains);
        }
        return "redirect:/house-rules/companies";
    }

    private static OptionalInt seen(Form form) {
        return form.version() == null ? OptionalInt.empty() : OptionalInt.of(form.version());
    }

    @PostMapping("/save")
    String save(Form form, @RequestParam MultiValueMap<String, String> sent, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = OwnFields.typed(sent);
        if (!PLANS.contains(form.plan())) {
            throw new Problem.Invalid("There is no such plan.");
        }
        String left = fields.notAsked(
                OwnField.Bearer.COMPANY,
                typed,
                companies.find(form.id()).map(Company::own).orElse(Map.of()));
        try {
            companies.saveLookedAfter(
                    form.chosen(),
                    form.id().none() ? Optional.empty() : Optional.of(form.id()),
                    form.name(),
                    form.plan(),
                    form.domains(),
                    typed,
                    seen(form),
                    me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words());
            return form(form, typed, model);
        }
        redirect.addFlashAttribute("said", form.name() + " is saved." + left);
        return "redirect:/house-rules/companies";
    }
}

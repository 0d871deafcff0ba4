package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
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
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.SteeringChoices;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.wording.Templates;
import rafter.core.criteria.Formula;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.wording.Purpose;

/** The page on which a rule is written. */
@Controller
@RequestMapping(RulesController.HERE)
class RuleController {

    /** What a rule can do, for choosing. */
    public record DeedChoice(String key, String words) {}

    /** A deed as the page draws it. */
    public record DeedLine(int place, Deed deed, List<String> fields, String fault) {}

    /** Something that the rule did. */
    public record RunLine(String ticket, String at, String done, String failed) {}

    private static final int LAST = 12;

    private final RuleBooks books;
    private final RuleWords words;
    private final DeedForms deeds;
    private final RuleLog log;
    private final RuleCalls calls;
    private final CriteriaNames names;
    private final Persons persons;
    private final SteeringChoices steers;
    private final TicketStates states;
    private final OwnFields fields;
    private final Macros macros;
    private final Templates templates;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    RuleController(
            RuleBooks books,
            RuleWords words,
            DeedForms deeds,
            RuleLog log,
            RuleCalls calls,
            CriteriaNames names,
            Persons persons,
            SteeringChoices steers,
            TicketStates states,
            OwnFields fields,
            Macros macros,
            Templates templates,
            Targets targets,
            Access access,
            Clock clock) {
        this.steers = steers;
        this.books = books;
        this.words = words;
        this.deeds = deeds;
        this.log = log;
        this.calls = calls;
        this.names = names;
        this.persons = persons;
        this.states = states;
        this.fields = fields;
        this.macros = macros;
        this.templates = templates;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/{id}")
    String edit(@PathVariable String id, @RequestParam(defaultValue = "") String section, Model model) {
        access.require(Right.HOUSE_RULES);
        RuleBooks.Draft draft = books.draft();
        RuleForm form = id.equals(RuleForm.NEW)
                ? RuleForm.empty(section)
                : draft.book()
                        .rule(id)
                        .map(rule -> RuleForm.of(rule, sectionOf(draft.book(), rule)))
                        .orElseThrow(() -> new Problem.NotFound("There is no such rule any more."));
        return page(form, draft, draft.version(), model);
    }

    private static String sectionOf(RuleBook book, Rule rule) {
        return book.sectionOf(rule.id()).map(RuleBook.Section::id).orElse("");
    }

    private String page(RuleForm form, RuleBooks.Draft draft, int version, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("version", version);
        model.addAttribute("title", form.name().isEmpty() ? "A new rule" : form.name());
        model.addAttribute("sections", draft.book().sections());
        model.addAttribute("node", CriteriaForm.draw(form.criteria(), names, names.ofRules()));
        model.addAttribute("reads", reads(form));
        model.addAttribute("happenings", Happening.values());
        model.addAttribute("moments", Moment.values());
        model.addAttribute("deeds", lines(form));
        model.addAttribute("choices", choices());
        model.addAttribute("bys", Deed.By.values());
        model.addAttribute("whoms", Act.Whom.values());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("steers", steers);
        model.addAttribute("people", persons.active());
        model.addAttribute("states", states.all());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute("fields", fields.shown(OwnField.Bearer.TICKET));
        model.addAttribute("macros", macros.shared());
        model.addAttribute("templates", templates.of(Purpose.OWN));
        model.addAttribute("placeholders", Placeholder.forRules());
        model.addAttribute("callKey", calls.key());
        model.addAttribute("names", Formula.names());
        model.addAttribute("runs", runs(form));
        return "tickets/rules/rule";
    }

    private String reads(RuleForm form) {
        try {
            RuleWords.Said said = words.said(form.rule(), words.sentence());
            return said.when() + (said.criteria().isEmpty() ? "" : ", if " + said.criteria()) + ", then "
                    + (said.deeds().isEmpty() ? "nothing" : String.join(", ", said.deeds()));
        } catch (Problem.Invalid e) {
            return e.words();
        }
    }

    private List<DeedLine> lines(RuleForm form) {
        var lines = new ArrayList<DeedLine>();
        for (Deed deed : form.deeds()) {
            List<String> asked = rafter.core.ticket.ActForm.of(deed.form())
                    .map(rafter.core.ticket.ActForm::fields)
                    .or(() -> Deed.Special.of(deed.form()).map(Deed.Special::fields))
                    .orElse(List.of());
            boolean begun = !deed.typed().isEmpty();
            lines.add(new DeedLine(
                    lines.size(), deed, asked, begun ? deeds.fault(deed).orElse("") : ""));
        }
        return lines;
    }

    private static List<DeedChoice> choices() {
        var all = new ArrayList<DeedChoice>();
        Deed.ACTS.forEach(form -> all.add(new DeedChoice(form.key(), form.words())));
        Arrays.stream(Deed.Special.values()).forEach(one -> all.add(new DeedChoice(one.key(), one.words())));
        return all;
    }

    private List<RunLine> runs(RuleForm form) {
        ZoneId zone = targets.zone();
        return form.id().equals(RuleForm.NEW)
                ? List.of()
                : log.last(form.id(), LAST).stream()
                        .map(run -> new RunLine(
                                run.ticket().toString(),
                                Say.when(run.at(), clock.instant(), zone),
                                String.join(", ", run.done()),
                                String.join("; ", run.failed())))
                        .toList();
    }

    /** Saves; or, for a button that changes the form's shape, shows the form in that shape with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            @RequestParam int version,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        RuleForm form = RuleForm.read(typed);
        RuleBooks.Draft draft = books.draft();
        if (!act.equals("save")) {
            return page(form.after(act), draft, version, model);
        }
        try {
            Rule rule = form.rule();
            List<String> faults = rule.on() ? faults(rule) : List.of();
            if (!faults.isEmpty()) {
                throw new Problem.Invalid(String.join(" ", faults) + " Or switch it off to keep it as a draft.");
            }
            RuleBook book =
                    draft.book().sections().isEmpty() ? draft.book().withSection("section-1", "Rules") : draft.book();
            books.save(book.with(rule, form.section()), version, me, "changed the rule " + rule.name());
            redirect.addFlashAttribute(
                    "said",
                    (rule.name().isBlank() ? "The draft" : "“" + rule.name() + "”") + " is saved; not in force yet.");
            return "redirect:" + RulesController.HERE;
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words() + " What you typed is still here.");
            return page(form, draft, e instanceof Problem.Stale ? draft.version() : version, model);
        }
    }

    private List<String> faults(Rule rule) {
        var all = new ArrayList<>(rule.faults());
        all.addAll(words.faults(rule));
        return all;
    }

    /** What is wrong with a formula, while it is typed; its field is called by its place in the sentence. */
    @PostMapping("/formula")
    String formula(@RequestParam MultiValueMap<String, String> typed, Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute(
                "fault",
                typed.keySet().stream()
                        .filter(name -> name.endsWith(".text"))
                        .map(name -> Say.orBlank(typed.getFirst(name)))
                        .filter(text -> !text.isBlank())
                        .flatMap(text -> Formula.of(text).fault().stream())
                        .findFirst()
                        .orElse(""));
        return "tickets/rules/formula :: fault";
    }
}

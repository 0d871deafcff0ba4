package rafter.app.house.forms;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
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
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;

/** The forms of tickets: for which tickets each is, and which fields it asks for in which order. */
@Controller
@RequestMapping("/house-rules/forms")
class FormsController {

    /** A form as the list shows it. */
    public record Line(long id, String name, String sentence, List<String> sections) {}

    /** A rule as the list shows it. */
    public record RuleLine(long id, String field, String effect, String choices, String sentence) {}

    private final FormStore store;
    private final FieldRules rules;
    private final Forms forms;
    private final OwnFields fields;
    private final CriteriaNames names;
    private final Access access;

    FormsController(
            FormStore store, FieldRules rules, Forms forms, OwnFields fields, CriteriaNames names, Access access) {
        this.store = store;
        this.rules = rules;
        this.forms = forms;
        this.fields = fields;
        this.names = names;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        Map<Long, String> called = fields.all().stream()
                .collect(Collectors.toMap(field -> field.field().id(), AddedField::name));
        model.addAttribute(
                "forms", store.all().stream().map(one -> line(one, called)).toList());
        model.addAttribute(
                "rules",
                rules.all().stream()
                        .map(one -> new RuleLine(
                                one.id(),
                                called.getOrDefault(one.rule().field(), "a field that is gone"),
                                one.rule().effect().words(),
                                String.join(", ", one.rule().choices()),
                                names.sentence().of(one.rule().when())))
                        .toList());
        return "house/forms/forms";
    }

    private Line line(FormStore.Kept kept, Map<Long, String> called) {
        return new Line(
                kept.id(),
                kept.form().name(),
                names.sentence().of(kept.form().when()),
                kept.form().sections().stream()
                        .map(section -> (section.name().isEmpty() ? "" : section.name() + ": ")
                                + section.fields().stream()
                                        .map(field -> called.getOrDefault(field, "a field that is gone"))
                                        .collect(Collectors.joining(", ")))
                        .toList());
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        FormDraft draft = id == 0 ? FormDraft.empty() : FormDraft.of(kept(id));
        return page(draft, model);
    }

    private FormStore.Kept kept(long id) {
        return store.find(id).orElseThrow(() -> new Problem.NotFound("There is no such form any more."));
    }

    private String page(FormDraft draft, Model model) {
        List<AddedField> all = fields.shown(OwnField.Bearer.TICKET);
        model.addAttribute("draft", draft);
        model.addAttribute("lines", draft.lines(all));
        model.addAttribute(
                "free",
                all.stream().filter(field -> !draft.has(field.field().id())).toList());
        model.addAttribute("node", CriteriaForm.draw(draft.when(), names, forms.asked()));
        model.addAttribute("sentence", names.sentence().of(draft.when()));
        return "house/forms/form";
    }

    /** Saves; or, for a button that changes the form's shape, shows it in that shape with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        FormDraft draft = FormDraft.read(typed);
        if (!act.equals("save")) {
            return page(draft.after(act), model);
        }
        try {
            store.save(draft.id(), draft.form(), draft.version(), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words());
            return page(draft, model);
        }
        redirect.addFlashAttribute(
                "said", "“" + draft.name().strip() + "” is saved. Tickets are asked by it from now on.");
        return "redirect:/house-rules/forms";
    }

    @PostMapping("/{id}/move")
    String move(@PathVariable long id, @RequestParam(defaultValue = "0") int by) {
        store.move(id, by, access.require(Right.HOUSE_RULES).id());
        return "redirect:/house-rules/forms";
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        FormStore.Kept was = store.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute(
                "said", "“" + was.form().name() + "” is taken away; what stands in fields is as it was.");
        return "redirect:/house-rules/forms";
    }
}

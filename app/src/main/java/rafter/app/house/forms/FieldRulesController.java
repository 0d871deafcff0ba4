package rafter.app.house.forms;

import java.util.List;
import java.util.Optional;
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
import rafter.app.platform.Say;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.OwnField;
import rafter.core.form.FieldRule;
import rafter.core.id.PersonId;

/** What forms do with fields of tickets that match. */
@Controller
@RequestMapping("/house-rules/forms/rules")
class FieldRulesController {

    private final FieldRules rules;
    private final Forms forms;
    private final OwnFields fields;
    private final CriteriaNames names;
    private final Access access;

    FieldRulesController(FieldRules rules, Forms forms, OwnFields fields, CriteriaNames names, Access access) {
        this.rules = rules;
        this.forms = forms;
        this.fields = fields;
        this.names = names;
        this.access = access;
    }

    @GetMapping("/{id}")
    String edit(@PathVariable long id, @RequestParam(defaultValue = "0") long field, Model model) {
        access.require(Right.HOUSE_RULES);
        if (id == 0) {
            return page(0, new FieldRule(field, FieldRule.Effect.SHOW, List.of(), Criteria.everything()), 0, model);
        }
        FieldRules.Kept kept =
                rules.find(id).orElseThrow(() -> new Problem.NotFound("There is no such rule any more."));
        return page(id, kept.rule(), kept.version(), model);
    }

    private String page(long id, FieldRule rule, int version, Model model) {
        List<AddedField> all = fields.shown(OwnField.Bearer.TICKET);
        Optional<AddedField> chosen =
                all.stream().filter(one -> one.field().id() == rule.field()).findFirst();
        model.addAttribute("id", id);
        model.addAttribute("version", version);
        model.addAttribute("rule", rule);
        model.addAttribute("fields", all);
        model.addAttribute("effects", FieldRule.Effect.values());
        model.addAttribute("choices", chosen.map(AddedField::choices).orElse(List.of()));
        model.addAttribute("node", CriteriaForm.draw(rule.when(), names, forms.asked()));
        model.addAttribute("sentence", names.sentence().of(rule.when()));
        return "house/forms/rule";
    }

    /** Saves; or, for a button or a choice that changes the form's shape, shows it in that shape with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        long id = FormDraft.number(typed.getFirst("id"));
        int version = (int) FormDraft.number(typed.getFirst("version"));
        var rule = new FieldRule(
                FormDraft.number(typed.getFirst("field")),
                FieldRule.Effect.of(Say.orBlank(typed.getFirst("effect"))).orElse(FieldRule.Effect.SHOW),
                typed.getOrDefault("choice", List.of()),
                CriteriaForm.read(typed));
        if (!act.equals("save")) {
            var shaped = new FieldRule(rule.field(), rule.effect(), rule.choices(), CriteriaForm.act(rule.when(), act));
            return page(id, shaped, version, model);
        }
        try {
            rules.save(id, rule, version, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words());
            return page(id, rule, version, model);
        }
        redirect.addFlashAttribute("said", "The rule is saved. Tickets are asked by it from now on.");
        return "redirect:/house-rules/forms";
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        rules.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The rule is taken away.");
        return "redirect:/house-rules/forms";
    }
}

package rafter.app.work.shape;

import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.AddedField;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Ids;
import rafter.app.platform.Problem;
import rafter.core.criteria.OwnField;

/** Where a field is used, and how it and its choices are taken out of use. */
@Controller
@RequestMapping("/house-rules/fields/{id}")
class FieldUsesController {

    private final OwnFields fields;
    private final FieldUses uses;
    private final FieldRetiring retiring;
    private final Access access;

    FieldUsesController(OwnFields fields, FieldUses uses, FieldRetiring retiring, Access access) {
        this.fields = fields;
        this.uses = uses;
        this.retiring = retiring;
        this.access = access;
    }

    @GetMapping("/uses")
    String uses(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        AddedField field = get(id);
        model.addAttribute("field", field);
        model.addAttribute("uses", uses.of(field, me));
        model.addAttribute("ofTickets", field.bearer() == OwnField.Bearer.TICKET);
        model.addAttribute("successors", retiring.successors(field));
        model.addAttribute(
                "replaces",
                field.bearer() == OwnField.Bearer.TICKET
                        && (field.field().kind() == OwnField.Kind.CHOICE
                                || field.field().kind() == OwnField.Kind.TREE));
        return "work/shape/field";
    }

    private AddedField get(long id) {
        return fields.find(id).orElseThrow(() -> new Problem.NotFound("There is no such field."));
    }

    @PostMapping("/retire")
    String retire(@PathVariable long id, @RequestParam(defaultValue = "") String into, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        AddedField field = get(id);
        Optional<Long> chosen =
                into.isEmpty() ? Optional.empty() : Optional.of(Ids.number(into).orElse(0L));
        return done(
                id,
                redirect,
                () -> retiring.retire(field, chosen, me),
                "“" + field.name() + "” is not asked for any more; what stands in it stays.");
    }

    @PostMapping("/replace")
    String replace(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String was,
            @RequestParam(defaultValue = "") String becomes,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        AddedField field = get(id);
        return done(id, redirect, () -> retiring.replace(field, was, becomes, me), "No ticket has “" + was + "”.");
    }

    /** What is carried over is watched as a batch. */
    private static String done(long id, RedirectAttributes redirect, Supplier<OptionalLong> change, String otherwise) {
        try {
            OptionalLong batch = change.get();
            if (batch.isPresent()) {
                return "redirect:/batches/" + batch.getAsLong();
            }
            redirect.addFlashAttribute("said", otherwise);
            return "redirect:/house-rules/fields";
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            return "redirect:/house-rules/fields/" + id + "/uses";
        }
    }
}

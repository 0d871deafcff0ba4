package rafter.app.tickets.phrases;

import java.util.Objects;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Languages;
import rafter.app.platform.Problem;
import rafter.core.text.Placeholder;

/** The house rule on how replies begin and end. */
@Controller
@RequestMapping("/house-rules/salutations")
class SalutationsController {

    /** What is typed into a form. */
    public record Form(String language, String greeting, String closing, int version) {
        public Form {
            language = Objects.requireNonNullElse(language, "");
            greeting = Objects.requireNonNullElse(greeting, "");
            closing = Objects.requireNonNullElse(closing, "");
        }
    }

    private final Salutations salutations;
    private final Access access;

    SalutationsController(Salutations salutations, Access access) {
        this.salutations = salutations;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        return page(new Form("", "", "", 0), model);
    }

    private String page(Form typed, Model model) {
        var all = salutations.all();
        model.addAttribute("all", all);
        model.addAttribute("typed", typed);
        model.addAttribute(
                "languages",
                Languages.all().stream()
                        .filter(one ->
                                all.stream().noneMatch(known -> known.language().equals(one.code())))
                        .toList());
        model.addAttribute("placeholders", Placeholder.forWriting());
        return "tickets/phrases/salutations";
    }

    @PostMapping
    String save(Form form, Model model, RedirectAttributes redirect) {
        var me = access.require(Right.HOUSE_RULES);
        var one = new Salutations.Salutation(form.language(), form.greeting(), form.closing(), form.version());
        try {
            if (form.version() == 0 && form.language().isEmpty()) {
                throw new Problem.Invalid("Choose the language. Nothing was saved yet; what you typed is still here.");
            }
            salutations.save(one, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return page(form, model);
        }
        redirect.addFlashAttribute("said", one.languageName() + " is saved.");
        return "redirect:/house-rules/salutations";
    }

    @PostMapping("/remove")
    String remove(@RequestParam(defaultValue = "") String language, RedirectAttributes redirect) {
        salutations.remove(language, access.require(Right.HOUSE_RULES));
        redirect.addFlashAttribute(
                "said", Languages.name(language) + " has no salutation of its own any more; the general one is used.");
        return "redirect:/house-rules/salutations";
    }
}

package rafter.app.tickets.rating;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;

/** The house rule on ratings. */
@Controller
@RequestMapping("/house-rules/rating")
class RatingRulesController {

    /** What is typed into the form; a box that is not ticked is not sent at all. */
    public record Form(
            int version,
            @Nullable Boolean asks,
            @Nullable String afterHours,
            @Nullable String restDays) {

        private RatingRules.Rule rule() {
            return new RatingRules.Rule(
                    version,
                    Boolean.TRUE.equals(asks),
                    Duration.ofHours(number(afterHours, "hours after which they are asked")),
                    Duration.ofDays(number(restDays, "days for which a customer is left alone")));
        }

        private static int number(@Nullable String typed, String what) {
            String plain = Say.orBlank(typed).strip();
            if (!plain.matches("\\d{1,4}")) {
                throw new Problem.Invalid(
                        "The " + what + " are a whole number. Nothing was saved yet; what you typed is still here.");
            }
            return Integer.parseInt(plain);
        }
    }

    private final RatingRules rules;
    private final Access access;

    RatingRulesController(RatingRules rules, Access access) {
        this.rules = rules;
        this.access = access;
    }

    @GetMapping
    String show(Model model) {
        access.require(Right.HOUSE_RULES);
        RatingRules.Rule rule = rules.current();
        return form(
                new Form(
                        rule.version(),
                        rule.asks(),
                        Long.toString(rule.after().toHours()),
                        Long.toString(rule.rest().toDays())),
                model);
    }

    private static String form(Form form, Model model) {
        model.addAttribute("form", form);
        return "tickets/rating/rule";
    }

    @PostMapping
    String save(Form form, Model model, RedirectAttributes redirect) {
        var me = access.require(Right.HOUSE_RULES);
        try {
            rules.change(form.rule(), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(form, model);
        }
        redirect.addFlashAttribute("said", "Saved. It holds for tickets that are resolved from now on.");
        return "redirect:/house-rules/rating";
    }
}

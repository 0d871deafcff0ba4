package rafter.app.work.shape;

import java.util.Arrays;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
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
import rafter.app.house.states.StateRules;
import rafter.app.platform.Problem;
import rafter.core.ticket.Turn;

/** The house rule on states. */
@Controller
@RequestMapping("/house-rules/states")
class StatesController {

    /** What is typed into the form; a box that is not ticked is not sent at all. */
    public record Form(
            @Nullable String key,
            @Nullable String name,
            @Nullable String turn,
            @Nullable Integer position,
            @Nullable Boolean asks,
            int version) {

        public String typed() {
            return Objects.requireNonNullElse(name, "");
        }

        public int place() {
            int place = Objects.requireNonNullElse(position, 45);
            if (place < 0 || place > 999) {
                throw new Problem.Invalid(
                        "The place is a number from 0 to 999. Nothing was saved yet; what you typed is still here.");
            }
            return place;
        }

        public boolean asking() {
            return Boolean.TRUE.equals(asks);
        }

        public boolean isNew() {
            return key == null || key.isEmpty();
        }
    }

    private final StateRules rules;
    private final StateUses uses;
    private final StateRetiring retiring;
    private final Access access;

    StatesController(StateRules rules, StateUses uses, StateRetiring retiring, Access access) {
        this.rules = rules;
        this.uses = uses;
        this.retiring = retiring;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        model.addAttribute("states", rules.all());
        model.addAttribute("open", uses.counts(true, me));
        model.addAttribute("ended", uses.counts(false, me));
        return "work/shape/states";
    }

    @GetMapping("/new")
    String add(Model model) {
        access.require(Right.HOUSE_RULES);
        return form(new Form("", "", Turn.OURS.name(), 45, false, 0), model);
    }

    @GetMapping("/{key}")
    String edit(@PathVariable String key, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        StateRules.Rule rule = rule(key);
        model.addAttribute("uses", uses.of(key, me));
        return form(
                new Form(
                        key,
                        rule.state().name(),
                        rule.state().turn().name(),
                        rule.position(),
                        rule.asks(),
                        rule.version()),
                model);
    }

    private StateRules.Rule rule(String key) {
        return rules.find(key).orElseThrow(() -> new Problem.NotFound("There is no such state any more."));
    }

    private String form(Form form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute(
                "turns",
                Map.of(
                        "OURS", "ours",
                        "CUSTOMER", "the customer’s",
                        "PARTNER", "a partner’s",
                        "NOBODY", "nobody’s: it is over"));
        model.addAttribute(
                "shipped",
                !form.isNew()
                        && rule(Objects.requireNonNullElse(form.key(), "")).shipped());
        model.addAttribute(
                "others",
                rules.all().stream()
                        .map(StateRules.Rule::state)
                        .filter(state -> !state.key().equals(form.key()))
                        .toList());
        return "work/shape/state";
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            if (form.isNew()) {
                Turn turn = Arrays.stream(Turn.values())
                        .filter(one -> one.name().equals(form.turn()))
                        .findFirst()
                        .orElseThrow(() -> new Problem.Invalid(
                                "Choose whose turn it is. Nothing was saved yet; what you typed is still here."));
                rules.add(form.typed(), turn, form.place(), form.asking(), me);
            } else {
                rules.change(
                        Objects.requireNonNullElse(form.key(), ""),
                        form.typed(),
                        form.place(),
                        form.asking(),
                        form.version(),
                        me);
            }
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(form, model);
        }
        redirect.addFlashAttribute("said", form.typed().strip() + " is saved.");
        return "redirect:/house-rules/states";
    }

    /** Takes a state out of use; what is in it moves to another one, beside everything else. */
    @PostMapping("/{key}/retire")
    String retire(@PathVariable String key, @RequestParam(defaultValue = "") String into, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        String name = rule(key).state().name();
        OptionalLong batch = retiring.retire(key, into, me);
        redirect.addFlashAttribute("said", name + " is out of use.");
        return batch.isEmpty() ? "redirect:/house-rules/states" : "redirect:/batches/" + batch.getAsLong();
    }
}

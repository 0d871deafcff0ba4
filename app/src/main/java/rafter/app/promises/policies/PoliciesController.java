package rafter.app.promises.policies;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.UnaryOperator;
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
import rafter.app.platform.Problem;
import rafter.app.promises.targets.DraftChange;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Sentence;
import rafter.core.id.PersonId;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Priority;
import rafter.core.time.Amount;

/** Policies: who is promised what. Changes go into the draft and count for nothing until it is put into force. */
@Controller
@RequestMapping("/house-rules/targets")
class PoliciesController {

    private static final String HERE = "/house-rules/targets";

    private final TargetDrafts drafts;
    private final DraftChange change;
    private final CriteriaNames names;
    private final Persons persons;
    private final Access access;

    PoliciesController(TargetDrafts drafts, DraftChange change, CriteriaNames names, Persons persons, Access access) {
        this.drafts = drafts;
        this.change = change;
        this.names = names;
        this.persons = persons;
        this.access = access;
    }

    /** A policy in the list; {@code warning} says why it would never hold. */
    public record PolicyLine(
            int order,
            String id,
            String name,
            String description,
            boolean on,
            String sentence,
            String hours,
            List<String> promises,
            String steps,
            String warning) {}

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        model.addAttribute("draft", draft);
        model.addAttribute("policies", lines(draft.book()));
        model.addAttribute("editions", drafts.editions(3));
        return "promises/policies/policies";
    }

    private List<PolicyLine> lines(PromiseBook book) {
        Sentence sentence = names.sentence();
        var lines = new ArrayList<PolicyLine>();
        Optional<String> takesAll = Optional.empty();
        for (Policy policy : book.policies()) {
            String hours = policy.calendar()
                    .flatMap(book::plan)
                    .map(CalendarPlan::name)
                    .orElse("around the clock");
            String warning = policy.on()
                    ? takesAll.map(name ->
                                    "“" + name + "” above takes all tickets, so this one never holds. Move it up.")
                            .orElse("")
                    : "";
            int acts = policy.steps().size();
            lines.add(new PolicyLine(
                    lines.size() + 1,
                    policy.id(),
                    policy.name(),
                    policy.description(),
                    policy.on(),
                    sentence.of(policy.criteria()),
                    hours,
                    promises(policy),
                    acts == 0 ? "" : acts == 1 ? "1 step" : acts + " steps",
                    warning));
            if (policy.on() && takesAll.isEmpty() && policy.criteria().equals(Criteria.everything())) {
                takesAll = Optional.of(policy.name());
            }
        }
        return lines;
    }

    /** Such as "first reply 1 h, 2 h, 4 h, 9 h, for 90 % of tickets". */
    private static List<String> promises(Policy policy) {
        var all = new ArrayList<String>();
        policy.goals().forEach((objective, goal) -> all.add(promise(objective, goal)));
        return all;
    }

    private static String promise(Objective objective, Goal goal) {
        var durations = new ArrayList<String>();
        for (Priority priority : Priority.values()) {
            durations.add(goal.of(priority).map(Amount::written).orElse("–"));
        }
        return objective.words() + " " + String.join(", ", durations)
                + (goal.share() == 100 ? ", for all" : ", for " + goal.share() + " %");
    }

    // ------------------------------------------------------------------ one policy

    @GetMapping("/{id}")
    String edit(@PathVariable String id, Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        PolicyForm form = id.equals("new")
                ? PolicyForm.empty(draft.book().defaultCalendar())
                : draft.book()
                        .policy(id)
                        .map(PolicyForm::of)
                        .orElseThrow(() -> new Problem.NotFound("There is no such policy."));
        return page(form, draft, draft.version(), model);
    }

    private String page(PolicyForm form, TargetDrafts.Draft draft, int version, Model model) {
        model.addAttribute("draft", draft);
        model.addAttribute("version", version);
        model.addAttribute("title", form.name().isEmpty() ? "A new policy" : form.name());
        model.addAttribute("form", form);
        model.addAttribute(
                "node",
                CriteriaForm.draw(
                        form.criteria(),
                        names,
                        Arrays.stream(KnownField.values())
                                .filter(KnownField.ofPromises()::contains)
                                .toList()));
        model.addAttribute("sentence", names.sentence().of(form.criteria()));
        model.addAttribute("calendars", draft.book().calendars());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute("objectives", Objective.values());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("placeholders", Placeholder.forSteps());
        return "promises/policies/policy";
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
        PolicyForm form = PolicyForm.read(typed);
        TargetDrafts.Draft draft = drafts.current();
        if (!act.equals("save")) {
            return page(form.after(act), draft, version, model);
        }
        try {
            Policy policy = form.policy();
            drafts.save(put(draft.book(), policy), version, me, "changed policy " + policy.name());
            redirect.addFlashAttribute("said", "“" + policy.name() + "” is saved; not in force yet.");
            return "redirect:" + HERE;
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words() + " What you typed is still here.");
            return page(form, draft, e instanceof Problem.Stale ? draft.version() : version, model);
        }
    }

    /** A new policy comes before the one that takes every ticket, for behind it nothing would reach it. */
    private static PromiseBook put(PromiseBook book, Policy policy) {
        var all = new ArrayList<>(book.policies());
        for (int i = 0; i < all.size(); i++) {
            if (all.get(i).id().equals(policy.id())) {
                all.set(i, policy);
                return book.withPolicies(all);
            }
        }
        boolean lastTakesAll = !all.isEmpty() && all.getLast().criteria().equals(Criteria.everything());
        all.add(lastTakesAll ? all.size() - 1 : all.size(), policy);
        return book.withPolicies(all);
    }

    @PostMapping("/{id}/move")
    String move(@PathVariable String id, @RequestParam int by, @RequestParam int version, RedirectAttributes redirect) {
        return change(version, "moved a policy", redirect, book -> {
            var all = new ArrayList<>(book.policies());
            int at = all.indexOf(find(book, id));
            all.add(Math.clamp(at + by, 0, all.size() - 1), all.remove(at));
            return book.withPolicies(all);
        });
    }

    @PostMapping("/{id}/switch")
    String switchOn(
            @PathVariable String id, @RequestParam boolean on, @RequestParam int version, RedirectAttributes redirect) {
        return change(
                version,
                on ? "switched a policy on" : "switched a policy off",
                redirect,
                book -> book.withPolicies(book.policies().stream()
                        .map(p -> p.id().equals(id)
                                ? new Policy(
                                        p.id(),
                                        p.name(),
                                        p.description(),
                                        on,
                                        p.criteria(),
                                        p.calendar(),
                                        p.goals(),
                                        p.steps())
                                : p)
                        .toList()));
    }

    @PostMapping("/{id}/copy")
    String copy(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change(version, "copied a policy", redirect, book -> {
            Policy p = find(book, id);
            var all = new ArrayList<>(book.policies());
            all.add(
                    all.indexOf(p),
                    new Policy(
                            "policy-" + UUID.randomUUID(),
                            p.name() + ", copy",
                            p.description(),
                            false,
                            p.criteria(),
                            p.calendar(),
                            p.goals(),
                            p.steps()));
            return book.withPolicies(all);
        });
    }

    @PostMapping("/{id}/delete")
    String delete(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change(version, "removed a policy", redirect, book -> {
            find(book, id);
            return book.withPolicies(
                    book.policies().stream().filter(p -> !p.id().equals(id)).toList());
        });
    }

    private static Policy find(PromiseBook book, String id) {
        return book.policy(id).orElseThrow(() -> new Problem.NotFound("There is no such policy any more."));
    }

    private String change(int version, String what, RedirectAttributes redirect, UnaryOperator<PromiseBook> how) {
        return change.apply(version, access.require(Right.HOUSE_RULES).id(), what, redirect, HERE, HERE, how);
    }
}

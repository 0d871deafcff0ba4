package rafter.app.handout.consults;

import java.time.Duration;
import java.util.Arrays;
import java.util.HashMap;
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
import rafter.app.handout.people.ConsultSettings;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Whereabouts;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whole;
import rafter.core.consult.ConsultRules;
import rafter.core.id.ExpertId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;
import rafter.core.time.Amount;

/** How the workspace consults, and the experts from outside. */
@Controller
@RequestMapping(ConsultRulesController.HERE)
class ConsultRulesController {

    static final String HERE = "/house-rules/consults";

    /** An expert as the list shows them. */
    public record Line(ExpertId id, String name, String address, String hours, String skills) {}

    private final ConsultSettings settings;
    private final Experts experts;
    private final Skills skills;
    private final Whereabouts whereabouts;
    private final Access access;

    ConsultRulesController(
            ConsultSettings settings, Experts experts, Skills skills, Whereabouts whereabouts, Access access) {
        this.settings = settings;
        this.experts = experts;
        this.skills = skills;
        this.whereabouts = whereabouts;
        this.access = access;
    }

    @GetMapping
    String show(Model model) {
        access.require(Right.HOUSE_RULES);
        ConsultSettings.Kept kept = settings.kept();
        if (!model.containsAttribute("typed")) {
            model.addAttribute("typed", typed(kept));
        }
        Map<SkillId, String> names =
                skills.all().stream().collect(Collectors.toMap(Skill::id, Skill::name, (a, b) -> a));
        Map<String, String> calendars = whereabouts.calendars();
        model.addAttribute(
                "experts",
                experts.all().stream()
                        .map(one -> new Line(
                                one.id(),
                                one.name(),
                                one.address(),
                                calendars.getOrDefault(one.calendar(), "around the clock"),
                                one.skills().entrySet().stream()
                                        .map(skill -> names.getOrDefault(skill.getKey(), "") + " ("
                                                + skill.getValue().words() + ")")
                                        .sorted()
                                        .collect(Collectors.joining(", "))))
                        .toList());
        return "handout/consults/rules";
    }

    private static Map<String, String> typed(ConsultSettings.Kept kept) {
        ConsultRules rules = kept.rules();
        var typed = new HashMap<String, String>();
        typed.put("version", Integer.toString(kept.version()));
        typed.put("answer", Amount.written(rules.answerWithin()));
        typed.put("units", Double.toString(rules.units()).replaceFirst("\\.0$", ""));
        if (rules.accountPerson()) {
            typed.put("account", "true");
        }
        if (rules.lead()) {
            typed.put("lead", "true");
        }
        if (rules.mail()) {
            typed.put("mail", "true");
        }
        return typed;
    }

    @PostMapping
    String save(@RequestParam MultiValueMap<String, String> form, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = form.toSingleValueMap();
        String units = typed.getOrDefault("units", "").strip().replace(',', '.');
        try {
            Duration answer = Amount.read(typed.getOrDefault("answer", ""))
                    .orElseThrow(() -> new Problem.Invalid("“" + typed.getOrDefault("answer", "")
                            + "” is no amount of time. Write it like 10 m or 1 h."));
            var rules = new ConsultRules(
                    typed.containsKey("account"),
                    typed.containsKey("lead"),
                    answer,
                    units.matches("\\d{1,3}(\\.\\d{1,3})?") ? Double.parseDouble(units) : -1,
                    typed.containsKey("mail"));
            settings.save(rules, Whole.of(typed.getOrDefault("version", ""), 0), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            model.addAttribute("typed", typed);
            return show(model);
        }
        redirect.addFlashAttribute("said", "The rules of consults are saved.");
        return "redirect:" + HERE;
    }

    // ------------------------------------------------------------------ experts

    @GetMapping("/experts/{id}")
    String edit(@PathVariable ExpertId id, Model model) {
        access.require(Right.HOUSE_RULES);
        return form(
                id.none()
                        ? new Experts.Expert(id, "", "", "", Map.of(), 0)
                        : experts.find(id).orElseThrow(() -> new Problem.NotFound("There is no such expert.")),
                model);
    }

    private String form(Experts.Expert expert, Model model) {
        model.addAttribute("expert", expert);
        model.addAttribute("skills", skills.all());
        model.addAttribute("levels", SkillLevel.values());
        model.addAttribute("calendars", whereabouts.calendars());
        return "handout/consults/expert";
    }

    @PostMapping("/experts/save")
    String saveExpert(
            @RequestParam MultiValueMap<String, String> form,
            @RequestParam(defaultValue = "0") ExpertId id,
            @RequestParam(defaultValue = "0") int version,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        var levels = new HashMap<SkillId, SkillLevel>();
        for (Skill skill : skills.all()) {
            Arrays.stream(SkillLevel.values())
                    .filter(level -> List.of(level.name()).equals(form.get("skill-" + skill.id())))
                    .forEach(level -> levels.put(skill.id(), level));
        }
        var expert = new Experts.Expert(
                id,
                Say.orBlank(form.getFirst("name")),
                Say.orBlank(form.getFirst("address")),
                Say.orBlank(form.getFirst("calendar")),
                levels,
                version);
        try {
            experts.save(expert, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(expert, model);
        }
        redirect.addFlashAttribute("said", expert.name().strip() + " is saved.");
        return "redirect:" + HERE;
    }

    @PostMapping("/experts/{id}/remove")
    String remove(@PathVariable ExpertId id, RedirectAttributes redirect) {
        experts.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The expert is removed.");
        redirect.addFlashAttribute("removedExpert", id.toString());
        return "redirect:" + HERE;
    }

    @PostMapping("/experts/{id}/bring-back")
    String bringBack(@PathVariable ExpertId id, RedirectAttributes redirect) {
        try {
            experts.bringBack(id, access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "The expert is back.");
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }
}

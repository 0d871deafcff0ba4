package rafter.app.handout.people;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.routing.Skill;
import rafter.core.routing.SkillLevel;

/** The catalogue of skills, and what each person can and takes at once. */
@Controller
@RequestMapping(SkillsController.HERE)
class SkillsController {

    static final String HERE = "/house-rules/skills";

    /** A person as the table shows them. */
    public record Line(
            PersonId id, String name, int units, String calendar, String languages, Map<SkillId, SkillLevel> levels) {
        /** How well they have a skill; blank when not at all. */
        public String level(SkillId skill) {
            SkillLevel level = levels.get(skill);
            return level == null ? "" : level.name();
        }
    }

    private final Skills skills;
    private final Workforce workforce;
    private final Whereabouts whereabouts;
    private final Hours hours;
    private final Persons persons;
    private final Access access;

    SkillsController(
            Skills skills, Workforce workforce, Whereabouts whereabouts, Hours hours, Persons persons, Access access) {
        this.whereabouts = whereabouts;
        this.hours = hours;
        this.skills = skills;
        this.workforce = workforce;
        this.persons = persons;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        var levels = skills.levels();
        var standings = workforce.standings();
        model.addAttribute("skills", skills.kept());
        model.addAttribute("levels", SkillLevel.values());
        model.addAttribute("calendars", hours.calendars());
        model.addAttribute(
                "people",
                persons.active().stream()
                        .map(person -> line(
                                person,
                                standings.getOrDefault(person.id(), Workforce.Standing.OFF),
                                levels.getOrDefault(person.id(), Map.of())))
                        .toList());
        return "handout/people/skills";
    }

    private static Line line(Person person, Workforce.Standing standing, Map<SkillId, SkillLevel> levels) {
        return new Line(
                person.id(),
                person.name(),
                standing.units(),
                standing.calendar(),
                String.join(", ", standing.languages()),
                levels);
    }

    @GetMapping("/{id}")
    String edit(@PathVariable SkillId id, Model model) {
        access.require(Right.HOUSE_RULES);
        Skills.Kept kept = id.none()
                ? new Skills.Kept(new Skill(id, "", "", List.of(), List.of()), 0, 0)
                : skills.find(id).orElseThrow(() -> new Problem.NotFound("There is no such skill."));
        return form(kept.skill(), kept.version(), model);
    }

    private static String form(Skill skill, int version, Model model) {
        model.addAttribute("skill", skill);
        model.addAttribute("version", version);
        return "handout/people/skill";
    }

    @PostMapping("/save")
    String save(
            @RequestParam(defaultValue = "0") SkillId id,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String description,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "") String topics,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        var skill = new Skill(id, name.strip(), description.strip(), lines(words), lines(topics));
        try {
            skills.save(skill, version, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(skill, version, model);
        }
        redirect.addFlashAttribute("said", "“" + skill.name() + "” is saved. Open tickets are looked through for it.");
        return "redirect:" + HERE;
    }

    private static List<String> lines(String typed) {
        return Arrays.stream(typed.split("[\\n,]"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable SkillId id, RedirectAttributes redirect) {
        skills.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The skill is removed.");
        redirect.addFlashAttribute("removedSkill", id.toString());
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/bring-back")
    String bringBack(@PathVariable SkillId id, RedirectAttributes redirect) {
        try {
            skills.bringBack(id, access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "The skill is back.");
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }

    /** What one person can, and takes at once. */
    @PostMapping("/people/{person}")
    String person(
            @PathVariable PersonId person,
            @RequestParam MultiValueMap<String, String> typed,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        var levels = new HashMap<SkillId, SkillLevel>();
        for (Skill skill : skills.all()) {
            Arrays.stream(SkillLevel.values())
                    .filter(level -> level.name().equals(typed.getFirst("skill-" + skill.id())))
                    .forEach(level -> levels.put(skill.id(), level));
        }
        String units = Say.orBlank(typed.getFirst("units")).strip();
        try {
            workforce.limit(person, units.matches("\\d{1,3}") ? Integer.parseInt(units) : -1, me);
            workforce.languages(person, Say.orBlank(typed.getFirst("languages")), me);
            whereabouts.calendar(person, Say.orBlank(typed.getFirst("calendar")), me);
            skills.level(person, levels, me);
            redirect.addFlashAttribute("said", "Saved.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words() + " You typed “" + units + "”.");
        }
        return "redirect:" + HERE;
    }
}

package rafter.app.arrival.social;

import java.util.HashMap;
import java.util.Map;
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
import rafter.app.platform.Problem;

/** What is looked for on networks, what is noise, and what becomes of deleted posts. */
@Controller
@RequestMapping(SocialRulesController.HERE)
class SocialRulesController {

    static final String HERE = "/house-rules/social/watching";
    private static final String BACK = "redirect:" + HERE;

    private final SocialRules rules;
    private final Access access;

    SocialRulesController(SocialRules rules, Access access) {
        this.rules = rules;
        this.access = access;
    }

    @GetMapping
    String show(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("searches", rules.lookForSearches());
        model.addAttribute("marks", rules.lookForMarks());
        if (!model.containsAttribute("typed")) {
            SocialRules.Rules now = rules.rules();
            var typed = new HashMap<>(Map.of(
                    "waveOf",
                    Integer.toString(now.waveOf()),
                    "waveMinutes",
                    Integer.toString(now.waveMinutes()),
                    "version",
                    Integer.toString(rules.version())));
            if (now.keepsDeleted()) {
                typed.put("keepsDeleted", "true");
            }
            model.addAttribute("typed", typed);
        }
        return "arrival/social/rules";
    }

    private static int number(Map<String, String> typed, String name) {
        String text = typed.getOrDefault(name, "").strip();
        return text.matches("\\d{1,6}") ? Integer.parseInt(text) : -1;
    }

    @PostMapping
    String save(@RequestParam Map<String, String> typed, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            rules.save(
                    new SocialRules.Rules(
                            typed.containsKey("keepsDeleted"), number(typed, "waveOf"), number(typed, "waveMinutes")),
                    Math.max(0, number(typed, "version")),
                    me.id());
            redirect.addFlashAttribute("said", "Saved.");
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", typed);
        }
        return BACK;
    }

    @PostMapping("/searches/{id}")
    String search(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "false") boolean opens,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            rules.save(id, name, words, opens, me.id());
            redirect.addFlashAttribute("said", "“" + name.strip() + "” is looked for from now on.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("search", Map.of("name", name, "words", words, "opens", opens));
        }
        return BACK;
    }

    @PostMapping("/searches/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        rules.remove(id, true, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is not looked for any more. What it found stays.");
        redirect.addFlashAttribute("undo", Map.of("action", HERE + "/searches/" + id + "/back", "fields", Map.of()));
        return BACK;
    }

    @PostMapping("/searches/{id}/back")
    String back(@PathVariable long id, RedirectAttributes redirect) {
        rules.remove(id, false, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is looked for again.");
        return BACK;
    }

    @PostMapping("/noise/{id}/remove")
    String unmark(@PathVariable long id, RedirectAttributes redirect) {
        rules.unmark(id, true, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is no noise any more. What was set aside stays there.");
        redirect.addFlashAttribute("undo", Map.of("action", HERE + "/noise/" + id + "/back", "fields", Map.of()));
        return BACK;
    }

    @PostMapping("/noise/{id}/back")
    String mark(@PathVariable long id, RedirectAttributes redirect) {
        rules.unmark(id, false, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is noise again.");
        return BACK;
    }
}

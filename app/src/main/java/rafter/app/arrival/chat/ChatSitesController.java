package rafter.app.arrival.chat;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.platform.Whole;
import rafter.app.promises.targets.Targets;
import rafter.core.chat.Site;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.target.CalendarPlan;

/** The websites that have the panel: which pages may show it, whose chats they are, and when it is open there. */
@Controller
@RequestMapping(ChatRulesController.HERE + "/sites")
class ChatSitesController {

    private final ChatSites sites;
    private final Persons persons;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    ChatSitesController(ChatSites sites, Persons persons, Targets targets, Access access, Clock clock) {
        this.sites = sites;
        this.persons = persons;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/{id}")
    String site(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        if (!model.containsAttribute("typed")) {
            Optional<ChatSite> site = id == 0
                    ? Optional.of(new ChatSite(0, "", "", List.of(), Optional.empty(), "", 0))
                    : sites.all().stream().filter(one -> one.id() == id).findFirst();
            model.addAttribute(
                    "typed", typed(site.orElseThrow(() -> new Problem.NotFound("There is no such site any more."))));
        }
        model.addAttribute("id", id);
        model.addAttribute("teams", persons.teams());
        model.addAttribute("calendars", calendars());
        return "arrival/chat/site";
    }

    private List<CalendarPlan> calendars() {
        return targets.terms().editions().latest().book().calendars();
    }

    private static Map<String, String> typed(ChatSite site) {
        var typed = new HashMap<String, String>();
        typed.put("name", site.name());
        typed.put("word", site.word());
        typed.put(
                "origins",
                String.join("\n", site.origins().stream().map(Site::text).toList()));
        typed.put("team", site.team().map(TeamId::toString).orElse(""));
        typed.put("calendar", site.calendar());
        typed.put("version", Integer.toString(site.version()));
        return typed;
    }

    @PostMapping("/{id}")
    String save(
            @PathVariable long id,
            @RequestParam MultiValueMap<String, String> form,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        Map<String, String> typed = form.toSingleValueMap();
        try {
            sites.save(typed(id, typed), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("typed", typed);
            model.addAttribute("problem", e.words());
            return site(id, model);
        }
        redirect.addFlashAttribute("said", "The site is saved.");
        return ChatRulesController.BACK;
    }

    private ChatSite typed(long id, Map<String, String> typed) {
        Site.Typed origins = Site.list(typed.getOrDefault("origins", ""));
        if (!origins.wrong().isEmpty()) {
            throw new Problem.Invalid("“" + origins.wrong().getFirst()
                    + "” is no website. Write it like https://ferries.example, without stars."
                    + ChatRulesController.KEPT);
        }
        String team = typed.getOrDefault("team", "");
        return new ChatSite(
                id,
                typed.getOrDefault("name", ""),
                typed.getOrDefault("word", "").strip(),
                origins.sites(),
                persons.teams().stream()
                        .filter(one -> one.id().toString().equals(team))
                        .map(one -> one.id())
                        .findFirst(),
                calendars().stream()
                        .map(CalendarPlan::id)
                        .filter(typed.getOrDefault("calendar", "")::equals)
                        .findFirst()
                        .orElse(""),
                Whole.of(typed.getOrDefault("version", ""), 0));
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable long id, RedirectAttributes redirect) {
        sites.remove(id, access.require(Right.HOUSE_RULES).id(), clock.instant());
        return ChatRulesController.removed("sites", id, "The site is removed; its panel stays closed.", redirect);
    }

    @PostMapping("/{id}/bring-back")
    String bringBack(@PathVariable long id, RedirectAttributes redirect) {
        sites.bringBack(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The site is back.");
        return ChatRulesController.BACK;
    }
}

package rafter.app.work.worklist;

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
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.CriteriaJson;
import rafter.core.id.TeamId;

/** Changing what a list asks, keeping it as a view, and arranging the tabs. */
@Controller
@RequestMapping("/worklist")
class ViewsController {

    private final Views views;
    private final ChosenTickets chosen;
    private final CriteriaNames names;
    private final Persons persons;
    private final Access access;

    ViewsController(Views views, ChosenTickets chosen, CriteriaNames names, Persons persons, Access access) {
        this.views = views;
        this.chosen = chosen;
        this.names = names;
        this.persons = persons;
        this.access = access;
    }

    // ------------------------------------------------------------------ the sentence

    /** The sentence of a list, to be changed. */
    @GetMapping("/sentence")
    String sentence(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        return editor(asked, asked.criteria(), List.of(), model);
    }

    /** Changes the shape of the sentence, or shows the list that it says. */
    @PostMapping("/sentence")
    String change(
            @RequestParam MultiValueMap<String, String> form,
            @RequestParam String list,
            @RequestParam(defaultValue = "") String act,
            Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = chosen.asked(list, me);
        Criteria criteria = CriteriaForm.act(CriteriaForm.read(form), act);
        if (!act.equals("save")) {
            return editor(asked, criteria, List.of(), model);
        }
        List<String> faults = Criteria.faults(criteria);
        return faults.isEmpty()
                ? "redirect:/worklist?"
                        + asked.with("q", criteria.equals(asked.view().criteria()) ? "" : CriteriaJson.write(criteria))
                : editor(asked, criteria, faults, model);
    }

    private String editor(ListRequest asked, Criteria criteria, List<String> faults, Model model) {
        model.addAttribute("asked", asked);
        model.addAttribute("node", CriteriaForm.draw(criteria, names, names.all()));
        model.addAttribute("reads", names.sentence().of(criteria));
        model.addAttribute("faults", faults);
        return "work/worklist/sentence";
    }

    // ------------------------------------------------------------------ keeping

    @GetMapping("/keep")
    String keepForm(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        boolean mine =
                asked.view().owner().filter(owner -> owner.equals(me.id())).isPresent();
        var named = new Views.Named(
                mine ? asked.view().title() : "",
                mine ? asked.view().description() : "",
                mine ? asked.view().seenBy() : ListView.SeenBy.ME,
                asked.view().team(),
                asked.view().role());
        return form(asked, named, "", me, model);
    }

    private String form(ListRequest asked, Views.Named named, String trouble, Viewer me, Model model) {
        model.addAttribute("asked", asked);
        model.addAttribute("orderWords", asked.sorting().getFirst().words(names));
        model.addAttribute("named", named);
        model.addAttribute("trouble", trouble);
        model.addAttribute("sentence", names.sentence().of(asked.criteria()));
        model.addAttribute("mine", Views.mayChange(asked.view(), me));
        model.addAttribute("users", views.usedBy(asked.view(), me));
        model.addAttribute("teams", persons.teams());
        model.addAttribute("roles", Role.values());
        model.addAttribute("seen", ListView.SeenBy.values());
        return "work/worklist/keep";
    }

    /** Keeps the list as a new view, or over the one it began from, or changes that one's name and sharing alone. */
    @PostMapping("/keep")
    String keep(
            @RequestParam String list,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String description,
            @RequestParam(defaultValue = "ME") ListView.SeenBy seenBy,
            @RequestParam(required = false) Optional<TeamId> team,
            @RequestParam(defaultValue = "") String role,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam(defaultValue = "new") String as,
            Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = chosen.asked(list, me);
        var named = new Views.Named(
                title, description, seenBy, seenBy == ListView.SeenBy.TEAM ? team : Optional.empty(), role);
        try {
            if (as.equals("over")) {
                views.keep(asked, named, version, me);
                return "redirect:/worklist?view=" + asked.view().key();
            }
            if (as.equals("named")) {
                views.rename(asked.view(), named, version, me);
                return "redirect:/worklist?" + asked.query();
            }
            return "redirect:/worklist?view=" + views.add(asked, named, me).key();
        } catch (Problem.Invalid | Problem.NoRight | Problem.Stale e) {
            return form(asked, named, e.words(), me, model);
        }
    }

    @PostMapping("/views/{key}/pin")
    String pin(@PathVariable String key, @RequestParam boolean pinned) {
        Viewer me = access.require(Right.WORK);
        views.pin(views.get(key, me), pinned, me);
        return "redirect:/worklist?view=" + key;
    }

    @PostMapping("/views/{key}/delete")
    String delete(@PathVariable String key) {
        Viewer me = access.require(Right.WORK);
        views.delete(views.get(key, me), me);
        return "redirect:/worklist?deleted=" + key;
    }

    @PostMapping("/views/{key}/bring-back")
    String bringBack(@PathVariable String key) {
        return "redirect:/worklist?view="
                + views.bringBack(key, access.require(Right.WORK)).key();
    }
}

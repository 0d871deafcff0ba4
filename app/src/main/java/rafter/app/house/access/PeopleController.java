package rafter.app.house.access;

import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;

/** Who works here, and in which teams. */
@Controller
@RequestMapping("/house-rules/people")
class PeopleController {

    /** What is typed into the form; the password is never shown again. */
    public record Form(
            PersonId id, String name, String address, Role role, boolean active, Set<TeamId> teams, int version) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            address = Objects.requireNonNullElse(address, "");
        }
    }

    private final Persons persons;
    private final Access access;

    PeopleController(Persons persons, Access access) {
        this.persons = persons;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("people", persons.all());
        model.addAttribute("teams", persons.teams());
        model.addAttribute(
                "teamsOf", persons.all().stream().collect(Collectors.toMap(Person::id, p -> persons.teamsOf(p.id()))));
        return "house/access/people";
    }

    @GetMapping("/{id}")
    String edit(@PathVariable PersonId id, Model model) {
        access.require(Right.HOUSE_RULES);
        Form form = id.none()
                ? new Form(new PersonId(0), "", "", Role.AGENT, true, Set.of(), 0)
                : persons.find(id)
                        .map(p -> new Form(
                                p.id(),
                                p.name(),
                                p.address(),
                                p.role(),
                                p.active(),
                                persons.teamsOf(p.id()),
                                p.version()))
                        .orElseThrow(() -> new Problem.NotFound("There is no such person."));
        return form(form, model);
    }

    private String form(Form form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("roles", Role.values());
        model.addAttribute("teams", persons.teams());
        return "house/access/person";
    }

    @PostMapping("/save")
    String save(
            @RequestParam PersonId id,
            @RequestParam String name,
            @RequestParam String address,
            @RequestParam Role role,
            @RequestParam(defaultValue = "false") boolean active,
            @RequestParam(required = false) Optional<Set<TeamId>> teams,
            @RequestParam(defaultValue = "") String password,
            @RequestParam(defaultValue = "0") int version,
            Model model,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        Set<TeamId> chosen = teams.orElse(Set.of());
        try {
            persons.save(
                    id.none() ? Optional.empty() : Optional.of(id),
                    name,
                    address,
                    role,
                    active,
                    password,
                    chosen,
                    OptionalInt.of(version),
                    me.id());
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words());
            return form(new Form(id, name, address, role, active, chosen, version), model);
        }
        redirect.addFlashAttribute("said", name + " is saved.");
        return "redirect:/house-rules/people";
    }

    @PostMapping("/teams")
    String addTeam(@RequestParam String name, RedirectAttributes redirect) {
        try {
            persons.addTeam(name, access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "Team " + name + " is there now.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/house-rules/people";
    }
}

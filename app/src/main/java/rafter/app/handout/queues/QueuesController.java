package rafter.app.handout.queues;

import java.util.List;
import java.util.stream.Collectors;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.handout.people.Skills;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Problem;
import rafter.core.criteria.Sentence;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.routing.Queue;
import rafter.core.rule.Logic;

/** The pages on which queues are set up. */
@Controller
@RequestMapping(QueuesController.HERE)
class QueuesController {

    static final String HERE = "/house-rules/queues";

    /** A queue as the list shows it. */
    public record Line(
            QueueId id,
            int order,
            String name,
            boolean on,
            String sentence,
            String teams,
            String way,
            int waiting,
            String unreached) {}

    private final Queues queues;
    private final Places places;
    private final Skills skills;
    private final Persons persons;
    private final CriteriaNames names;
    private final Access access;

    QueuesController(Queues queues, Places places, Skills skills, Persons persons, CriteriaNames names, Access access) {
        this.queues = queues;
        this.places = places;
        this.skills = skills;
        this.persons = persons;
        this.names = names;
        this.access = access;
    }

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        Sentence sentence = names.sentence();
        var waiting = places.waiting(DSL.noCondition());
        List<Queue> all = queues.kept().stream().map(Queues.Kept::queue).toList();
        model.addAttribute(
                "queues",
                all.stream()
                        .map(queue -> new Line(
                                queue.id(),
                                all.indexOf(queue) + 1,
                                queue.name(),
                                queue.on(),
                                sentence.of(queue.criteria()),
                                persons.teams().stream()
                                        .filter(team -> queue.teams().contains(team.id()))
                                        .map(Team::name)
                                        .collect(Collectors.joining(", ")),
                                queue.way().words(),
                                waiting.getOrDefault(queue.id(), List.of()).size(),
                                unreached(queue, all)))
                        .toList());
        return "handout/queues/queues";
    }

    /** Why no ticket reaches a queue: its sentence cannot be true, or those before it take all of its. Blank when some may. */
    private static String unreached(Queue queue, List<Queue> all) {
        if (!queue.on()) {
            return "";
        }
        if (Logic.together(List.of(queue.criteria())) == Logic.Answer.IMPOSSIBLE) {
            return "No ticket reaches it: its sentence cannot be true.";
        }
        List<Queue> before =
                all.subList(0, all.indexOf(queue)).stream().filter(Queue::on).toList();
        return Logic.implies(
                        queue.criteria(), before.stream().map(Queue::criteria).toList())
                ? "No ticket reaches it: those before it take all of its. Move it up, or narrow them."
                : "";
    }

    @GetMapping("/{id}")
    String edit(@PathVariable QueueId id, Model model) {
        access.require(Right.HOUSE_RULES);
        QueueForm form = id.none()
                ? QueueForm.empty()
                : queues.find(id)
                        .map(QueueForm::of)
                        .orElseThrow(() -> new Problem.NotFound("There is no such queue any more."));
        return page(form, model);
    }

    private String page(QueueForm form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("title", form.name().isEmpty() ? "A new queue" : form.name());
        model.addAttribute("node", CriteriaForm.draw(form.criteria(), names, names.ofRules()));
        model.addAttribute("teams", persons.teams());
        model.addAttribute("skills", skills.all());
        model.addAttribute("ways", QueueForm.WAYS);
        return "handout/queues/queue";
    }

    /** Saves; or, for a button that changes the form's shape, shows the form in that shape with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        QueueForm form = QueueForm.read(typed);
        if (!act.equals("save")) {
            return page(form.after(act), model);
        }
        try {
            queues.save(form.queue(), form.version(), me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words() + " What you typed is still here.");
            return page(form, model);
        }
        redirect.addFlashAttribute("said", "“" + form.name() + "” is saved. Open tickets are looked through for it.");
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/move")
    String move(@PathVariable QueueId id, @RequestParam int by, RedirectAttributes redirect) {
        queues.move(id, Integer.signum(by), access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is moved. A ticket waits in the first queue that it fits.");
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable QueueId id, RedirectAttributes redirect) {
        queues.remove(id, access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "The queue is removed; its tickets are looked through for the others.");
        redirect.addFlashAttribute("removedQueue", id.toString());
        return "redirect:" + HERE;
    }

    @PostMapping("/{id}/bring-back")
    String bringBack(@PathVariable QueueId id, RedirectAttributes redirect) {
        try {
            queues.bringBack(id, access.require(Right.HOUSE_RULES).id());
            redirect.addFlashAttribute("said", "The queue is back.");
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }
}

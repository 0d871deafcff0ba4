package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Done;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.SteeringChoices;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Workplace;
import rafter.core.id.Id;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Steering;
import rafter.core.ticket.Ticket;

/** What is put on one ticket over what follows from its facts: its queue, the skills it needs, its policy. */
@Controller
@RequestMapping("/tickets/{number}")
class SteeringController {

    private final Tickets tickets;
    private final Acts acts;
    private final SteeringChoices choices;
    private final Workplace workplace;
    private final Access access;

    SteeringController(Tickets tickets, Acts acts, SteeringChoices choices, Workplace workplace, Access access) {
        this.tickets = tickets;
        this.acts = acts;
        this.choices = choices;
        this.workplace = workplace;
        this.access = access;
    }

    private Ticket current(TicketNumber number, Viewer me) {
        return tickets.get(number, me);
    }

    @GetMapping("/choose/queue")
    String choose(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        Ticket ticket = current(number, me);
        model.addAttribute("number", number);
        model.addAttribute("what", "queue");
        model.addAttribute("steering", ticket.steering());
        model.addAttribute(
                "inQueue", ticket.steering().queue().map(QueueId::toString).orElse(""));
        model.addAttribute("queues", choices.queues());
        model.addAttribute(
                "skills",
                choices.skills().stream()
                        .map(skill -> new SkillLine(skill.id(), skill.name(), need(ticket, skill.id())))
                        .toList());
        model.addAttribute("needs", Steering.Need.values());
        model.addAttribute("policies", choices.policies());
        model.addAttribute("mayPromise", me.role().has(Right.HAND_OVER_ANY));
        return request.getHeader("HX-Request") == null ? "tickets/page/choose" : "tickets/page/choose :: queue";
    }

    /** A skill, and what was put on the ticket about it. */
    public record SkillLine(String id, String name, Steering.Need need) {}

    private static Steering.Need need(Ticket ticket, String skill) {
        return Id.read(skill, SkillId::new).map(ticket.steering()::need).orElse(Steering.Need.BY_ITSELF);
    }

    @PostMapping("/queue")
    String queue(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String queue,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        String before =
                current(number, me).steering().queue().map(QueueId::toString).orElse("");
        Optional<QueueId> to = Id.read(queue, QueueId::new);
        acts.perform(number, new Act.PutIntoQueue(to), was, me);
        return Done.answer(
                request,
                response,
                to.flatMap(workplace::queue)
                        .map(name -> number + " waits in “" + name + "” now, while nobody owns it.")
                        .orElse(number + " waits in the first queue that fits now."),
                new Done.Undo("/tickets/" + number + "/queue", Map.of("queue", before, "was", queue)),
                "/tickets/" + number);
    }

    @PostMapping("/skill")
    String skill(
            @PathVariable TicketNumber number,
            @RequestParam SkillId skill,
            @RequestParam String need,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        Steering.Need wanted = Arrays.stream(Steering.Need.values())
                .filter(one -> one.name().equals(need))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Choose whether it needs the skill. Nothing was changed."));
        Steering.Need before = current(number, me).steering().need(skill);
        acts.perform(number, new Act.PutSkill(skill, wanted), was, me);
        return Done.answer(
                request,
                response,
                number + " " + wanted.words() + " " + workplace.skill(skill).orElse("that skill") + " now.",
                new Done.Undo(
                        "/tickets/" + number + "/skill",
                        Map.of("skill", skill.toString(), "need", before.name(), "was", wanted.name())),
                "/tickets/" + number);
    }

    @PostMapping("/policy")
    String policy(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String policy,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        String before = current(number, me).steering().policy();
        acts.perform(number, new Act.PutPolicy(policy), was, me);
        return Done.answer(
                request,
                response,
                workplace
                        .policy(policy)
                        .map(name -> "“" + name + "” promises for " + number + " now.")
                        .orElse("The first policy that fits promises for " + number + " now."),
                new Done.Undo("/tickets/" + number + "/policy", Map.of("policy", before, "was", policy)),
                "/tickets/" + number);
    }
}

package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongFunction;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Done;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;

/** The state, the priority and the owner of a ticket, chosen and changed; and what takes it out of the bin or out of another. */
@Controller
@RequestMapping("/tickets/{number}")
class FactsController {

    private final Tickets tickets;
    private final Acts acts;
    private final Persons persons;
    private final TicketStates states;
    private final Access access;

    FactsController(Tickets tickets, Acts acts, Persons persons, TicketStates states, Access access) {
        this.tickets = tickets;
        this.acts = acts;
        this.persons = persons;
        this.states = states;
        this.access = access;
    }

    /** The choices for one fact of a ticket, as a small menu or, without scripts, as a page. */
    @GetMapping("/choose/{what}")
    String choose(
            @PathVariable TicketNumber number, @PathVariable String what, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        Ticket ticket = tickets.get(number, me);
        model.addAttribute("number", number);
        model.addAttribute("ticket", ticket);
        model.addAttribute("me", me.person());
        model.addAttribute("states", states.all());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute("people", persons.active());
        model.addAttribute("teams", persons.teams());
        model.addAttribute("owner", text(ticket.owner()));
        boolean colleagues = ticket.owner().filter(id -> !id.equals(me.id())).isPresent();
        model.addAttribute("mayHand", !colleagues || me.role().has(Right.HAND_OVER_ANY));
        model.addAttribute("what", what);
        if (!List.of("state", "priority", "owner").contains(what)) {
            throw new Problem.NotFound("There is nothing to choose here.");
        }
        return request.getHeader("HX-Request") == null ? "tickets/page/choose" : "tickets/page/choose :: " + what;
    }

    @PostMapping("/state")
    String state(
            @PathVariable TicketNumber number,
            @RequestParam String state,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        TicketState next =
                states.current().find(state).orElseThrow(() -> new Problem.Invalid("There is no such state."));
        String before = current(number).state().key();
        acts.perform(number, new Act.MoveTo(next.key()), was, me);
        return Done.answer(
                request,
                response,
                number + " is now “" + next.name() + "”.",
                new Done.Undo("/tickets/" + number + "/state", Map.of("state", before, "was", next.key())),
                "/tickets/" + number);
    }

    @PostMapping("/priority")
    String priority(
            @PathVariable TicketNumber number,
            @RequestParam Priority priority,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        String before = current(number).priority().name();
        acts.perform(number, new Act.SetPriority(priority), was, me);
        return Done.answer(
                request,
                response,
                number + " is now " + priority + " " + priority.word().toLowerCase(Locale.ROOT) + ".",
                new Done.Undo("/tickets/" + number + "/priority", Map.of("priority", before, "was", priority.name())),
                "/tickets/" + number);
    }

    /** Hands the ticket to a person, to a team, or back to nobody; takes it when the person is oneself. */
    @PostMapping("/owner")
    String owner(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String owner,
            @RequestParam(defaultValue = "") String team,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        Ticket before = current(number);
        if (!team.isEmpty()) {
            acts.perform(number, new Act.HandOver(id(team, TeamId::new)), me);
            var undo = new Done.Undo(
                    "/tickets/" + number + "/team-back",
                    Map.of("team", team, "teamBefore", text(before.team()), "ownerBefore", text(before.owner())));
            String words = number + " was handed to " + name(id(team, TeamId::new)) + ".";
            return Done.answer(request, response, words, undo, "/tickets/" + number);
        }
        Optional<PersonId> to = optional(owner, PersonId::new);
        acts.perform(number, new Act.HandToPerson(to), was, me);
        String words = to.map(person -> person.equals(me.id())
                        ? "You took " + number + "."
                        : number + " was handed to "
                                + persons.find(person).map(Person::name).orElse("them") + ".")
                .orElse(number + " belongs to nobody now.");
        return Done.answer(
                request,
                response,
                words,
                new Done.Undo("/tickets/" + number + "/owner", Map.of("owner", text(before.owner()), "was", owner)),
                "/tickets/" + number);
    }

    private String name(TeamId team) {
        return persons.teams().stream()
                .filter(t -> t.id().equals(team))
                .findFirst()
                .map(t -> t.name())
                .orElse("the team");
    }

    /** Takes back that the ticket was handed to a team. */
    @PostMapping("/team-back")
    String teamBack(
            @PathVariable TicketNumber number,
            @RequestParam String team,
            @RequestParam(defaultValue = "") String teamBefore,
            @RequestParam(defaultValue = "") String ownerBefore,
            HttpServletRequest request,
            HttpServletResponse response) {
        Viewer me = access.require(Right.WORK);
        acts.perform(
                number,
                new Act.HandBack(
                        id(team, TeamId::new), optional(teamBefore, TeamId::new), optional(ownerBefore, PersonId::new)),
                me);
        return Done.answer(request, response, number + " is back where it was.", Done.Undo.NONE, "/tickets/" + number);
    }

    private static <T extends Id> Optional<T> optional(String text, LongFunction<T> as) {
        return text.isEmpty() ? Optional.empty() : Optional.of(id(text, as));
    }

    /** Takes the ticket out of the bin. */
    @PostMapping("/restore")
    String restore(@PathVariable TicketNumber number) {
        acts.perform(number, new Act.Restore(), access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    /** Makes the ticket one of its own again that was joined into another. */
    @PostMapping("/part")
    String part(@PathVariable TicketNumber number, @RequestParam TicketNumber from) {
        acts.perform(number, new Act.Part(from), access.require(Right.WORK));
        return "redirect:/tickets/" + number;
    }

    private Ticket current(TicketNumber number) {
        return tickets.get(number, access.require(Right.WORK));
    }

    private static String text(Optional<? extends Id> value) {
        return value.map(Id::toString).orElse("");
    }

    private static <T extends Id> T id(String text, LongFunction<T> as) {
        return Id.read(text, as)
                .orElseThrow(() -> new Problem.Invalid("That choice was not understood. Nothing was changed."));
    }
}

package rafter.app.handout.queues;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
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
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Whens;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Rebalance;

/** Handing everything out anew: what moves, why, and what that saves; ticked, put into force as one, and taken back. */
@Controller
@RequestMapping("/floor/anew")
class RebalancingController {

    private static final int SHOWN = 500;

    /** A ticket that is to change hands; {@code value} is how the form names it. */
    public record Line(String value, TicketNumber ticket, String from, String to, String due, String why) {}

    private final Rebalancing rebalancing;
    private final Persons persons;
    private final Access access;
    private final Whens whens;

    RebalancingController(Rebalancing rebalancing, Persons persons, Access access, Whens whens) {
        this.rebalancing = rebalancing;
        this.persons = persons;
        this.access = access;
        this.whens = whens;
    }

    @GetMapping
    String propose(Model model) {
        Viewer lead = access.require(Right.WORK);
        Rebalance.Plan plan = rebalancing.propose(lead);
        Map<PersonId, String> names = persons.all().stream().collect(Collectors.toMap(Person::id, Person::name));
        model.addAttribute("plan", plan);
        model.addAttribute("gap", Math.round(plan.gap() * 10) / 10.0);
        model.addAttribute(
                "lines",
                plan.moves().stream()
                        .sorted(Comparator.comparing((Rebalance.Move move) ->
                                        move.ticket().due().orElse(Instant.MAX))
                                .thenComparing(move -> move.ticket().number()))
                        .limit(SHOWN)
                        .map(move -> line(move, names))
                        .toList());
        return "handout/queues/anew";
    }

    private Line line(Rebalance.Move move, Map<PersonId, String> names) {
        return new Line(
                move.ticket().number() + ":"
                        + move.from().map(PersonId::toString).orElse("0") + ":" + move.to(),
                move.ticket().number(),
                move.from().map(id -> names.getOrDefault(id, "somebody")).orElse("nobody"),
                names.getOrDefault(move.to(), "somebody"),
                move.ticket().due().map(whens::say).orElse(""),
                move.why());
    }

    @PostMapping
    String apply(@RequestParam(defaultValue = "") List<String> move, RedirectAttributes redirect) {
        Viewer lead = access.require(Right.WORK);
        try {
            Rebalancing.Done done = rebalancing.apply(
                    move.stream()
                            .map(RebalancingController::read)
                            .flatMap(Optional::stream)
                            .toList(),
                    lead);
            redirect.addFlashAttribute("said", words(done, " changed hands."));
            redirect.addFlashAttribute("undoAnew", done.id());
            return "redirect:/floor";
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            return "redirect:/floor/anew";
        }
    }

    private static String words(Rebalancing.Done done, String what) {
        return done.moved()
                + (done.moved() == 1 ? " ticket" : " tickets")
                + what
                + (done.refused().isEmpty()
                        ? ""
                        : " Left as they are: "
                                + String.join(
                                        " ",
                                        done.refused()
                                                .subList(
                                                        0,
                                                        Math.min(
                                                                3,
                                                                done.refused().size()))));
    }

    private static Optional<Rebalancing.Moved> read(String typed) {
        if (!typed.matches("\\d{1,15}:\\d{1,15}:\\d{1,15}")) {
            return Optional.empty();
        }
        String[] parts = typed.split(":");
        return Optional.of(
                new Rebalancing.Moved(Long.parseLong(parts[0]), Long.parseLong(parts[1]), Long.parseLong(parts[2])));
    }

    @PostMapping("/{id}/undo")
    String undo(@PathVariable long id, RedirectAttributes redirect) {
        try {
            redirect.addFlashAttribute(
                    "said", words(rebalancing.undo(id, access.require(Right.WORK)), " went back to where it was."));
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/floor";
    }
}

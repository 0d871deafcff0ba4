package rafter.app.handout.queues;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.BestFit;
import rafter.core.routing.Factor;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.ticket.Ticket;

/** Who fits a ticket best: everybody in order, each factor a bar with its figure; one key hands it over. */
@Controller
@RequestMapping("/tickets/{number}/fit")
class FitController {

    /** With so many a key hands over. */
    private static final int KEYED = 9;

    /** A factor of one person, of a hundred. */
    public record Bar(String name, String meaning, long share, int weight) {}

    /** Somebody in the ranking; {@code key} hands over to them, zero: none does. */
    public record Line(
            PersonId id,
            String name,
            int key,
            long score,
            boolean can,
            String hindrance,
            String load,
            List<Bar> bars) {}

    private final Tickets tickets;
    private final Places places;
    private final Knowing knowing;
    private final Workforce workforce;
    private final HandOutSettings settings;
    private final Access access;
    private final Clock clock;

    FitController(
            Tickets tickets,
            Places places,
            Knowing knowing,
            Workforce workforce,
            HandOutSettings settings,
            Access access,
            Clock clock) {
        this.tickets = tickets;
        this.places = places;
        this.knowing = knowing;
        this.workforce = workforce;
        this.settings = settings;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String fit(@PathVariable TicketNumber number, Model model) {
        Viewer me = access.require(Right.WORK);
        Ticket ticket = tickets.get(number, me);
        Waiting waiting = places.asWaiting(number);
        HandOutRules rules = settings.rules();
        boolean colleagues = ticket.owner().filter(id -> !id.equals(me.id())).isPresent();
        model.addAttribute("number", number);
        model.addAttribute("subject", ticket.subject());
        model.addAttribute("mayHand", !colleagues || me.role().has(Right.HAND_OVER_ANY));
        model.addAttribute("owner", ticket.owner().map(PersonId::toString).orElse(""));
        model.addAttribute(
                "needs",
                waiting.needs().stream().map(need -> need.skill().name()).toList());
        model.addAttribute("lines", lines(waiting, ticket.owner(), rules));
        return "handout/queues/fit";
    }

    private List<Line> lines(Waiting waiting, Optional<PersonId> owner, HandOutRules rules) {
        List<Worker> people = workforce.workers();
        Set<TeamId> everybody = new HashSet<>();
        people.forEach(one -> everybody.addAll(one.teams()));
        Knowing.Known known = knowing.of(waiting);
        var question = new BestFit.Question(
                waiting, everybody, places.needs(waiting), rules.weights(), known.topic(), known::of, clock.instant());
        var lines = new ArrayList<Line>();
        for (BestFit.Candidate one : BestFit.rank(question, people)) {
            if (!owner.equals(Optional.of(one.worker().id()))) {
                lines.add(line(one, lines.size() + 1, rules));
            }
        }
        return lines;
    }

    private static Line line(BestFit.Candidate one, int place, HandOutRules rules) {
        Worker worker = one.worker();
        return new Line(
                worker.id(),
                worker.name(),
                place <= KEYED ? place : 0,
                Math.round(one.score()),
                one.can(),
                one.hindrance().orElse(""),
                FloorPeople.load(worker),
                Arrays.stream(Factor.values())
                        .map(factor -> new Bar(
                                factor.words(),
                                factor.meaning(),
                                Math.round(100 * one.values().getOrDefault(factor, 0.0)),
                                rules.weights().getOrDefault(factor, 0)))
                        .toList());
    }
}

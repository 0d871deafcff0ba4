package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE_ENTRY;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Whens;
import rafter.core.id.QueueId;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;

/** The floor: who is here and how loaded, and what waits in which queue. */
@Controller
@RequestMapping("/floor")
class FloorController {

    private static final int SHOWN = 5;

    /** Somebody who works here; {@code share} is what they have of what they take, of a hundred at most. */
    record Person(String name, String presence, boolean here, String load, long share) {}

    /** A ticket that waits; {@code needs} are the skills it needs. */
    record Ticket(String number, int place, String since, String due, String needs) {}

    /** A queue as the page shows it. */
    record Line(String name, String way, String order, int waiting, String oldest, List<Ticket> first) {}

    private final Queues queues;
    private final Places places;
    private final HandingOut handing;
    private final Workforce workforce;
    private final Access access;
    private final Whens whens;
    private final Clock clock;

    FloorController(
            Queues queues,
            Places places,
            HandingOut handing,
            Workforce workforce,
            Access access,
            Whens whens,
            Clock clock) {
        this.queues = queues;
        this.places = places;
        this.handing = handing;
        this.workforce = workforce;
        this.access = access;
        this.whens = whens;
        this.clock = clock;
    }

    @GetMapping
    String floor(Model model) {
        Viewer me = access.require(Right.WORK);
        Map<QueueId, List<Waiting>> waiting = places.waiting(me.sees(QUEUE_ENTRY.TICKET));
        model.addAttribute("me", workforce.standing(me.id()));
        model.addAttribute("presences", Presence.values());
        model.addAttribute(
                "people",
                workforce.workers().stream()
                        .sorted(Comparator.comparing((Worker one) -> one.presence())
                                .thenComparing(Worker::name))
                        .map(FloorController::person)
                        .toList());
        Instant now = clock.instant();
        model.addAttribute(
                "queues",
                queues.all().stream()
                        .filter(Queue::on)
                        .map(queue -> line(queue, waiting.getOrDefault(queue.id(), List.of()), now))
                        .toList());
        return "handout/queues/floor";
    }

    private static Person person(Worker one) {
        boolean here = one.presence() == Presence.HERE;
        return new Person(
                one.name(),
                one.presence().words() + (here && !one.taking() ? ", takes no work" : ""),
                here,
                Math.round(one.used()) + " of " + Math.round(one.limit()),
                Math.min(100, Math.round(100 * Math.min(1, one.load()))));
    }

    private Line line(Queue queue, List<Waiting> waiting, Instant now) {
        List<Waiting> sorted = queue.order().sorted(waiting, now);
        var first = new ArrayList<Ticket>();
        for (Waiting one : sorted.subList(0, Math.min(SHOWN, sorted.size()))) {
            first.add(new Ticket(
                    one.number().toString(),
                    first.size() + 1,
                    whens.say(one.since()),
                    one.due().map(whens::say).orElse(""),
                    String.join(
                            ", ",
                            one.needs().stream()
                                    .map(need -> need.skill().name())
                                    .toList())));
        }
        Optional<Waiting> oldest = waiting.stream().min(Comparator.comparing(Waiting::since));
        return new Line(
                queue.name(),
                queue.way().words(),
                queue.order().words(),
                waiting.size(),
                oldest.map(one -> whens.say(one.since())).orElse(""),
                first);
    }

    /** Gives the best ticket that somebody can take, and opens it. */
    @PostMapping("/next")
    String next(RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            Optional<HandingOut.Got> got = handing.next(me);
            if (got.isPresent()) {
                redirect.addFlashAttribute(
                        "said",
                        "This one is yours, out of the queue " + got.get().queue() + ".");
                return "redirect:/tickets/" + got.get().number();
            }
            redirect.addFlashAttribute("said", "Nothing waits that you can take.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/floor";
    }
}

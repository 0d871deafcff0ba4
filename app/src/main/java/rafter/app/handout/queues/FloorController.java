package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE_ENTRY;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Whens;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Pace;
import rafter.core.routing.Presence;
import rafter.core.routing.Queue;
import rafter.core.routing.Waiting;

/** The floor: who is here and how loaded, and what waits in which queue. */
@Controller
@RequestMapping("/floor")
class FloorController {

    private static final int SHOWN = 5;

    /** A ticket that waits; {@code needs} are the skills it needs, {@code asked} who is asked about it. */
    public record Ticket(TicketNumber number, int place, String since, String due, String needs, boolean asked) {}

    /** A part of the last hour: how high it is drawn, of {@value #HIGH}. */
    public record Bar(int x, int in, int out) {}

    private static final int HIGH = 12;

    /**
     * A queue as the page shows it.
     *
     * @param late from which place on tickets will be late at the pace of the last hour; blank: none will
     */
    public record Line(
            QueueId id,
            String name,
            String way,
            String order,
            int waiting,
            String oldest,
            String late,
            int in,
            int out,
            List<Bar> bars,
            Queues.ByHand overflow,
            boolean further,
            List<Ticket> first) {}

    private final Queues queues;
    private final Places places;
    private final Offers offers;
    private final Flow flow;
    private final FloorPeople people;
    private final HandingOut handing;
    private final Workforce workforce;
    private final HandOutSettings settings;
    private final Access access;
    private final Whens whens;
    private final Clock clock;

    FloorController(
            Queues queues,
            Places places,
            Offers offers,
            Flow flow,
            FloorPeople people,
            HandingOut handing,
            Workforce workforce,
            HandOutSettings settings,
            Access access,
            Whens whens,
            Clock clock) {
        this.queues = queues;
        this.places = places;
        this.offers = offers;
        this.flow = flow;
        this.people = people;
        this.handing = handing;
        this.workforce = workforce;
        this.settings = settings;
        this.access = access;
        this.whens = whens;
        this.clock = clock;
    }

    @GetMapping
    String floor(Model model) {
        Viewer me = access.require(Right.WORK);
        boolean lead = me.role().has(Right.HAND_OVER_ANY);
        boolean sees = lead || settings.rules().floorForAll();
        model.addAttribute("me", workforce.standing(me.id()));
        model.addAttribute("mine", me.id());
        model.addAttribute("lead", lead);
        model.addAttribute("sees", sees);
        model.addAttribute("presences", Presence.values());
        model.addAttribute("reasons", settings.rules().reasons());
        List<FloorPeople.Person> all = people.people(me, lead);
        model.addAttribute(
                "people",
                all.stream().filter(one -> sees || one.id().equals(me.id())).toList());
        model.addAttribute(
                "absences",
                all.stream()
                        .filter(one -> one.id().equals(me.id()))
                        .flatMap(one -> one.absences().stream())
                        .toList());
        model.addAttribute("queues", sees ? lines(me) : List.of());
        return "handout/queues/floor";
    }

    /** What a lead does with somebody: writes to them, says where they are, plans an absence. */
    @GetMapping("/people/{person}")
    String person(@PathVariable PersonId person, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.HAND_OVER_ANY);
        model.addAttribute(
                "p",
                people.people(me, true).stream()
                        .filter(one -> one.id().equals(person))
                        .findFirst()
                        .orElseThrow(() -> new Problem.NotFound("They do not work here any more.")));
        model.addAttribute("presences", Presence.values());
        return request.getHeader("HX-Request") == null
                ? "handout/queues/floor-person"
                : "handout/queues/floor-person :: person";
    }

    private List<Line> lines(Viewer me) {
        Instant now = clock.instant();
        Map<QueueId, List<Waiting>> waiting = places.waiting(me.sees(QUEUE_ENTRY.TICKET));
        Map<QueueId, Flow.OfHour> flows = flow.ofHour();
        Map<TicketNumber, Offers.Offer> asked = offers.open();
        return queues.kept().stream()
                .filter(kept -> kept.queue().on())
                .map(kept -> line(
                        kept,
                        waiting.getOrDefault(kept.queue().id(), List.of()),
                        flows.getOrDefault(kept.queue().id(), Flow.OfHour.none()),
                        asked,
                        now))
                .toList();
    }

    private Line line(
            Queues.Kept kept,
            List<Waiting> waiting,
            Flow.OfHour flowed,
            Map<TicketNumber, Offers.Offer> asked,
            Instant now) {
        Queue queue = kept.queue();
        List<Waiting> sorted = queue.order().sorted(waiting, now);
        Optional<Waiting> oldest = waiting.stream().min(Comparator.comparing(Waiting::since));
        int out = Arrays.stream(flowed.out()).sum();
        return new Line(
                queue.id(),
                queue.name(),
                queue.way().words(),
                queue.order().words(),
                waiting.size(),
                oldest.map(one -> whens.say(one.since())).orElse(""),
                Pace.late(sorted, out, now).stream()
                        .mapToObj(Integer::toString)
                        .findFirst()
                        .orElse(""),
                Arrays.stream(flowed.in()).sum(),
                out,
                bars(flowed),
                kept.overflow(),
                !queue.overflow().isEmpty(),
                first(sorted, asked));
    }

    private List<Ticket> first(List<Waiting> sorted, Map<TicketNumber, Offers.Offer> asked) {
        var first = new ArrayList<Ticket>();
        for (Waiting one : sorted.subList(0, Math.min(SHOWN, sorted.size()))) {
            first.add(new Ticket(
                    one.number(),
                    first.size() + 1,
                    whens.say(one.since()),
                    one.due().map(whens::say).orElse(""),
                    String.join(
                            ", ",
                            one.needs().stream()
                                    .map(need -> need.skill().name())
                                    .toList()),
                    asked.containsKey(one.number())));
        }
        return first;
    }

    private static List<Bar> bars(Flow.OfHour flowed) {
        int most = Math.max(
                1,
                Math.max(
                        Arrays.stream(flowed.in()).max().orElse(0),
                        Arrays.stream(flowed.out()).max().orElse(0)));
        var bars = new ArrayList<Bar>();
        for (int i = 0; i < Flow.PARTS; i++) {
            bars.add(new Bar(i * 8, HIGH * flowed.in()[i] / most, HIGH * flowed.out()[i] / most));
        }
        return bars;
    }

    /** A lead opens the overflow of a queue, closes it, or leaves it to its steps. */
    @PostMapping("/queues/{queue}/overflow")
    String overflow(@PathVariable QueueId queue, @RequestParam String by, RedirectAttributes redirect) {
        Queues.ByHand byHand = Arrays.stream(Queues.ByHand.values())
                .filter(one -> one.name().equals(by))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("An overflow is open, closed, or as its steps say."));
        queues.overflow(queue, byHand, access.require(Right.WORK));
        redirect.addFlashAttribute(
                "said",
                switch (byHand) {
                    case OPEN -> "The overflow is open: all its steps are taken for every ticket.";
                    case CLOSED -> "The overflow is closed.";
                    case STEPS -> "The overflow goes by its steps again.";
                });
        return "redirect:/floor";
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

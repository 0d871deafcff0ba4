package rafter.app.handout.queues;

import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.handout.consults.AskedIn;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.WordsTo;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Whens;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/** What somebody is asked to take, on every page: what, why they, and how long they have. */
@Controller
@RequestMapping("/offer")
class OfferController {

    /** An offer as the page shows it; {@code seconds} are left. */
    public record Shown(
            long id, TicketNumber ticket, String subject, String priority, String due, String why, long seconds) {}

    private final HandingOut handing;
    private final AskedIn rooms;
    private final WordsTo words;
    private final Tickets tickets;
    private final Channels channels;
    private final HandOutSettings settings;
    private final NextDues dues;
    private final Whens whens;
    private final Access access;
    private final Clock clock;

    OfferController(
            HandingOut handing,
            AskedIn rooms,
            WordsTo words,
            Tickets tickets,
            Channels channels,
            HandOutSettings settings,
            NextDues dues,
            Whens whens,
            Access access,
            Clock clock) {
        this.handing = handing;
        this.rooms = rooms;
        this.words = words;
        this.tickets = tickets;
        this.channels = channels;
        this.settings = settings;
        this.dues = dues;
        this.whens = whens;
        this.access = access;
        this.clock = clock;
    }

    /** What is asked of who looks; nothing at all when nothing is. */
    @GetMapping
    String offer(Model model) {
        return shown(access.require(Right.WORK), model);
    }

    private String shown(Viewer me, Model model) {
        Optional<Shown> shown = handing.asked(me)
                .flatMap(asked -> tickets.find(asked.ticket(), me).map(ticket -> shown(asked, ticket)));
        model.addAttribute("offer", shown.orElse(null));
        Optional<AskedIn.Asked> room = shown.isPresent() ? Optional.empty() : rooms.of(me);
        model.addAttribute("room", room.orElse(null));
        model.addAttribute(
                "words",
                shown.isPresent() || room.isPresent() ? null : words.unread(me).orElse(null));
        model.addAttribute("asksWhy", settings.rules().passAsksWhy());
        return "handout/queues/offer :: offer";
    }

    private Shown shown(HandingOut.Asked asked, Ticket ticket) {
        return new Shown(
                asked.id(),
                asked.ticket(),
                ticket.subject(),
                ticket.priority() + " " + ticket.priority().word(),
                dues.of(asked.ticket()).map(whens::say).orElse(""),
                asked.why(),
                Math.max(0, Duration.between(clock.instant(), asked.until()).toSeconds()));
    }

    @PostMapping("/{id}/take")
    String take(@PathVariable long id, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            TicketNumber taken = handing.take(id, me);
            String channel = tickets.find(taken, me).map(Ticket::channel).orElse("");
            return "redirect:" + channels.desk(channel, taken);
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            return "redirect:/floor";
        }
    }

    /** Has read what a colleague wrote, and may answer; shows what is asked then. */
    @PostMapping("/words/{id}/read")
    String read(@PathVariable long id, @RequestParam(defaultValue = "") String answer, Model model) {
        Viewer me = access.require(Right.WORK);
        return answered(me, answer, model, () -> words.read(id, answer, me));
    }

    /** Does not come into a room, and shows what is asked then. */
    @PostMapping("/rooms/{consult}/decline")
    String decline(@PathVariable long consult, @RequestParam(defaultValue = "") String reason, Model model) {
        Viewer me = access.require(Right.WORK);
        return answered(me, reason, model, () -> rooms.decline(consult, reason, me));
    }

    /** Passes it, and shows what is asked then; nothing, most often. */
    @PostMapping("/{id}/pass")
    String pass(@PathVariable long id, @RequestParam(defaultValue = "") String reason, Model model) {
        Viewer me = access.require(Right.WORK);
        return answered(me, reason, model, () -> handing.pass(id, reason, me));
    }

    /** Does it and shows what is asked then; what was typed stays where it could not be done. */
    private String answered(Viewer me, String typed, Model model, Runnable act) {
        try {
            act.run();
        } catch (Problem.Invalid | Problem.Stale | Problem.NotFound e) {
            model.addAttribute("problem", e.words());
            model.addAttribute("reason", typed);
        }
        return shown(me, model);
    }
}

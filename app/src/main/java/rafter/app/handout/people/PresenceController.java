package rafter.app.handout.people;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Waiting;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketTimes;
import rafter.core.id.PersonId;
import rafter.core.routing.Presence;

/** Whether somebody is here and takes work: they say so themselves, their pages renew it, and leads say it for them. */
@Controller
@RequestMapping("/presence")
class PresenceController {

    private static final String FLOOR = "redirect:/floor";

    private final Workforce workforce;
    private final Whereabouts whereabouts;
    private final HandOutSettings settings;
    private final WordsTo words;
    private final Waiting waiting;
    private final Persons persons;
    private final TicketTimes times;
    private final Access access;
    private final Clock clock;

    PresenceController(
            Workforce workforce,
            Whereabouts whereabouts,
            HandOutSettings settings,
            WordsTo words,
            Waiting waiting,
            Persons persons,
            TicketTimes times,
            Access access,
            Clock clock) {
        this.workforce = workforce;
        this.whereabouts = whereabouts;
        this.settings = settings;
        this.words = words;
        this.waiting = waiting;
        this.persons = persons;
        this.times = times;
        this.access = access;
        this.clock = clock;
    }

    /** The form in the frame of every page. */
    @GetMapping
    String form(Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("me", workforce.standing(me.id()));
        model.addAttribute("presences", Presence.values());
        model.addAttribute("reasons", settings.rules().reasons());
        return "handout/people/presence :: form";
    }

    private static Presence presence(String typed) {
        return Arrays.stream(Presence.values())
                .filter(one -> one.name().equals(typed))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Say whether you are at work, away or off."));
    }

    @PostMapping
    String say(
            @RequestParam String presence,
            @RequestParam(defaultValue = "") String reason,
            @RequestParam(defaultValue = "false") boolean taking,
            @RequestParam(defaultValue = "") String back,
            RedirectAttributes redirect) {
        Presence said = presence(presence);
        whereabouts.say(said, reason, taking, access.require(Right.WORK));
        redirect.addFlashAttribute(
                "said", "You are " + said.words() + (said == Presence.HERE && !taking ? ", and take no work." : "."));
        return back.startsWith("/") && !back.startsWith("//") ? "redirect:" + back : FLOOR;
    }

    /**
     * What a page is told that is open.
     *
     * @param presence where somebody is, for the mark in the frame
     * @param words the same for people
     * @param waits what waits for them
     */
    public record Heard(String presence, String words, Map<String, Integer> waits) {}

    /** A page is open, and somebody touched it so many seconds ago. */
    @PostMapping("/beat")
    @ResponseBody
    Heard beat(@RequestParam(defaultValue = "0") long idle) {
        Viewer me = access.require(Right.WORK);
        whereabouts.beat(me, Duration.ofSeconds(Math.clamp(idle, 0, 1_000_000)));
        Workforce.Standing standing = workforce.standing(me.id());
        return new Heard(
                standing.presence() == Presence.HERE && !standing.taking()
                        ? "busy"
                        : standing.presence().name().toLowerCase(Locale.ROOT),
                standing.presence().words() + (standing.taking() ? "" : ", takes no work"),
                waiting.of(me));
    }

    /** A lead says where somebody is. */
    @PostMapping("/of/{person}")
    String sayFor(
            @PathVariable PersonId person,
            @RequestParam String presence,
            @RequestParam(defaultValue = "false") boolean taking,
            @RequestParam(defaultValue = "") String reason,
            RedirectAttributes redirect) {
        Presence said = presence(presence);
        whereabouts.sayFor(person, said, reason, taking, access.require(Right.WORK));
        redirect.addFlashAttribute(
                "said", persons.find(person).map(one -> one.name()).orElse("They") + " is " + said.words() + " now.");
        return FLOOR;
    }

    /** A lead writes a few words to somebody. */
    @PostMapping("/of/{person}/words")
    String words(
            @PathVariable PersonId person, @RequestParam(defaultValue = "") String text, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            words.send(person, text, me);
            redirect.addFlashAttribute(
                    "said",
                    "Sent. " + persons.find(person).map(one -> one.name()).orElse("They")
                            + " sees it on every page until it was read.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return FLOOR;
    }

    /** Plans an absence of one's own, or a lead that of somebody else. */
    @PostMapping("/absences")
    String plan(
            @RequestParam(defaultValue = "0") PersonId person,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String reason,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            Instant begins = times.read(from).orElse(clock.instant());
            Instant ends = times.read(to)
                    .orElseThrow(() -> new Problem.Invalid("Say until when it lasts. Nothing was planned."));
            whereabouts.plan(person.none() ? me.id() : person, begins, ends, reason, me);
            redirect.addFlashAttribute("said", "The absence is planned.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words() + " You typed “" + from + "” to “" + to + "”.");
        }
        return FLOOR;
    }

    @PostMapping("/absences/{id}/remove")
    String unplan(@PathVariable long id, RedirectAttributes redirect) {
        whereabouts.unplan(id, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "The absence is taken away.");
        return FLOOR;
    }
}

package rafter.app.handout.consults;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.files.Uploads;
import rafter.app.tickets.writing.Drafts;
import rafter.core.consult.Who;
import rafter.core.id.ExpertId;
import rafter.core.id.Id;
import rafter.core.id.PersonId;

/** A room, for colleagues. */
@Controller
@RequestMapping("/consults/{id}")
class RoomController {

    /** Somebody who can be asked, too. */
    public record Choice(String id, String name) {}

    private final Consults consults;
    private final Outcomes outcomes;
    private final Rooms rooms;
    private final RoomFiles files;
    private final Guests guests;
    private final Candidates candidates;
    private final Talking talking;
    private final Uploads uploads;
    private final Tickets tickets;
    private final Access access;

    RoomController(
            Consults consults,
            Outcomes outcomes,
            Rooms rooms,
            RoomFiles files,
            Guests guests,
            Candidates candidates,
            Talking talking,
            Uploads uploads,
            Tickets tickets,
            Access access) {
        this.consults = consults;
        this.outcomes = outcomes;
        this.rooms = rooms;
        this.files = files;
        this.guests = guests;
        this.candidates = candidates;
        this.talking = talking;
        this.uploads = uploads;
        this.tickets = tickets;
        this.access = access;
    }

    /** Who sees the ticket sees its rooms; who is asked in sees that one. */
    private Consults.Consult seen(long id, Viewer me) {
        return consults.find(id)
                .filter(one -> tickets.find(one.ticket(), me).isPresent()
                        || guests.of(id).stream()
                                .anyMatch(guest -> guest.person().equals(Optional.of(me.id()))))
                .orElseThrow(() -> new Problem.NotFound("There is no such room."));
    }

    @GetMapping
    String show(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        Consults.Consult consult = seen(id, me);
        live(id, me, model);
        model.addAttribute("about", rooms.about(consult));
        model.addAttribute("once", UUID.randomUUID().toString());
        model.addAttribute("longest", Lines.LONGEST);
        List<Guests.Guest> all = guests.of(id);
        model.addAttribute(
                "choices",
                candidates.all(consult.by()).stream()
                        .filter(one -> all.stream()
                                .noneMatch(guest -> guest.who().equals(one.who())
                                        && (guest.state() == Guests.State.ASKED
                                                || guest.state() == Guests.State.TAKEN)))
                        .map(one -> new Choice(
                                key(one.who()), one.name() + (one.can() ? "" : ", " + candidates.whyNot(one))))
                        .toList());
        return "handout/consults/room";
    }

    private void live(long id, Viewer me, Model model) {
        model.addAttribute("room", rooms.live(id, Optional.of(new Who.Colleague(me.id()))));
        model.addAttribute("at", "/consults/" + id);
        model.addAttribute("outside", false);
    }

    private static String key(Who who) {
        return switch (who) {
            case Who.Colleague(PersonId person) -> "p" + person;
            case Who.Outside(ExpertId expert) -> "x" + expert;
        };
    }

    private static Who who(String key) {
        String number = key.isEmpty() ? "" : key.substring(1);
        Optional<Who> found = key.startsWith("p")
                ? Id.read(number, PersonId::new).map(Who.Colleague::new)
                : Id.read(number, ExpertId::new).map(Who.Outside::new);
        return found.orElseThrow(() -> new Problem.Invalid("Choose whom to ask."));
    }

    @GetMapping("/live")
    String live(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        live(id, me, model);
        return "handout/consults/room :: live";
    }

    @PostMapping("/lines")
    String say(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "false") boolean step,
            @RequestParam(defaultValue = "") String once,
            @RequestParam(name = "file", required = false) Optional<List<MultipartFile>> sent,
            @RequestHeader(name = "HX-Request", required = false) Optional<String> script,
            Model model,
            RedirectAttributes redirect)
            throws IOException {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        try {
            guests.asked(me.id()).stream().filter(one -> one.consult() == id).forEach(one -> consults.take(one.id()));
            talking.say(
                    id,
                    new Lines.Speaker(me.name(), Optional.of(me.id()), Optional.empty()),
                    step ? Lines.Kind.STEP : Lines.Kind.WORDS,
                    text,
                    once,
                    uploads.keep(sent.orElse(List.of())));
        } catch (Problem.Invalid | Problem.Stale e) {
            if (script.isPresent()) {
                throw e;
            }
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("typed", text);
        }
        if (script.isEmpty()) {
            return back(id);
        }
        live(id, me, model);
        return "handout/consults/room :: live";
    }

    private static String back(long id) {
        return "redirect:/consults/" + id;
    }

    private String done(long id, String words, RedirectAttributes redirect, Runnable act) {
        try {
            act.run();
            redirect.addFlashAttribute("said", words);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return back(id);
    }

    private long mine(long id, Viewer me) {
        return guests.of(id).stream()
                .filter(one -> one.person().equals(Optional.of(me.id())))
                .findFirst()
                .map(Guests.Guest::id)
                .orElseThrow(() -> new Problem.Stale("You are not asked into this room."));
    }

    @PostMapping("/take")
    String take(@PathVariable long id, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "You are in the room.", redirect, () -> consults.take(mine(id, me)));
    }

    @PostMapping("/decline")
    String decline(@PathVariable long id, @RequestParam(defaultValue = "") String reason, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "You are not in the room.", redirect, () -> consults.decline(mine(id, me), reason));
    }

    @PostMapping("/join")
    String join(@PathVariable long id, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "You are in the room.", redirect, () -> consults.join(id, me));
    }

    @PostMapping("/invite")
    String invite(@PathVariable long id, @RequestParam(defaultValue = "") String who, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "They are asked.", redirect, () -> consults.invite(id, who(who), me));
    }

    @PostMapping("/close")
    String close(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String found,
            @RequestParam(defaultValue = "") String did,
            @RequestParam(name = "helped", required = false) Optional<List<Long>> helped,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        try {
            outcomes.close(id, found, did, new HashSet<>(helped.orElse(List.of())), me);
            redirect.addFlashAttribute("said", "The room is closed. The ticket keeps what came of it as a note.");
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
            redirect.addFlashAttribute("found", found);
            redirect.addFlashAttribute("did", did);
        }
        return back(id);
    }

    @PostMapping("/call-off")
    String callOff(@PathVariable long id, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "The room is called off.", redirect, () -> outcomes.callOff(id, me));
    }

    @PostMapping("/reopen")
    String reopen(@PathVariable long id, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return done(id, "The room is open again.", redirect, () -> outcomes.reopen(id, me));
    }

    /** Puts a line into what one is writing on the ticket. */
    @PostMapping("/lines/{line}/quote")
    String quote(@PathVariable long id, @PathVariable long line, @RequestParam(defaultValue = "reply") String into) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        boolean note = into.equals("note");
        return "redirect:/tickets/" + outcomes.quote(id, line, note ? Drafts.Kind.NOTE : Drafts.Kind.REPLY, me)
                + (note ? "#note" : "#composer");
    }

    @PostMapping("/into-reply")
    String intoReply(@PathVariable long id) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return "redirect:/tickets/" + outcomes.intoReply(id, me) + "#composer";
    }

    @PostMapping("/answer")
    String answer(@PathVariable long id) {
        Viewer me = access.require(Right.WORK);
        seen(id, me);
        return "redirect:/answers/drafts/" + outcomes.answer(id, me);
    }

    @GetMapping("/files/{file}")
    ResponseEntity<byte[]> file(@PathVariable long id, @PathVariable long file) {
        seen(id, access.require(Right.WORK));
        return files.ofLine(id, file);
    }

    @GetMapping("/ticket-files/{file}")
    ResponseEntity<byte[]> ticketFile(@PathVariable long id, @PathVariable long file) {
        return files.ofTicket(seen(id, access.require(Right.WORK)), file);
    }
}

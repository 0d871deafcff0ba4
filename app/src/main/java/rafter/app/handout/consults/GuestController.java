package rafter.app.handout.consults;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.springframework.http.HttpStatus;
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
import rafter.app.platform.Problem;
import rafter.app.platform.Unlisted;
import rafter.app.platform.Workspaces;
import rafter.app.tickets.acts.NewMessage;
import rafter.app.tickets.files.Uploads;
import rafter.core.consult.Who;

/** A room, for somebody from outside: who has the link needs no password, and sees nothing but that room as long as it is open. */
@Controller
@RequestMapping("/room/{token}")
class GuestController {

    /** By which a page that asks again and again is told to leave off. */
    private static final int ASK_NO_MORE = 286;

    private static final String PAGE = "handout/consults/guest";

    private final Consults consults;
    private final Rooms rooms;
    private final RoomFiles files;
    private final RoomPages pages;
    private final Guests guests;
    private final Experts experts;
    private final Talking talking;
    private final Uploads uploads;
    private final Workspaces workspaces;

    GuestController(
            Consults consults,
            Rooms rooms,
            RoomFiles files,
            RoomPages pages,
            Guests guests,
            Experts experts,
            Talking talking,
            Uploads uploads,
            Workspaces workspaces) {
        this.consults = consults;
        this.rooms = rooms;
        this.files = files;
        this.pages = pages;
        this.guests = guests;
        this.experts = experts;
        this.talking = talking;
        this.uploads = uploads;
        this.workspaces = workspaces;
    }

    /** Whose link it is, while they are one of our experts and the room is open. */
    private Guests.Guest guest(String token) {
        Guests.Guest guest = pages.guest(token).stream()
                .boxed()
                .flatMap(id -> guests.find(id).stream())
                .findFirst()
                .filter(one -> one.who() instanceof Who.Outside(var id)
                        && experts.all().stream().anyMatch(expert -> expert.id().equals(id)))
                .orElseThrow(() -> new Problem.NotFound("This link does not work. Ask whoever sent it to you."));
        boolean open =
                consults.find(guest.consult()).filter(Consults.Consult::open).isPresent();
        if (!open || guest.state() == Guests.State.WITHDRAWN) {
            throw new Problem.NotFound("This room is closed. Thank you for your help.");
        }
        return guest;
    }

    private String answered(HttpServletResponse response, Model model, Function<Model, String> page) {
        Unlisted.mark(response);
        model.addAttribute("ours", workspaces.current().name());
        try {
            return page.apply(model);
        } catch (Problem.NotFound e) {
            response.setStatus(HttpStatus.NOT_FOUND.value());
            model.addAttribute("nothing", e.words());
            return PAGE;
        }
    }

    @GetMapping
    String show(@PathVariable String token, Model model, HttpServletResponse response) {
        return answered(response, model, m -> page(token, m));
    }

    private String page(String token, Model model) {
        Guests.Guest guest = guest(token);
        model.addAttribute("guest", guest);
        model.addAttribute("here", guest.state() == Guests.State.TAKEN);
        model.addAttribute("about", rooms.about(consults.find(guest.consult()).orElseThrow()));
        model.addAttribute("once", UUID.randomUUID().toString());
        model.addAttribute("longest", Lines.LONGEST);
        live(token, guest, model);
        return PAGE;
    }

    private void live(String token, Guests.Guest guest, Model model) {
        model.addAttribute("room", rooms.live(guest.consult(), Optional.of(guest.who())));
        model.addAttribute("at", "/room/" + token);
        model.addAttribute("outside", true);
    }

    /** What was said meanwhile; once the room is closed the page is told so, asks no more, and what was typed into it stays. */
    @GetMapping("/live")
    String live(@PathVariable String token, Model model, HttpServletResponse response) {
        Unlisted.mark(response);
        try {
            live(token, guest(token), model);
            return "handout/consults/room :: live";
        } catch (Problem.NotFound e) {
            response.setStatus(ASK_NO_MORE);
            model.addAttribute("nothing", e.words());
            return "handout/consults/guest :: closed";
        }
    }

    @PostMapping("/lines")
    String say(
            @PathVariable String token,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "false") boolean step,
            @RequestParam(defaultValue = "") String once,
            @RequestParam(name = "file", required = false) Optional<List<MultipartFile>> sent,
            @RequestHeader(name = "HX-Request", required = false) Optional<String> script,
            Model model,
            HttpServletResponse response) {
        return answered(response, model, m -> {
            Guests.Guest guest = guest(token);
            try {
                // Who says something has come.
                if (guest.state() != Guests.State.TAKEN) {
                    consults.take(guest.id());
                }
                talking.say(
                        guest.consult(),
                        new Lines.Speaker(guest.name(), Optional.empty(), Optional.of(guest.id())),
                        step ? Lines.Kind.STEP : Lines.Kind.WORDS,
                        text,
                        once,
                        kept(sent.orElse(List.of())));
            } catch (Problem.Invalid e) {
                if (script.isPresent()) {
                    throw e;
                }
                m.addAttribute("problem", e.words());
                m.addAttribute("typed", text);
                response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
                return page(token, m);
            }
            if (script.isEmpty()) {
                return "redirect:/room/" + token;
            }
            live(token, guest, m);
            return "handout/consults/room :: live";
        });
    }

    private List<NewMessage.FileRef> kept(List<MultipartFile> sent) {
        try {
            return uploads.keep(sent);
        } catch (IOException e) {
            throw new Problem.Invalid("The files did not arrive whole. Nothing was said; send it once more.");
        }
    }

    @PostMapping("/take")
    String take(@PathVariable String token, Model model, HttpServletResponse response) {
        return answered(
                response,
                model,
                m -> acted(token, m, () -> consults.take(guest(token).id())));
    }

    @PostMapping("/decline")
    String decline(
            @PathVariable String token,
            @RequestParam(defaultValue = "") String reason,
            Model model,
            HttpServletResponse response) {
        return answered(
                response,
                model,
                m -> acted(token, m, () -> consults.decline(guest(token).id(), reason)));
    }

    private String acted(String token, Model model, Runnable act) {
        try {
            act.run();
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return page(token, model);
        }
        return "redirect:/room/" + token;
    }

    @GetMapping("/files/{file}")
    ResponseEntity<byte[]> file(@PathVariable String token, @PathVariable long file) {
        return files.ofLine(guest(token).consult(), file);
    }

    @GetMapping("/ticket-files/{file}")
    ResponseEntity<byte[]> ticketFile(@PathVariable String token, @PathVariable long file) {
        return files.ofTicket(consults.find(guest(token).consult()).orElseThrow(), file);
    }
}

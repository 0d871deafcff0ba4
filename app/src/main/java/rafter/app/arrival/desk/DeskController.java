package rafter.app.arrival.desk;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

/** The desk at which chats are answered side by side. */
@Controller
@RequestMapping("/chats")
class DeskController {

    private static final String PAGE = "arrival/desk/desk";

    /** What went wrong, in words, and whether sending it again has it go out all the same. */
    public record Wrong(String words, boolean again) {}

    private final ChatDesk desk;
    private final Saying saying;
    private final Persons persons;
    private final Access access;

    DeskController(ChatDesk desk, Saying saying, Persons persons, Access access) {
        this.desk = desk;
        this.saying = saying;
        this.persons = persons;
        this.access = access;
    }

    /**
     * The desk.
     *
     * @param at the ticket whose chat is to be in the focus
     */
    @GetMapping
    String show(@RequestParam(defaultValue = "0") long at, Model model) {
        Viewer me = access.require(Right.WORK);
        List<ChatDesk.Column> columns = desk.columns(me);
        model.addAttribute("columns", columns);
        model.addAttribute("at", at);
        model.addAttribute(
                "people",
                persons.active().stream()
                        .filter(one -> one.role().has(Right.WORK) && !one.id().equals(me.id()))
                        .sorted(Comparator.comparing(Person::name))
                        .toList());
        model.addAttribute(
                "teams",
                persons.teams().stream()
                        .sorted(Comparator.comparing(Team::name))
                        .toList());
        beside(me, model);
        return PAGE;
    }

    private void beside(Viewer me, Model model) {
        model.addAttribute("waiting", desk.waiting(me));
        model.addAttribute("waits", desk.waits());
        model.addAttribute("today", desk.today(me));
    }

    /** Says something; without a script the desk is shown again. */
    @PostMapping("/{number}/say")
    Object say(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "") String key,
            @RequestParam(defaultValue = "false") boolean asItIs,
            @RequestHeader(name = "X-Requested-With", defaultValue = "") String by,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        redirect.addFlashAttribute("typed", text);
        return answered(number, by, redirect, "", () -> saying.say(number, text, key, asItIs, me));
    }

    private static Object answered(
            TicketNumber number, String by, RedirectAttributes redirect, String said, Runnable deed) {
        boolean script = by.equals("fetch");
        try {
            deed.run();
        } catch (Saying.Gaps e) {
            return wrong(number, script, HttpStatus.UNPROCESSABLE_CONTENT, new Wrong(e.words(), true), redirect);
        } catch (Problem.Invalid e) {
            return wrong(number, script, HttpStatus.UNPROCESSABLE_CONTENT, new Wrong(e.words(), false), redirect);
        } catch (Problem.Stale e) {
            return wrong(number, script, HttpStatus.CONFLICT, new Wrong(e.words(), false), redirect);
        }
        if (script) {
            return ResponseEntity.ok(Map.of("done", true));
        }
        if (!said.isEmpty()) {
            redirect.addFlashAttribute("said", said);
        }
        return "redirect:/chats?at=" + number;
    }

    private static Object wrong(
            TicketNumber number, boolean script, HttpStatus status, Wrong wrong, RedirectAttributes redirect) {
        if (script) {
            return ResponseEntity.status(status).body(wrong);
        }
        redirect.addFlashAttribute("problem", wrong.words());
        return "redirect:/chats?at=" + number;
    }

    @PostMapping("/{number}/read")
    ResponseEntity<Void> read(@PathVariable TicketNumber number, @RequestParam int seq) {
        saying.read(number, seq, access.require(Right.WORK));
        return ResponseEntity.noContent().build();
    }

    /** Hands a chat over to {@code to}: a person as {@code p3}, or a team as {@code t2}. */
    @PostMapping("/{number}/hand-over")
    Object handOver(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String note,
            @RequestHeader(name = "X-Requested-With", defaultValue = "") String by,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<Long> id =
                to.matches("[pt]\\d{1,15}") ? Optional.of(Long.parseLong(to.substring(1))) : Optional.empty();
        Optional<PersonId> person = id.filter(one -> to.startsWith("p")).map(PersonId::new);
        Optional<TeamId> team = id.filter(one -> to.startsWith("t")).map(TeamId::new);
        return answered(
                number,
                by,
                redirect,
                "Ticket " + number + " is handed over.",
                () -> saying.handOver(number, person, team, note, me));
    }

    @PostMapping("/{number}/end")
    Object end(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "false") boolean resolved,
            @RequestHeader(name = "X-Requested-With", defaultValue = "") String by,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return answered(number, by, redirect, "The chat is ended.", () -> saying.end(number, resolved, me));
    }
}

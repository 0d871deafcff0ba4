package rafter.app.arrival.telephone;

import java.time.Clock;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
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
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.house.people.KnownBy;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Telephone calls: those that wait and that went by, and the sheet on which one is worked while people talk. */
@Controller
@RequestMapping("/calls")
class CallController {

    private static final int MOST = 40;
    private static final String KEPT = " What you typed is still here.";

    private final CallBook calls;
    private final CallDesk desk;
    private final CallingOut calling;
    private final CallSheets sheets;
    private final CallChoices choices;
    private final Tickets tickets;
    private final KnownBy known;
    private final Persons persons;
    private final TicketTimes times;
    private final Access access;
    private final Clock clock;

    CallController(
            CallBook calls,
            CallDesk desk,
            CallingOut calling,
            CallSheets sheets,
            CallChoices choices,
            Tickets tickets,
            KnownBy known,
            Persons persons,
            TicketTimes times,
            Access access,
            Clock clock) {
        this.calls = calls;
        this.desk = desk;
        this.calling = calling;
        this.sheets = sheets;
        this.choices = choices;
        this.tickets = tickets;
        this.known = known;
        this.persons = persons;
        this.times = times;
        this.access = access;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ lists

    @GetMapping
    String list(
            @RequestParam(required = false) Optional<Long> before,
            @RequestParam(defaultValue = "false") boolean unanswered,
            Model model) {
        Viewer me = access.require(Right.WORK);
        List<CallBook.Call> past = calls.past(before, unanswered, MOST);
        model.addAttribute("going", sheets.lines(calls.going(), me));
        model.addAttribute(
                "mine",
                calls.of(me.id(), clock.instant()).map(CallBook.Call::id).orElse(0L));
        model.addAttribute("past", sheets.lines(past, me));
        model.addAttribute("unanswered", unanswered);
        model.addAttribute("next", past.size() == MOST ? past.getLast().id() : null);
        model.addAttribute("older", before.isPresent());
        model.addAttribute("lines", calling.from());
        model.addAttribute("key", UUID.randomUUID().toString());
        return "arrival/telephone/calls";
    }

    /** The call about a ticket, or the ticket where there is none. */
    @GetMapping("/of/{number}")
    String of(@PathVariable TicketNumber number) {
        access.require(Right.WORK);
        return calls.of(number)
                .filter(call -> call.goesOn()
                        || call.afterUntil().filter(clock.instant()::isBefore).isPresent())
                .map(call -> "redirect:/calls/" + call.id())
                .orElse("redirect:/tickets/" + number);
    }

    // ------------------------------------------------------------------ the sheet

    @GetMapping("/{id}")
    String sheet(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        CallSheets.Sheet sheet = sheets.sheet(desk.call(id, me), me);
        model.addAttribute("sheet", sheet);
        model.addAttribute("topics", choices.topics());
        model.addAttribute("priorities", Priority.values());
        model.addAttribute(
                "people",
                persons.active().stream()
                        .filter(one -> one.role().has(Right.WORK) && !one.id().equals(me.id()))
                        .sorted(Comparator.comparing(Person::name))
                        .toList());
        if (!model.containsAttribute("when")) {
            model.addAttribute("when", "");
            model.addAttribute("why", "");
        }
        return "arrival/telephone/sheet";
    }

    /** How it stands, drawn anew. */
    @GetMapping("/{id}/standing")
    String standing(@PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        CallSheets.Sheet sheet = sheets.sheet(desk.call(id, me), me);
        model.addAttribute("sheet", sheet);
        return "arrival/telephone/sheet :: live";
    }

    @GetMapping("/{id}/contacts")
    String contacts(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String company,
            Model model) {
        access.require(Right.WORK);
        model.addAttribute("id", id);
        model.addAttribute("found", choices.contacts(name, Id.read(company, CompanyId::new)));
        return "arrival/telephone/sheet :: found";
    }

    @GetMapping("/{id}/companies")
    String companies(@PathVariable long id, @RequestParam(defaultValue = "") String asked, Model model) {
        access.require(Right.WORK);
        model.addAttribute("firms", choices.companies(asked));
        return "arrival/telephone/sheet :: firms";
    }

    // ------------------------------------------------------------------ deeds

    private String done(long id, RedirectAttributes redirect, String said, Runnable deed) {
        try {
            deed.run();
            if (!said.isEmpty()) {
                redirect.addFlashAttribute("said", said);
            }
        } catch (Problem.Invalid | Problem.Stale | Problem.NoRight e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/calls/" + id;
    }

    /** What the exchange is to do with a call, or that somebody takes it. */
    @PostMapping("/{id}/{deed:take|hold|resume|give|end}")
    String deed(@PathVariable long id, @PathVariable String deed, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(id, redirect, "", () -> {
            switch (deed) {
                case "take" -> desk.take(id, me);
                case "hold" -> desk.hold(id, me);
                case "resume" -> desk.resume(id, me);
                case "give" -> desk.give(id, me);
                default -> desk.end(id, me);
            }
        });
    }

    @PostMapping("/{id}/word")
    String word(@PathVariable long id, @RequestParam(defaultValue = "") String with, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(
                id,
                redirect,
                "",
                () -> desk.word(
                        id,
                        Id.read(with, PersonId::new)
                                .orElseThrow(() -> new Problem.Invalid("Choose a colleague. Nothing was changed.")),
                        me));
    }

    /** Keeps what is typed; a script sends it while it is typed. */
    @PostMapping("/{id}/notes")
    ResponseEntity<Map<String, Object>> notes(
            @PathVariable long id, @RequestParam(defaultValue = "") String notes, @RequestParam int version) {
        Viewer me = access.require(Right.WORK);
        try {
            return ResponseEntity.ok(Map.of("version", desk.notes(id, notes, version, me)));
        } catch (Problem.Stale e) {
            return ResponseEntity.status(HttpStatus.CONFLICT).body(Map.of("words", e.words()));
        } catch (Problem.Invalid e) {
            return ResponseEntity.status(HttpStatus.UNPROCESSABLE_CONTENT).body(Map.of("words", e.words()));
        }
    }

    @PostMapping("/{id}/caller")
    String caller(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String contact,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String company,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<ContactId> chosen = Id.read(contact, ContactId::new);
        return done(id, redirect, "", () -> {
            if (chosen.isPresent()) {
                desk.callerIs(id, chosen.get(), me);
            } else {
                desk.callerIsNew(id, name, Id.read(company, CompanyId::new), me);
            }
        });
    }

    @PostMapping("/{id}/go-on")
    String goOn(@PathVariable long id, @RequestParam(defaultValue = "") String ticket, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        return done(
                id,
                redirect,
                "It goes on in ticket " + ticket.strip() + ".",
                () -> desk.goOn(
                        id,
                        Id.read(ticket.strip(), TicketNumber::new)
                                .orElseThrow(() -> new Problem.Invalid(
                                        "“" + ticket + "” is no number of a ticket. Nothing was changed.")),
                        me));
    }

    /** Says what it is about; a script sends each field once it is left, and is told how that went. */
    @PostMapping("/{id}/about")
    Object about(
            @PathVariable long id,
            @RequestHeader(name = "X-Requested-With", defaultValue = "") String by,
            @RequestParam(defaultValue = "") String topic,
            @RequestParam(defaultValue = "P3") Priority priority,
            @RequestParam MultiValueMap<String, String> all,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<Ticket> ticket = desk.call(id, me).ticket().map(calls::goesOn).flatMap(one -> tickets.find(one, me));
        Runnable deed = () -> {
            Tickets.About was = ticket.map(Tickets.About::of)
                    .orElseThrow(() -> new Problem.Stale("This call has no ticket. Nothing was changed."));
            if (topic.length() > 60) {
                throw new Problem.Invalid("A topic has at most sixty letters. Nothing was changed.");
            }
            desk.about(id, new CallDesk.About(topic.strip(), priority, OwnFields.typed(all)), was, me);
        };
        if (!by.equals("fetch")) {
            return done(id, redirect, "What it is about is saved.", deed);
        }
        try {
            deed.run();
            return ResponseEntity.ok(Map.of("words", "Saved"));
        } catch (Problem.Invalid | Problem.Stale e) {
            return ResponseEntity.status(HttpStatus.UNPROCESSABLE_CONTENT).body(Map.of("words", e.words()));
        }
    }

    @PostMapping("/{id}/call-back")
    String callBack(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String when,
            @RequestParam(defaultValue = "") String why,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        redirect.addFlashAttribute("when", when);
        redirect.addFlashAttribute("why", why);
        return done(id, redirect, "It is on your list to call back.", () -> {
            desk.callBack(id, times.read(when), why, me);
            redirect.addFlashAttribute("when", "");
            redirect.addFlashAttribute("why", "");
        });
    }

    @PostMapping("/{id}/finish")
    String finish(@PathVariable long id, @RequestParam(defaultValue = "") String then, RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Optional<Turn> turn = Arrays.stream(Turn.values())
                .filter(one -> one.name().equals(then))
                .findFirst();
        String back = done(id, redirect, "", () -> desk.finish(id, turn, me));
        if (redirect.getFlashAttributes().containsKey("problem")) {
            return back;
        }
        redirect.addFlashAttribute("said", "The call is written down, and you are free for the next one.");
        return "redirect:/calls";
    }

    // ------------------------------------------------------------------ calling

    /** Whom to call about a ticket, and from which line. */
    @GetMapping("/out")
    String out(
            @RequestParam(defaultValue = "") String ticket,
            @RequestParam(defaultValue = "") String contact,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Optional<TicketNumber> number = Id.read(ticket, TicketNumber::new);
        Optional<ContactId> whom = number.flatMap(one -> tickets.find(one, me))
                .map(Ticket::contact)
                .or(() -> Id.read(contact, ContactId::new));
        model.addAttribute("ticket", number.map(Object::toString).orElse(""));
        model.addAttribute("contact", number.isPresent() ? "" : contact);
        model.addAttribute("numbers", whom.map(known::numbers).orElse(List.of()));
        model.addAttribute("lines", calling.from());
        model.addAttribute("key", UUID.randomUUID().toString());
        return "arrival/telephone/out";
    }

    @PostMapping("/out")
    String call(
            @RequestParam(defaultValue = "") String ticket,
            @RequestParam(defaultValue = "") String contact,
            @RequestParam(defaultValue = "") String number,
            @RequestParam(defaultValue = "0") long line,
            @RequestParam(defaultValue = "") String key,
            Model model) {
        Viewer me = access.require(Right.WORK);
        try {
            long id = calling.call(
                    new CallingOut.Wanted(
                            Id.read(ticket, TicketNumber::new), Id.read(contact, ContactId::new), number, line, key),
                    me);
            return "redirect:/calls/" + id;
        } catch (Problem.Invalid e) {
            String page = out(ticket, contact, model);
            model.addAttribute("typed", number);
            model.addAttribute("problem", e.words() + KEPT);
            return page;
        }
    }
}

package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketTimes;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Call;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/** Telephone calls about a ticket: written down, corrected, taken out. */
@Controller
@RequestMapping("/tickets/{number}")
class CallsController {

    private final PartForms forms;
    private final TicketTimes times;
    private final Access access;
    private final Clock clock;

    CallsController(PartForms forms, TicketTimes times, Access access, Clock clock) {
        this.forms = forms;
        this.times = times;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/parts/call")
    String form(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int call,
            Model model,
            HttpServletRequest request) {
        Work work = forms.work(number, "call", model);
        Optional<Call.Said> one = work.call(call).filter(there -> !there.gone()).map(Call::said);
        model.addAttribute("call", one.isPresent() ? call : 0);
        model.addAttribute("incoming", one.map(Call.Said::incoming).orElse(true));
        model.addAttribute("with", one.map(Call.Said::with).orElse(""));
        model.addAttribute("began", one.map(Call.Said::at).map(times::local).orElse(""));
        model.addAttribute("length", one.map(said -> length(said.length())).orElse(""));
        model.addAttribute("notes", one.map(Call.Said::notes).orElse(""));
        model.addAttribute(
                "person", one.map(Call.Said::person).map(PersonId::toString).orElse(""));
        model.addAttribute(
                "was",
                one.flatMap(said -> forms.standing(number, new Act.LogCall(OptionalInt.of(call), said)))
                        .orElse(""));
        return PartForms.view("call", request);
    }

    private static String length(Duration length) {
        return length.isZero() ? "" : Amount.written(length);
    }

    @PostMapping("/calls")
    String save(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int call,
            @RequestParam(defaultValue = "true") boolean incoming,
            @RequestParam(defaultValue = "") String with,
            @RequestParam(defaultValue = "") String began,
            @RequestParam(defaultValue = "") String length,
            @RequestParam(defaultValue = "") String notes,
            @RequestParam(defaultValue = "") String person,
            @RequestParam(defaultValue = "") String was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Duration took = length.isBlank()
                ? Duration.ZERO
                : Amount.read(length)
                        .orElseThrow(
                                () -> new Problem.Invalid(
                                        "“" + length
                                                + "” is no amount of time. Write it such as 5 m or 1 h 10 m, or nothing when nobody answered. Nothing was changed."));
        var said = new Call.Said(
                incoming,
                Id.read(person, PersonId::new).orElse(access.me().id()),
                times.read(began).orElseGet(() -> clock.instant().minus(took)),
                took,
                with.strip(),
                notes.strip());
        var act = new Act.LogCall(call == 0 ? OptionalInt.empty() : OptionalInt.of(call), said);
        Optional<String> seen = call == 0 ? Optional.empty() : Optional.of(was);
        return forms.perform(number, act, seen, "The call is written down.", request, response);
    }

    @PostMapping("/calls/{call}/drop")
    String drop(
            @PathVariable TicketNumber number,
            @PathVariable int call,
            HttpServletRequest request,
            HttpServletResponse response) {
        return forms.perform(
                number, new Act.DropCall(call, true), Optional.empty(), "The call is taken out.", request, response);
    }
}

package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Help;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/** Asking others to do a part of a ticket, handing it back with a result, and asking no more. */
@Controller
@RequestMapping("/tickets/{number}")
class HelpController {

    private final PartForms forms;
    private final Targets targets;
    private final Clock clock;

    HelpController(PartForms forms, Targets targets, Clock clock) {
        this.forms = forms;
        this.targets = targets;
        this.clock = clock;
    }

    @GetMapping("/parts/help")
    String form(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        forms.work(number, "help", model);
        return PartForms.view("help", request);
    }

    @GetMapping("/parts/hand-back")
    String handBack(
            @PathVariable TicketNumber number, @RequestParam int help, Model model, HttpServletRequest request) {
        Work work = forms.work(number, "handBack", model);
        Help wanted = work.help(help)
                .filter(Help::open)
                .orElseThrow(() -> new Problem.NotFound("That was handed back already, or is not wanted any more."));
        model.addAttribute("help", wanted);
        return PartForms.view("handBack", request);
    }

    @PostMapping("/helps")
    String ask(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String whom,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "") String within,
            HttpServletRequest request,
            HttpServletResponse response) {
        var wanted = new Help.Wanted(Whom.person(whom), Whom.team(whom), text, due(within));
        return forms.perform(
                number, new Act.AskHelp(wanted), Optional.empty(), "Help is asked for.", request, response);
    }

    /** So much working time from now. */
    private Optional<Instant> due(String within) {
        if (within.isBlank()) {
            return Optional.empty();
        }
        Duration amount = Amount.read(within)
                .orElseThrow(() -> new Problem.Invalid("“" + within
                        + "” is no amount of time. Write it such as 4 h or 1 d, or nothing. Nothing was changed."));
        Optional<Instant> due = targets.terms().hours().add(clock.instant(), amount);
        if (due.isEmpty()) {
            throw new Problem.Invalid("We do not work for so long within the next years. Nothing was changed.");
        }
        return due;
    }

    @PostMapping("/helps/{help}/back")
    String back(
            @PathVariable TicketNumber number,
            @PathVariable int help,
            @RequestParam(defaultValue = "") String result,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.EndHelp(help, result, false);
        return forms.perform(number, act, Optional.empty(), "It is handed back.", request, response);
    }

    @PostMapping("/helps/{help}/withdraw")
    String withdraw(
            @PathVariable TicketNumber number,
            @PathVariable int help,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.EndHelp(help, "", true);
        return forms.perform(number, act, Optional.empty(), "That help is not asked for any more.", request, response);
    }
}

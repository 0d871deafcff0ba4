package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** Quick questions beside a ticket: asked of a person or a team, answered by whoever sees them first, taken back. */
@Controller
@RequestMapping("/tickets/{number}")
class BesideController {

    private final PartForms forms;

    BesideController(PartForms forms) {
        this.forms = forms;
    }

    @GetMapping("/parts/question")
    String form(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        forms.work(number, "question", model);
        return PartForms.view("question", request);
    }

    @PostMapping("/questions")
    String ask(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String whom,
            @RequestParam(defaultValue = "") String text,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.AskBeside(Whom.person(whom), Whom.team(whom), text);
        return forms.perform(number, act, Optional.empty(), "It is asked.", request, response);
    }

    @PostMapping("/questions/{talk}/answer")
    String answer(
            @PathVariable TicketNumber number,
            @PathVariable int talk,
            @RequestParam(defaultValue = "") String words,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.AnswerBeside(talk, words);
        return forms.perform(number, act, Optional.empty(), "It is answered.", request, response);
    }

    @PostMapping("/questions/{talk}/drop")
    String drop(
            @PathVariable TicketNumber number,
            @PathVariable int talk,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.DropBeside(talk);
        return forms.perform(number, act, Optional.empty(), "The question is taken back.", request, response);
    }
}

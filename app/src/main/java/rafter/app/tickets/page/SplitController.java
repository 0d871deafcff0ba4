package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Done;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;

/** Splitting a message off into a ticket of its own, and putting it back. */
@Controller
@RequestMapping("/tickets/{number}/split/{message}")
class SplitController {

    private final Viewers viewers;
    private final Acts acts;
    private final Access access;

    SplitController(Viewers viewers, Acts acts, Access access) {
        this.viewers = viewers;
        this.acts = acts;
        this.access = access;
    }

    @GetMapping
    String form(
            @PathVariable TicketNumber number,
            @PathVariable MessageId message,
            Model model,
            HttpServletRequest request) {
        viewers.insist(access.require(Right.WORK), number);
        model.addAttribute("number", number);
        model.addAttribute("message", message);
        return request.getHeader("HX-Request") == null ? "tickets/page/split" : "tickets/page/split :: form";
    }

    @PostMapping
    String split(
            @PathVariable TicketNumber number,
            @PathVariable MessageId message,
            @RequestParam(defaultValue = "") String subject,
            HttpServletRequest request,
            HttpServletResponse response) {
        acts.perform(number, new Act.Split(message, subject), access.require(Right.WORK));
        return Done.answer(
                request,
                response,
                "It is a ticket of its own now.",
                new Done.Undo("/tickets/" + number + "/split/" + message + "/back", Map.of()),
                "/tickets/" + number);
    }

    @PostMapping("/back")
    String putBack(
            @PathVariable TicketNumber number,
            @PathVariable MessageId message,
            HttpServletRequest request,
            HttpServletResponse response) {
        acts.perform(number, new Act.PutBack(message), access.require(Right.WORK));
        return Done.answer(request, response, "It is back.", Done.Undo.NONE, "/tickets/" + number);
    }
}

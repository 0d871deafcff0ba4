package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Done;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;

/** What the small forms of the parts of the work have in common: what they are filled with, and how they are answered. */
@Component
class PartForms {

    private final Tickets tickets;
    private final Acts acts;
    private final Persons persons;
    private final Access access;

    PartForms(Tickets tickets, Acts acts, Persons persons, Access access) {
        this.tickets = tickets;
        this.acts = acts;
        this.persons = persons;
        this.access = access;
    }

    /** Fills in what every form has; the work on the ticket. */
    Work work(TicketNumber number, String what, Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("number", number);
        model.addAttribute("what", what);
        model.addAttribute("me", me.person());
        model.addAttribute("leads", me.role().has(Right.HAND_OVER_ANY));
        model.addAttribute("people", persons.active());
        model.addAttribute("teams", persons.teams());
        return ticket(number).work();
    }

    /** The ticket. */
    Ticket ticket(TicketNumber number) {
        return tickets.get(number, access.require(Right.WORK));
    }

    /** How a ticket stands in the respect that an act changes. */
    Optional<String> standing(TicketNumber number, Act act) {
        return Conduct.standing(ticket(number), act);
    }

    /** The form alone for a menu, or a page of its own without scripts. */
    static String view(String what, HttpServletRequest request) {
        return request.getHeader("HX-Request") == null ? "tickets/parts/forms" : "tickets/parts/forms :: " + what;
    }

    /** Does an act and says so, with what takes it back. */
    String perform(
            TicketNumber number,
            Act.OfWork act,
            Optional<String> seen,
            String words,
            HttpServletRequest request,
            HttpServletResponse response) {
        Acts.Outcome outcome = acts.perform(number, act, seen, access.require(Right.WORK));
        var fields = new LinkedHashMap<String, String>();
        outcome.undo().ifPresent(undo -> fields.put("undo", ActJson.write(undo)));
        return Done.answer(
                request,
                response,
                outcome.changed() ? words : "It is so already.",
                fields.isEmpty()
                        ? Done.Undo.NONE
                        : new Done.Undo("/tickets/" + number + "/parts/undo", Map.copyOf(fields)),
                "/tickets/" + number);
    }
}

package rafter.app.tickets.clocks;

import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.core.id.TicketNumber;

/** The page that explains the clocks of a ticket. */
@Controller
class ReckoningController {

    private final ReckoningPage reckoning;
    private final Access access;

    ReckoningController(ReckoningPage reckoning, Access access) {
        this.reckoning = reckoning;
        this.access = access;
    }

    @GetMapping({"/tickets/{number}/clocks", "/tickets/{number}/reckoning"})
    String show(@PathVariable TicketNumber number, Model model) {
        model.addAttribute("view", reckoning.load(number, access.require(Right.WORK)));
        return "tickets/clocks/reckoning";
    }
}

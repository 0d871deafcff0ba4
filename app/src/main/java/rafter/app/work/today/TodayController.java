package rafter.app.work.today;

import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import rafter.app.handout.consults.AskedIn;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.work.worklist.DayAhead;

/** The page with which a day begins. */
@Controller
class TodayController {

    private final Today today;
    private final Floors floors;
    private final DayAhead day;
    private final AskedIn rooms;
    private final Access access;

    TodayController(Today today, Floors floors, DayAhead day, AskedIn rooms, Access access) {
        this.rooms = rooms;
        this.floors = floors;
        this.day = day;
        this.today = today;
        this.access = access;
    }

    @GetMapping("/")
    String home() {
        return "redirect:/today";
    }

    @GetMapping("/today")
    String show(Model model) {
        Viewer me = access.require(Right.WORK);
        model.addAttribute("rooms", rooms.inOrAsked(me));
        model.addAttribute("mine", today.mine(me));
        DayAhead.Ahead ahead = day.of(me);
        model.addAttribute("ahead", ahead);
        model.addAttribute("horizon", ahead.horizon());
        model.addAttribute("asked", ahead.asked());
        if (me.role().has(Right.HAND_OVER_ANY)) {
            model.addAttribute("floor", floors.floor(me));
        }
        return "work/today/today";
    }
}

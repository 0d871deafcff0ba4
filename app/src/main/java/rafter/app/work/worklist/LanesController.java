package rafter.app.work.worklist;

import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;

/** Parts of lists that are laid out in lanes, as they are asked for by what changes and by scrolling. */
@Controller
class LanesController {

    private final Lanes lanes;
    private final Views views;
    private final Access access;

    LanesController(Lanes lanes, Views views, Access access) {
        this.lanes = lanes;
        this.views = views;
        this.access = access;
    }

    /** The lanes afresh, as many as there were; or those after one of them. */
    @GetMapping("/worklist/lanes")
    String lanes(@RequestParam Map<String, String> parameters, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asked", asked);
        model.addAttribute("lanes", lanes.run(asked, parameters, me));
        String run = parameters.containsKey("after-lane") ? "-run" : "";
        return "work/worklist/lanes :: " + (asked.shape() == Shape.CLOCK ? "clock" : "lanes") + run;
    }

    /** A further part of one lane. */
    @GetMapping("/worklist/lane")
    String lane(
            @RequestParam Map<String, String> parameters, @RequestParam(defaultValue = "") String key, Model model) {
        Viewer me = access.require(Right.WORK);
        ListRequest asked = views.asked(parameters, me);
        model.addAttribute("asked", asked);
        model.addAttribute(
                "l", lanes.more(asked, key, Cursor.read(parameters.getOrDefault("after", ""), asked.walked()), me));
        return "work/worklist/lanes :: rest";
    }
}

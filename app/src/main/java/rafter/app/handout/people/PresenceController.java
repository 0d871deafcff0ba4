package rafter.app.handout.people;

import java.util.Arrays;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.core.routing.Presence;

/** Whether somebody is here and takes work; they say so themselves. */
@Controller
@RequestMapping("/presence")
class PresenceController {

    private final Workforce workforce;
    private final Access access;

    PresenceController(Workforce workforce, Access access) {
        this.workforce = workforce;
        this.access = access;
    }

    @PostMapping
    String say(
            @RequestParam String presence,
            @RequestParam(defaultValue = "") String reason,
            @RequestParam(defaultValue = "false") boolean taking,
            RedirectAttributes redirect) {
        Presence said = Arrays.stream(Presence.values())
                .filter(one -> one.name().equals(presence))
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid("Say whether you are at work, away or off."));
        workforce.say(said, reason, taking, access.require(Right.WORK));
        redirect.addFlashAttribute(
                "said", "You are " + said.words() + (said == Presence.HERE && !taking ? ", and take no work." : "."));
        return "redirect:/floor";
    }
}

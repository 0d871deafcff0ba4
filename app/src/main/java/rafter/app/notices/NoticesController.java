package rafter.app.notices;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import rafter.app.access.Access;
import rafter.app.access.Person;
import rafter.app.access.Right;
import rafter.app.platform.Say;
import rafter.app.targets.Targets;

/** A person's notices. */
@Controller
class NoticesController {

    private static final int PAGE = 50;

    private final Notices notices;
    private final Access access;
    private final Targets targets;
    private final Clock clock;

    NoticesController(Notices notices, Access access, Targets targets, Clock clock) {
        this.notices = notices;
        this.access = access;
        this.targets = targets;
        this.clock = clock;
    }

    /** A line of the list. */
    record Line(long id, long ticket, String subject, String words, String at, String exact, boolean unread) {}

    @GetMapping("/notices")
    String list(@RequestParam(required = false) Optional<Long> before, Model model) {
        Person me = access.require(Right.WORK);
        var zone = targets.terms().zone();
        List<Line> lines = notices.of(me.id(), before, PAGE).stream()
                .map(n -> new Line(
                        n.id(), n.ticket(), n.subject(), n.words(), Say.when(n.at(), clock.instant(), zone), Say.exactly(n.at(), zone), n.unread()))
                .toList();
        model.addAttribute("lines", lines);
        model.addAttribute("more", lines.size() == PAGE ? lines.getLast().id() : 0);
        model.addAttribute("first", before.isEmpty());
        return "notices/notices";
    }

    @PostMapping("/notices/read")
    String read(@RequestParam long upTo) {
        notices.read(access.require(Right.WORK).id(), upTo);
        return "redirect:/notices";
    }

    /** How many are unread, for the frame. */
    @GetMapping("/notices/unread")
    @ResponseBody
    int unread() {
        return notices.unread(access.require(Right.WORK).id());
    }
}

package rafter.app.house.notices;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Whens;
import rafter.core.id.TicketNumber;

/** A person's notices. */
@Controller
class NoticesController {

    private static final int PAGE = 50;

    private final Notices notices;
    private final Access access;
    private final Whens whens;

    NoticesController(Notices notices, Access access, Whens whens) {
        this.notices = notices;
        this.access = access;
        this.whens = whens;
    }

    /** A line of the list. */
    public record Line(
            long id, TicketNumber ticket, String subject, String words, String at, String exact, boolean unread) {}

    @GetMapping("/notices")
    String list(@RequestParam(required = false) Optional<Long> before, Model model) {
        Viewer me = access.require(Right.WORK);
        List<Line> lines = notices.of(me, before, PAGE).stream()
                .map(n -> new Line(
                        n.id(),
                        n.ticket(),
                        n.subject(),
                        n.words(),
                        whens.say(n.at()),
                        whens.exactly(n.at()),
                        n.unread()))
                .toList();
        model.addAttribute("lines", lines);
        model.addAttribute("more", lines.size() == PAGE ? lines.getLast().id() : 0);
        model.addAttribute("first", before.isEmpty());
        return "house/notices/notices";
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
        return notices.unread(access.require(Right.WORK));
    }

    /** The latest one, when the browser is to show it. */
    @GetMapping("/notices/browser")
    @ResponseBody
    Map<String, Object> browser() {
        return notices.forBrowser(access.require(Right.WORK))
                .map(one -> Map.<String, Object>of("words", one.words(), "ticket", one.ticket()))
                .orElse(Map.of());
    }

    @GetMapping("/notices/choices")
    String choices(Model model) {
        model.addAttribute("choices", notices.choices(access.require(Right.WORK).id()));
        return "house/notices/choices";
    }

    @PostMapping("/notices/choices")
    String choose(
            @RequestParam(defaultValue = "") Set<String> bell, @RequestParam(defaultValue = "") Set<String> browser) {
        Viewer me = access.require(Right.WORK);
        notices.choose(
                me.id(),
                Arrays.stream(Notices.Kind.values())
                        .map(kind -> new Notices.Choice(
                                kind,
                                bell.contains(kind.name()),
                                bell.contains(kind.name()) && browser.contains(kind.name())))
                        .toList());
        return "redirect:/notices";
    }
}

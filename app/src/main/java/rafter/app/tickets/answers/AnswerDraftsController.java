package rafter.app.tickets.answers;

import java.time.Clock;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.id.TicketNumber;

/** The pages of draft answers. */
@Controller
class AnswerDraftsController {

    /** A draft in a line. */
    public record Line(long id, String title, String person, String when) {}

    private final AnswerDrafts drafts;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    AnswerDraftsController(AnswerDrafts drafts, Targets targets, Access access, Clock clock) {
        this.drafts = drafts;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/answers/drafts")
    String list(Model model) {
        model.addAttribute(
                "drafts",
                drafts.all(access.require(Right.WORK)).stream()
                        .map(one -> new Line(
                                one.id(),
                                one.title(),
                                one.person(),
                                Say.when(one.changed(), clock.instant(), targets.zone())))
                        .toList());
        return "tickets/answers/drafts";
    }

    @GetMapping("/answers/drafts/{id}")
    String edit(@PathVariable long id, Model model) {
        return page(drafts.find(id, access.require(Right.WORK)), model);
    }

    private static String page(AnswerDrafts.Draft draft, Model model) {
        model.addAttribute("draft", draft);
        return "tickets/answers/draft";
    }

    @PostMapping("/tickets/{number}/answer-draft")
    String of(@PathVariable TicketNumber number) {
        return "redirect:/answers/drafts/" + drafts.of(number, access.require(Right.WORK));
    }

    @PostMapping("/answers/drafts/{id}")
    String save(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String body,
            @RequestParam(defaultValue = "0") int version,
            Model model,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        try {
            drafts.save(id, title, body, version, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            AnswerDrafts.Draft there = drafts.find(id, me);
            return page(
                    new AnswerDrafts.Draft(
                            id, there.ticket(), title, body, there.person(), there.changed(), there.version()),
                    model);
        }
        redirect.addFlashAttribute("said", "The draft is saved.");
        return "redirect:/answers/drafts/" + id;
    }

    @PostMapping("/answers/drafts/{id}/discard")
    String discard(@PathVariable long id, RedirectAttributes redirect) {
        drafts.discard(id, access.require(Right.WORK));
        redirect.addFlashAttribute("said", "The draft is thrown away.");
        return "redirect:/answers/drafts";
    }
}

package rafter.app.tickets.macros;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Done;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Blanks;
import rafter.app.tickets.acts.Foresight;
import rafter.app.tickets.acts.Undoing;
import rafter.core.id.TicketNumber;
import rafter.core.text.Placeholders;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Decision;

/** Macros on a ticket: chosen, previewed, run and taken back. */
@Controller
@RequestMapping("/tickets/{number}/macros")
class RunningController {

    /**
     * What a step would do.
     *
     * @param text what it would write, filled in; blank when it writes nothing
     */
    public record Line(int place, String words, boolean offered, String what, boolean hinders, String text) {}

    private final Macros macros;
    private final Acts acts;
    private final Blanks blanks;
    private final Viewers viewers;
    private final Access access;

    RunningController(Macros macros, Acts acts, Blanks blanks, Viewers viewers, Access access) {
        this.blanks = blanks;
        this.macros = macros;
        this.acts = acts;
        this.viewers = viewers;
        this.access = access;
    }

    @GetMapping
    String choose(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        viewers.insist(me, number);
        model.addAttribute("number", number);
        model.addAttribute("macros", macros.of(me));
        return request.getHeader("HX-Request") == null ? "tickets/macros/choose" : "tickets/macros/choose :: choose";
    }

    /** What it would change, before it does. */
    @GetMapping("/{id}")
    String preview(@PathVariable TicketNumber number, @PathVariable long id, Model model) {
        Viewer me = access.require(Right.WORK);
        viewers.insist(me, number);
        Macro macro = macros.get(id, me);
        Map<String, String> values = blanks.of(number, me.person());
        var lines = new ArrayList<Line>();
        for (Foresight.Foreseen one : macros.foresee(macro, number, me)) {
            Macro.Step step = macro.steps().get(lines.size());
            boolean drafted = step.offered() && one.act() instanceof Act.Answer;
            String what = one.hindrance().isEmpty()
                    ? one.changes() ? drafted ? "goes into the composer" : "" : "it is so already"
                    : one.hindrance();
            lines.add(new Line(
                    lines.size(),
                    one.words(),
                    step.offered(),
                    what,
                    !one.hindrance().isEmpty(),
                    Placeholders.fillKnown(written(one.act()), values)));
        }
        model.addAttribute("number", number);
        model.addAttribute("macro", macro);
        model.addAttribute("lines", lines);
        model.addAttribute(
                "linked", macro.linked().flatMap(other -> name(other, me)).orElse(""));
        return "tickets/macros/run";
    }

    /** What a macro is called; nothing when it is gone, or not for them. */
    private Optional<String> name(long macro, Viewer me) {
        return macros.of(me).stream()
                .filter(one -> one.id() == macro)
                .findFirst()
                .map(Macro::name);
    }

    private static String written(Act act) {
        return switch (act) {
            case Act.Answer answer -> answer.text();
            case Act.Note note -> note.text();
            default -> "";
        };
    }

    @PostMapping("/{id}")
    String run(
            @PathVariable TicketNumber number,
            @PathVariable long id,
            @RequestParam(defaultValue = "") List<Integer> step,
            RedirectAttributes redirect) {
        Viewer me = access.require(Right.WORK);
        Macro macro = macros.get(id, me);
        Macros.Ran ran = macros.run(macro, number, Set.copyOf(step), me);
        redirect.addFlashAttribute("said", words(macro, ran));
        ran.undo()
                .ifPresent(undo -> redirect.addFlashAttribute(
                        "undo",
                        Map.of(
                                "action",
                                "/tickets/" + number + "/macros/undo",
                                "fields",
                                Map.of("undo", ActJson.write(undo)))));
        return "redirect:/tickets/" + number;
    }

    private static String words(Macro macro, Macros.Ran ran) {
        var words = new StringBuilder("“" + macro.name() + "” is done.");
        if (!ran.changed() && !ran.drafted()) {
            words = new StringBuilder("“" + macro.name() + "” changed nothing: it was so already.");
        }
        if (ran.drafted()) {
            words.append(" Its answer is in the composer.");
        }
        if (ran.parts() > 0) {
            words.append(" So it is on ").append(ran.parts()).append(ran.parts() == 1 ? " part." : " parts.");
        }
        if (!ran.failures().isEmpty()) {
            words.append(" Not on ").append(String.join("; ", ran.failures()));
        }
        return words.toString();
    }

    /** Takes back what a macro did, as far as nobody changed it since. */
    @PostMapping("/undo")
    String undo(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String undo,
            HttpServletRequest request,
            HttpServletResponse response) {
        Decision.Undo read = Undoing.read(undo);
        if (!(read.act() instanceof Act.Several several)) {
            throw new Problem.Invalid("That cannot be taken back here.");
        }
        acts.perform(number, several, access.require(Right.WORK));
        return Done.answer(request, response, "It is taken back.", Done.Undo.NONE, "/tickets/" + number);
    }
}

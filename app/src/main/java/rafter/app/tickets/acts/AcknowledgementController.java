package rafter.app.tickets.acts;

import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.app.platform.Workspace;
import rafter.app.platform.Workspaces;

/** Whether requests are acknowledged, and how long resolved tickets take answers. */
@Controller
@RequestMapping("/house-rules/acknowledgement")
class AcknowledgementController {

    private static final int LONGEST_WAIT = 365;

    /** What is typed into the form; a box that is not ticked is not sent at all. */
    public record Form(int version, String name, @Nullable Boolean acknowledge, String reopenDays) {
        public Form {
            name = Objects.requireNonNullElse(name, "");
            reopenDays = Objects.requireNonNullElse(reopenDays, "");
        }
    }

    private final Workspaces workspaces;
    private final Access access;
    private final Audit audit;
    private final TransactionTemplate transaction;

    AcknowledgementController(Workspaces workspaces, Access access, Audit audit, TransactionTemplate transaction) {
        this.workspaces = workspaces;
        this.access = access;
        this.audit = audit;
        this.transaction = transaction;
    }

    @GetMapping
    String show(Model model) {
        access.require(Right.HOUSE_RULES);
        Workspace w = workspaces.current();
        return form(
                new Form(
                        w.version(),
                        w.name(),
                        w.acknowledge(),
                        Long.toString(w.reopenFor().toDays())),
                model);
    }

    private static String form(Form form, Model model) {
        model.addAttribute("form", form);
        return "tickets/acts/acknowledgement";
    }

    @PostMapping
    String save(Form form, Model model, RedirectAttributes redirect) {
        Viewer me = access.require(Right.HOUSE_RULES);
        try {
            check(form);
            transaction.executeWithoutResult(status -> {
                workspaces.change(
                        form.name().strip(),
                        Boolean.TRUE.equals(form.acknowledge()),
                        Integer.parseInt(form.reopenDays().strip()),
                        form.version(),
                        me.id());
                audit.note(
                        me.id(),
                        "changed acknowledgement and reopening",
                        Boolean.TRUE.equals(form.acknowledge()) ? "on" : "off");
            });
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words());
            return form(form, model);
        }
        redirect.addFlashAttribute("said", "Saved. It holds for tickets from now on.");
        return "redirect:/house-rules/acknowledgement";
    }

    private static void check(Form form) {
        require(!form.name().isBlank(), "The organisation's name is missing.");
        boolean days = form.reopenDays().strip().matches("\\d{1,3}")
                && Integer.parseInt(form.reopenDays().strip()) <= LONGEST_WAIT;
        require(days, "The days of reopening are a number from 0 to " + LONGEST_WAIT + ".");
    }

    private static void require(boolean fine, String words) {
        if (!fine) {
            throw new Problem.Invalid(words);
        }
    }
}

package rafter.app.promises.targets;

import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.target.PromiseBook;

/** One change of the draft, asked for by a form that leads to another page. */
@Component
public class DraftChange {

    private final TargetDrafts drafts;

    DraftChange(TargetDrafts drafts) {
        this.drafts = drafts;
    }

    /**
     * Changes the draft and says so on the page it leads to; or says why it could not on the page for that.
     *
     * @param to the page when it was changed
     * @param otherwise the page when it was not
     * @return where to go
     */
    public String apply(
            int version,
            PersonId by,
            String what,
            RedirectAttributes redirect,
            String to,
            String otherwise,
            UnaryOperator<PromiseBook> how) {
        try {
            drafts.save(how.apply(drafts.current().book()), version, by, what);
            redirect.addFlashAttribute("said", "Saved; not in force yet.");
            return "redirect:" + to;
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", ((Problem) e).words());
            return "redirect:" + otherwise;
        }
    }
}

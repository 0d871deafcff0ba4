package rafter.app.hours;

import java.util.function.UnaryOperator;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.access.Access;
import rafter.app.access.Right;
import rafter.app.platform.Problem;
import rafter.app.targets.TargetDrafts;
import rafter.core.target.PromiseBook;

/** One change of the draft, asked for by a form that leads to another page. */
final class DraftChange {

    private DraftChange() {}

    /** Changes the draft and says so on the page it leads to; or says there why it could not. */
    static String apply(
            TargetDrafts drafts, Access access, int version, String what, RedirectAttributes redirect, String to, UnaryOperator<PromiseBook> how) {
        long me = access.require(Right.HOUSE_RULES).id();
        try {
            drafts.save(how.apply(drafts.current().book()), version, me, what);
            redirect.addFlashAttribute("said", "Saved; not in force yet.");
            return "redirect:" + to;
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", ((Problem) e).words());
            return "redirect:" + (what.startsWith("added") ? "/house-rules/hours" : to);
        }
    }
}

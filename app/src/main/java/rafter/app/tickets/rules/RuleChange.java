package rafter.app.tickets.rules;

import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.rule.RuleBook;

/** Changes the rulebook by a button, and says on its page what came of it. */
@Component
class RuleChange {

    private final RuleBooks books;
    private final Access access;

    RuleChange(RuleBooks books, Access access) {
        this.books = books;
        this.access = access;
    }

    /**
     * Changes the book as it is being written, and leads back to its page.
     *
     * @param what what is changed, for the audit trail
     * @param said what is said when it is
     */
    String apply(int version, String what, String said, RedirectAttributes redirect, UnaryOperator<RuleBook> how) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            RuleBooks.Draft draft = books.draft();
            RuleBook next = how.apply(draft.book());
            if (next.equals(draft.book())) {
                redirect.addFlashAttribute("said", "It is so already.");
            } else {
                books.save(next, version, me, what);
                redirect.addFlashAttribute("said", said + " It is not in force yet.");
            }
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute(
                    "problem", "Somebody else changed the rules meanwhile. Nothing was changed; look again.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + RulesController.HERE;
    }
}

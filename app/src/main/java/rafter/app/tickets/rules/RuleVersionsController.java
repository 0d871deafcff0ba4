package rafter.app.tickets.rules;

import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
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
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.core.id.PersonId;
import rafter.core.json.Unreadable;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleBookJson;

/** The rulebook as a whole: its versions, its way out and in, and what it did. */
@Controller
@RequestMapping(RulesController.HERE)
class RuleVersionsController {

    private final RuleBooks books;
    private final RuleChange change;
    private final RuleShare share;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    RuleVersionsController(
            RuleBooks books, RuleChange change, RuleShare share, Targets targets, Access access, Clock clock) {
        this.books = books;
        this.change = change;
        this.share = share;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/versions")
    String versions(Model model) {
        access.require(Right.HOUSE_RULES);
        ZoneId zone = targets.zone();
        List<RuleBooks.Edition> editions = books.editions(51);
        var lines = new ArrayList<VersionLine>();
        for (int i = 0; i < editions.size(); i++) {
            RuleBooks.Edition one = editions.get(i);
            RuleBook book = books.edition(one.id()).book();
            List<String> changes = i + 1 < editions.size()
                    ? RuleWords.differences(
                            books.edition(editions.get(i + 1).id()).book(), book)
                    : List.of();
            if (i < 50) {
                lines.add(new VersionLine(
                        one.id(),
                        one.from().equals(Instant.EPOCH) ? "from the beginning" : Say.exactly(one.from(), zone),
                        one.by().isEmpty() ? "first set-up" : one.by(),
                        book.rules().size(),
                        changes,
                        i == 0));
            }
        }
        model.addAttribute("draft", books.draft());
        model.addAttribute("versions", lines);
        return "tickets/rules/versions";
    }

    /** A version in the list; {@code changes} is what it changed of the one before. */
    public record VersionLine(long id, String from, String by, int rules, List<String> changes, boolean current) {}

    @PostMapping("/versions/{id}/back")
    String back(@PathVariable long id, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(
                version,
                "took the rules back to version " + id,
                "The rules stand as in version " + id + " again.",
                redirect,
                book -> books.edition(id).book());
    }

    /** A table of shares. */
    public record ShareTable(String title, String column, List<RuleShare.Line> lines) {}

    /** How much of the work rules did, and how much of that came back. */
    @GetMapping("/share")
    String share(@RequestParam(defaultValue = "90") int days, Model model) {
        access.require(Right.HOUSE_RULES);
        int period = Math.clamp(days, 1, 366);
        Instant now = clock.instant();
        RuleShare.Shares of = share.of(now.minus(Duration.ofDays(period)), now);
        model.addAttribute("days", period);
        model.addAttribute("share", of);
        model.addAttribute(
                "tables",
                List.of(new ShareTable("By rule", "Rule", of.rules()), new ShareTable("By tag", "Tag", of.tags())));
        return "tickets/rules/share";
    }

    // ------------------------------------------------------------------ out and in

    @GetMapping("/rules.json")
    ResponseEntity<byte[]> export(HttpServletResponse response) {
        access.require(Right.HOUSE_RULES);
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_JSON)
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"rules.json\"")
                .body(RuleBookJson.write(books.draft().book().asWritten()).getBytes(StandardCharsets.UTF_8));
    }

    @GetMapping("/import")
    String imported(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("draft", books.draft());
        model.addAttribute("json", "");
        return "tickets/rules/import";
    }

    @PostMapping("/import")
    String take(
            @RequestParam(defaultValue = "") String json,
            @RequestParam int version,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            RuleBook book = RuleBookJson.read(json).asWritten();
            books.save(book, version, me, "imported rules");
            redirect.addFlashAttribute(
                    "said",
                    book.rules().size() + " rules are imported, in place of what was here. They are not in force yet.");
            return "redirect:" + RulesController.HERE;
        } catch (Unreadable e) {
            model.addAttribute("problem", e.getMessage() + " Nothing was imported; what you pasted is still here.");
        } catch (Problem.Stale e) {
            model.addAttribute(
                    "problem", "Somebody else changed the rules meanwhile. Nothing was imported; try again.");
        }
        model.addAttribute("draft", books.draft());
        model.addAttribute("json", json);
        return "tickets/rules/import";
    }
}

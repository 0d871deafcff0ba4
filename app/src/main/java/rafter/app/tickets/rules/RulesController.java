package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.IntStream;
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
import rafter.core.criteria.Sentence;
import rafter.core.id.PersonId;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleChecks;

/** The page of the rulebook: its order, what is wrong with it, and its coming into force. */
@Controller
@RequestMapping("/house-rules/rules")
class RulesController {

    static final String HERE = "/house-rules/rules";
    private static final int WEEKS = 13;

    /**
     * A rule as the page shows it.
     *
     * @param order its place in the whole book, from one
     * @param weeks how often it did something in each of the last weeks, for drawing, of a hundred
     * @param ran how often in 90 days, in words
     * @param faults what of it cannot be done
     */
    public record Line(
            String id,
            int order,
            String name,
            String description,
            boolean on,
            boolean carriesOn,
            boolean changed,
            RuleWords.Said said,
            List<Integer> weeks,
            String ran,
            List<String> faults,
            List<Found> found) {}

    /** Something that is wrong with a rule, and the buttons that mend it. */
    public record Found(String words, boolean byLogic, List<Mending> mends) {}

    /** A button that mends. */
    public record Mending(String kind, String other, String words) {}

    public record SectionLines(String id, String name, List<Line> lines) {}

    private final RuleBooks books;
    private final RuleWords words;
    private final RuleChange change;
    private final RuleLog log;
    private final RuleRehearsals rehearsals;
    private final Access access;
    private final Clock clock;

    RulesController(
            RuleBooks books,
            RuleWords words,
            RuleChange change,
            RuleLog log,
            RuleRehearsals rehearsals,
            Access access,
            Clock clock) {
        this.books = books;
        this.words = words;
        this.change = change;
        this.log = log;
        this.rehearsals = rehearsals;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String book(Model model) {
        access.require(Right.HOUSE_RULES);
        RuleBooks.Draft draft = books.draft();
        Instant since = clock.instant().minus(Duration.ofDays(90));
        Map<String, Map<Integer, Long>> weekly = log.weekly(since);
        List<RuleChecks.Finding> findings = rehearsals.findings(draft.book());
        Sentence sentence = words.sentence();
        var sections = new ArrayList<SectionLines>();
        int order = 0;
        for (RuleBook.Section section : draft.book().sections()) {
            var lines = new ArrayList<Line>();
            for (Rule rule : section.rules()) {
                lines.add(line(rule, ++order, draft, weekly, findings, sentence));
            }
            sections.add(new SectionLines(section.id(), section.name(), lines));
        }
        List<String> faults = words.faults(draft.book());
        model.addAttribute("draft", draft);
        model.addAttribute("sections", sections);
        model.addAttribute("rules", order);
        model.addAttribute("faults", faults);
        model.addAttribute("differences", RuleWords.differences(draft.inForce(), draft.book()));
        model.addAttribute("rehearsed", rehearsals.latest(draft.version()).orElse(0L));
        model.addAttribute("lastChecked", rehearsals.lastWords());
        return "tickets/rules/book";
    }

    private Line line(
            Rule rule,
            int order,
            RuleBooks.Draft draft,
            Map<String, Map<Integer, Long>> weekly,
            List<RuleChecks.Finding> findings,
            Sentence sentence) {
        Map<Integer, Long> counts = weekly.getOrDefault(rule.id(), Map.of());
        long most = counts.values().stream().mapToLong(Long::longValue).max().orElse(1);
        long all = counts.values().stream().mapToLong(Long::longValue).sum();
        Optional<Rule> was = draft.inForce().rule(rule.id());
        return new Line(
                rule.id(),
                order,
                rule.name(),
                rule.description(),
                rule.on(),
                rule.carriesOn(),
                was.filter(one -> one.since(Instant.EPOCH).equals(rule.since(Instant.EPOCH)))
                        .isEmpty(),
                words.said(rule, sentence),
                IntStream.range(0, WEEKS)
                        .mapToObj(week -> (int) (100 * counts.getOrDefault(week, 0L) / most))
                        .toList(),
                all == 0 ? "not yet in 90 days" : Say.number(all) + " in 90 days",
                rule.on() ? words.faults(rule) : List.of(),
                findings.stream()
                        .filter(one -> one.rule().equals(rule.id()))
                        .map(one -> found(one, draft.book()))
                        .toList());
    }

    private static Found found(RuleChecks.Finding finding, RuleBook book) {
        return new Found(
                finding.words(),
                finding.byLogic(),
                finding.mends().stream().map(mend -> mending(mend, book)).toList());
    }

    private static Mending mending(RuleChecks.Mend mend, RuleBook book) {
        return switch (mend) {
            case RuleChecks.Mend.MoveAbove(String other) ->
                new Mending("above", other, "Move it above “" + name(book, other) + "”");
            case RuleChecks.Mend.LetCarryOn(String other) ->
                new Mending("carry-on", other, "Let “" + name(book, other) + "” carry on");
            case RuleChecks.Mend.MatchForms forms -> new Mending("forms", "", "Match word forms too");
        };
    }

    private static String name(RuleBook book, String rule) {
        return book.rule(rule).map(Rule::name).orElse("a rule that is gone");
    }

    // ------------------------------------------------------------------ changing the order and the rest

    @PostMapping("/{id}/move")
    String move(@PathVariable String id, @RequestParam int by, @RequestParam int version, RedirectAttributes redirect) {
        redirect.addFlashAttribute("moved", id);
        return change.apply(
                version, "moved a rule", "The rule is moved.", redirect, book -> book.moved(id, Integer.signum(by)));
    }

    @PostMapping("/{id}/place")
    String place(
            @PathVariable String id,
            @RequestParam String section,
            @RequestParam int place,
            @RequestParam int version,
            RedirectAttributes redirect) {
        redirect.addFlashAttribute("moved", id);
        return change.apply(
                version, "moved a rule", "The rule is moved.", redirect, book -> book.placed(id, section, place));
    }

    @PostMapping("/{id}/switch")
    String switchOn(
            @PathVariable String id, @RequestParam boolean on, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(
                version,
                on ? "switched a rule on" : "switched a rule off",
                on ? "The rule is switched on." : "The rule is switched off.",
                redirect,
                book -> book.replaced(find(book, id).on(on)));
    }

    @PostMapping("/{id}/copy")
    String copy(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(version, "copied a rule", "The rule is copied, and the copy is off.", redirect, book -> {
            Rule rule = find(book, id);
            RuleBook.Section section = book.sectionOf(id).orElseThrow();
            var copy = new Rule(
                    "rule-" + UUID.randomUUID(),
                    rule.name() + ", copy",
                    rule.description(),
                    false,
                    rule.occasion(),
                    rule.criteria(),
                    rule.deeds(),
                    rule.carriesOn(),
                    Instant.EPOCH);
            int at = section.rules().stream().map(Rule::id).toList().indexOf(id);
            return book.with(copy, section.id()).placed(copy.id(), section.id(), at + 1);
        });
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(version, "removed a rule", "The rule is removed.", redirect, book -> {
            find(book, id);
            return book.without(id);
        });
    }

    @PostMapping("/{id}/mend")
    String mend(
            @PathVariable String id,
            @RequestParam String kind,
            @RequestParam(defaultValue = "") String other,
            @RequestParam int version,
            RedirectAttributes redirect) {
        RuleChecks.Mend mend = switch (kind) {
            case "above" -> new RuleChecks.Mend.MoveAbove(other);
            case "carry-on" -> new RuleChecks.Mend.LetCarryOn(other);
            case "forms" -> new RuleChecks.Mend.MatchForms();
            default -> throw new Problem.NotFound("There is no such mend.");
        };
        return change.apply(version, "mended a rule", "The rule is mended.", redirect, book -> {
            find(book, id);
            return RuleChecks.mended(book, id, mend);
        });
    }

    private static Rule find(RuleBook book, String id) {
        return book.rule(id).orElseThrow(() -> new Problem.Invalid("There is no such rule any more."));
    }

    @PostMapping("/sections")
    String section(
            @RequestParam(defaultValue = "") String id,
            @RequestParam(defaultValue = "") String name,
            @RequestParam int version,
            RedirectAttributes redirect) {
        return change.apply(version, "named a section of the rules", "The section is saved.", redirect, book -> {
            String called = name.strip();
            if (called.isEmpty() || called.length() > 60) {
                throw new Problem.Invalid("A section has a name of at most 60 letters. Nothing was saved.");
            }
            return book.withSection(id.isBlank() ? "section-" + UUID.randomUUID() : id, called);
        });
    }

    @PostMapping("/sections/{id}/remove")
    String removeSection(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(version, "removed a section of the rules", "The section is removed.", redirect, book -> {
            if (book.sections().stream()
                    .anyMatch(one -> one.id().equals(id) && !one.rules().isEmpty())) {
                throw new Problem.Invalid("There are rules in it. Move them to another section first.");
            }
            return book.withoutSection(id);
        });
    }

    // ------------------------------------------------------------------ coming into force

    @PostMapping("/force")
    String force(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            long edition =
                    books.putIntoForce(version, words.faults(books.draft().book()), me);
            redirect.addFlashAttribute("said", "The rules are in force, as version " + edition + ".");
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", ((Problem) e).words());
        }
        return "redirect:" + HERE;
    }

    @PostMapping("/discard")
    String discard(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            books.discard(version, me);
            redirect.addFlashAttribute(
                    "said", "The changes are discarded. They can be brought back until something else is changed.");
        } catch (Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }

    @PostMapping("/bring-back")
    String bringBack(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            books.bringBack(version, me);
            redirect.addFlashAttribute("said", "The discarded changes are back.");
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", ((Problem) e).words());
        }
        return "redirect:" + HERE;
    }
}

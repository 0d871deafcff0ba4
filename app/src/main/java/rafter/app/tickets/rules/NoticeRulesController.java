package rafter.app.tickets.rules;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
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
import rafter.app.house.notices.NoticeRules;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Problem;
import rafter.core.criteria.Sentence;
import rafter.core.id.PersonId;
import rafter.core.notice.Audience;
import rafter.core.notice.NoticeChoice;
import rafter.core.notice.NoticeEvent;
import rafter.core.rule.RuleBook;
import rafter.core.text.Placeholder;

/** The page on which the workspace says who is told of what. */
@Controller
@RequestMapping(NoticeRulesController.HERE)
class NoticeRulesController {

    static final String HERE = "/house-rules/notices";

    /**
     * A cell of the table.
     *
     * @param otherwise how they are told where there is no choice
     */
    public record Cell(Audience audience, Optional<NoticeChoice> choice, String otherwise) {}

    /** Something that happens, and who can be told of it. */
    public record Row(NoticeEvent event, List<Cell> cells) {}

    private final RuleBooks books;
    private final RuleWords words;
    private final NoticeRules rules;
    private final Access access;

    NoticeRulesController(RuleBooks books, RuleWords words, NoticeRules rules, Access access) {
        this.books = books;
        this.words = words;
        this.rules = rules;
        this.access = access;
    }

    @GetMapping
    String table(Model model) {
        access.require(Right.HOUSE_RULES);
        RuleBooks.InForce inForce = books.newest();
        List<NoticeChoice> all = NoticeChoice.of(inForce.book());
        model.addAttribute("seen", inForce.edition());
        model.addAttribute("audiences", Audience.values());
        model.addAttribute(
                "rows",
                Arrays.stream(NoticeEvent.values())
                        .map(event -> new Row(
                                event,
                                Arrays.stream(Audience.values())
                                        .map(audience -> new Cell(
                                                audience, find(all, event, audience), otherwise(event, audience)))
                                        .toList()))
                        .toList());
        model.addAttribute(
                "kinds", Arrays.stream(Notices.Kind.values()).map(rules::get).toList());
        return "tickets/rules/notices";
    }

    private static String otherwise(NoticeEvent event, Audience audience) {
        if (event == NoticeEvent.ARRIVED && audience == Audience.CUSTOMER) {
            return "acknowledged";
        }
        return audience == Audience.OWNER ? "by itself" : "–";
    }

    private static Optional<NoticeChoice> find(List<NoticeChoice> all, NoticeEvent event, Audience audience) {
        return all.stream()
                .filter(one -> one.event() == event && one.audience() == audience)
                .findFirst();
    }

    // ------------------------------------------------------------------ by choice

    @GetMapping("/{event}/{audience}")
    String edit(@PathVariable String event, @PathVariable String audience, Model model) {
        access.require(Right.HOUSE_RULES);
        RuleBooks.InForce inForce = books.newest();
        return form(choice(inForce.book(), event, audience), inForce, model);
    }

    private static NoticeChoice choice(RuleBook book, String event, String audience) {
        return NoticeChoice.of(book).stream()
                .filter(one ->
                        one.event().key().equals(event) && one.audience().key().equals(audience))
                .findFirst()
                .orElseThrow(() -> new Problem.NotFound("There is no such notice."));
    }

    private String form(NoticeChoice choice, RuleBooks.InForce inForce, Model model) {
        Sentence sentence = words.sentence();
        model.addAttribute("choice", choice);
        model.addAttribute("seen", inForce.edition());
        model.addAttribute("placeholders", Placeholder.forRules());
        model.addAttribute(
                "narrowed",
                NoticeChoice.narrowed(inForce.book(), choice.event(), choice.audience())
                        .map(sentence::of)
                        .orElse(""));
        return "tickets/rules/notice";
    }

    @PostMapping("/{event}/{audience}")
    String choose(
            @PathVariable String event,
            @PathVariable String audience,
            @RequestParam(defaultValue = "false") boolean on,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String words,
            @RequestParam long seen,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        NoticeChoice was = choice(books.newest().book(), event, audience);
        var choice = new NoticeChoice(
                was.event(),
                was.audience(),
                on,
                subject.strip(),
                words.replace("\r\n", "\n").strip());
        try {
            check(choice);
            books.choose(choice, seen, me);
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words() + " What you typed is still here.");
            return form(choice, books.newest(), model);
        }
        redirect.addFlashAttribute(
                "said",
                was.event().words() + ": " + was.audience().words().toLowerCase(Locale.ROOT)
                        + (on ? " is told" : " is not told") + " from now on.");
        return "redirect:" + HERE;
    }

    private void check(NoticeChoice choice) {
        boolean lacksSubject =
                choice.audience() == Audience.CUSTOMER && choice.subject().isBlank();
        if (choice.words().isBlank() || lacksSubject) {
            throw new Problem.Invalid(lacksSubject ? "The mail needs a subject." : "Write what they are to read.");
        }
        List<String> faults = words.faults(choice.in(RuleBook.EMPTY).rules().getFirst());
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
    }

    // ------------------------------------------------------------------ by itself

    @PostMapping("/kinds/{kind}")
    String kind(
            @PathVariable Notices.Kind kind,
            @RequestParam(defaultValue = "false") boolean on,
            @RequestParam(defaultValue = "") String words,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            rules.choose(new NoticeRules.Rule(kind, on, words.strip()), me);
            redirect.addFlashAttribute("said", "Saved. “" + kind.words() + "” is " + (on ? "told." : "not told."));
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words() + " It was: " + words);
        }
        return "redirect:" + HERE;
    }
}

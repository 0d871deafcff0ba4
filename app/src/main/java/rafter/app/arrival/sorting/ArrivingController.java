package rafter.app.arrival.sorting;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whens;
import rafter.core.arrival.Admission;
import rafter.core.arrival.ArrivalBook;
import rafter.core.arrival.ArrivalRule;
import rafter.core.arrival.JunkLearning;
import rafter.core.arrival.MailFacts;
import rafter.core.criteria.Sentence;
import rafter.core.id.PersonId;

/** The pages of what becomes of arriving mail. */
@Controller
@RequestMapping(ArrivingController.HERE)
class ArrivingController {

    static final String HERE = "/house-rules/arriving";
    private static final Duration COUNTED = Duration.ofDays(90);
    private static final int VERSIONS = 8;
    /** So many of the last mails a rule is tried on. */
    private static final int TRIED = 200;

    /** A rule as the page shows it. */
    public record Line(String id, int order, String name, boolean on, String sentence, String then, String took) {}

    /** A version as the page shows it. */
    public record Version(long id, String when, String what, String by) {}

    /** What a rule makes of a mail of the last days. */
    public record Tried(long id, String sender, String subject, String when, String became, String would) {}

    /** What would have happened from a score on, in words. */
    public record Score(int threshold, String found, String wrong) {}

    private final ArrivalBooks books;
    private final Junk junk;
    private final Sorting sorting;
    private final MailSource mails;
    private final Decisions decisions;
    private final CriteriaNames names;
    private final Access access;
    private final Whens whens;
    private final Clock clock;

    ArrivingController(
            ArrivalBooks books,
            Junk junk,
            Sorting sorting,
            MailSource mails,
            Decisions decisions,
            CriteriaNames names,
            Access access,
            Whens whens,
            Clock clock) {
        this.books = books;
        this.junk = junk;
        this.sorting = sorting;
        this.mails = mails;
        this.decisions = decisions;
        this.names = names;
        this.access = access;
        this.whens = whens;
        this.clock = clock;
    }

    @GetMapping
    String book(Model model) {
        access.require(Right.HOUSE_RULES);
        ArrivalBooks.InForce inForce = books.newest();
        Map<String, Integer> took = decisions.since(clock.instant().minus(COUNTED));
        Sentence sentence = names.sentence();
        List<ArrivalRule> rules = inForce.book().rules();
        model.addAttribute("book", inForce.book());
        model.addAttribute("version", inForce.version());
        model.addAttribute(
                "rules",
                rules.stream()
                        .map(rule -> new Line(
                                rule.id(),
                                rules.indexOf(rule) + 1,
                                rule.name(),
                                rule.on(),
                                sentence.of(rule.criteria()),
                                rule.then().words(),
                                took(took, rule.id())))
                        .toList());
        model.addAttribute(
                "versions",
                books.editions(VERSIONS).stream()
                        .map(one -> new Version(
                                one.id(), one.what().isEmpty() ? "" : whens.say(one.from()), one.what(), one.by()))
                        .toList());
        junk(inForce.book(), took, model);
        return "arrival/sorting/arriving";
    }

    private static String took(Map<String, Integer> took, String id) {
        int count = took.getOrDefault(id, 0);
        return count == 0 ? "none in 90 days" : Say.number(count) + " in 90 days";
    }

    private void junk(ArrivalBook book, Map<String, Integer> took, Model model) {
        Optional<Junk.Learning> last = junk.last();
        Optional<JunkLearning.Learned> learned = last.flatMap(Junk.Learning::learned);
        model.addAttribute("learning", last.orElse(null));
        model.addAttribute("learnedAt", last.map(one -> whens.say(one.at())).orElse(""));
        model.addAttribute("fewest", JunkLearning.FEWEST);
        model.addAttribute("known", junk.model().isPresent());
        model.addAttribute("junkTook", took(took, Junk.DECIDED));
        model.addAttribute(
                "scores",
                learned.stream()
                        .flatMap(one -> List.of(60, 70, 80, 90, 95, 98, book.threshold()).stream()
                                .distinct()
                                .sorted()
                                .flatMap(at -> one.at(at).stream()))
                        .map(ArrivingController::score)
                        .toList());
    }

    private static Score score(JunkLearning.Figures figures) {
        return new Score(
                figures.threshold(),
                figures.found().part() + " of " + figures.found().whole(),
                figures.wrong().part() + " of " + figures.wrong().whole());
    }

    // ------------------------------------------------------------------ one rule

    @GetMapping("/{id}")
    String edit(@PathVariable String id, Model model) {
        access.require(Right.HOUSE_RULES);
        ArrivalBooks.InForce inForce = books.newest();
        ArrivingForm form = id.equals(ArrivingForm.NEW)
                ? ArrivingForm.empty()
                : inForce.book()
                        .rule(id)
                        .map(ArrivingForm::of)
                        .orElseThrow(() -> new Problem.NotFound("There is no such rule any more."));
        return page(form, inForce.version(), model);
    }

    private String page(ArrivingForm form, long version, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("version", version);
        model.addAttribute("title", form.name().isEmpty() ? "A new rule of arriving mail" : form.name());
        model.addAttribute("node", CriteriaForm.draw(form.criteria(), names, MailFacts.FIELDS));
        model.addAttribute("admissions", Admission.values());
        model.addAttribute(
                "reads",
                "If " + names.sentence().of(form.criteria()) + ", "
                        + form.then().words());
        return "arrival/sorting/rule";
    }

    /** Saves; or, for a button that changes the form's shape or tries it, shows the form with all that was typed. */
    @PostMapping("/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "save") String act,
            @RequestParam long version,
            Model model,
            RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        ArrivingForm form = ArrivingForm.read(typed);
        if (act.equals("try")) {
            model.addAttribute("tried", tried(form.rule()));
            return page(form, version, model);
        }
        if (!act.equals("save")) {
            return page(form.after(act), version, model);
        }
        try {
            ArrivalRule rule = form.rule();
            List<String> faults = rule.faults();
            if (!faults.isEmpty()) {
                throw new Problem.Invalid(String.join(" ", faults));
            }
            books.save(books.newest().book().with(rule), version, me, "the rule “" + rule.name() + "”");
            said(redirect, "“" + rule.name() + "” is saved and in force for mail from now on.", version);
            return "redirect:" + HERE;
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", e.words() + " What you typed is still here.");
            return page(form, e instanceof Problem.Stale ? books.newest().version() : version, model);
        }
    }

    /** What the book would make of the last mails with a rule in its place, as far as it is the rule that decides. */
    private List<Tried> tried(ArrivalRule rule) {
        ArrivalBook book = books.newest().book().with(rule);
        return mails.latest(TRIED).stream()
                .map(one -> Map.entry(one, sorting.tried(book, one.mail())))
                .filter(one -> one.getValue().by().equals(rule.id()))
                .map(one -> new Tried(
                        one.getKey().id(),
                        one.getKey().mail().sender(),
                        one.getKey().mail().subject(),
                        whens.say(one.getKey().at()),
                        one.getKey().became(),
                        one.getValue().then().words()))
                .toList();
    }

    // ------------------------------------------------------------------ changes

    @PostMapping("/{id}/move")
    String move(
            @PathVariable String id, @RequestParam int by, @RequestParam long version, RedirectAttributes redirect) {
        return change(
                version,
                "the order of the rules",
                "The rule is moved.",
                redirect,
                book -> book.moved(id, Integer.signum(by)));
    }

    @PostMapping("/{id}/switch")
    String switchOn(
            @PathVariable String id,
            @RequestParam boolean on,
            @RequestParam long version,
            RedirectAttributes redirect) {
        return change(
                version,
                on ? "a rule is on" : "a rule is off",
                on ? "It is on." : "It is off.",
                redirect,
                book -> book.rule(id)
                        .map(rule -> book.with(new ArrivalRule(id, rule.name(), on, rule.criteria(), rule.then())))
                        .orElse(book));
    }

    @PostMapping("/{id}/remove")
    String remove(@PathVariable String id, @RequestParam long version, RedirectAttributes redirect) {
        return change(version, "a rule was removed", "The rule is removed.", redirect, book -> book.without(id));
    }

    @PostMapping("/junk")
    String junk(
            @RequestParam(defaultValue = "false") boolean on,
            @RequestParam(defaultValue = "") String threshold,
            @RequestParam long version,
            RedirectAttributes redirect) {
        int from = threshold.strip().matches("\\d{1,3}") ? Integer.parseInt(threshold.strip()) : 0;
        return change(
                version,
                on ? "mail is set aside from a junk score of " + from : "no mail is set aside for its junk score",
                on ? "Mail with a score of " + from + " or more is set aside from now on." : "It is off.",
                redirect,
                book -> book.withJunk(on, from));
    }

    @PostMapping("/learn")
    String learn(RedirectAttributes redirect) {
        junk.learn(access.require(Right.HOUSE_RULES).id());
        redirect.addFlashAttribute("said", "It is being learned. Load this page again in a moment for the figures.");
        return "redirect:" + HERE;
    }

    @PostMapping("/versions/{edition}")
    String restore(@PathVariable long edition, RedirectAttributes redirect) {
        long before = books.newest().version();
        books.restore(edition, access.require(Right.HOUSE_RULES).id());
        said(redirect, "That version is in force again.", before);
        return "redirect:" + HERE;
    }

    private String change(
            long version, String what, String words, RedirectAttributes redirect, UnaryOperator<ArrivalBook> change) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            books.save(change.apply(books.newest().book()), version, me, what);
            said(redirect, words, version);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:" + HERE;
    }

    /** Tells what was done, and offers the version before it. */
    private static void said(RedirectAttributes redirect, String words, long before) {
        redirect.addFlashAttribute("said", words);
        redirect.addFlashAttribute("undo", Map.of("action", HERE + "/versions/" + before));
    }
}

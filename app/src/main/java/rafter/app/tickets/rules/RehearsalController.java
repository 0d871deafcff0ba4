package rafter.app.tickets.rules;

import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
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
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleRehearsal;

/** Rehearsals of rules, and what came of them. */
@Controller
@RequestMapping(RulesController.HERE)
class RehearsalController {

    private static final int WEEKS = 13;
    private static final int SHOWN = 60;
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMM", Locale.ENGLISH);

    /** A week as a column: both heights of a hundred. */
    public record Bar(int x, int now, int then, String words) {}

    /** A rule in the table. */
    public record TallyLine(String id, String name, long now, long then, long more, long less) {}

    /** A ticket that would be treated otherwise. */
    public record ChangedLine(String ticket, String subject, String rule, boolean more, String why) {}

    private final RuleRehearsals rehearsals;
    private final RuleBooks books;
    private final RuleWhy why;
    private final Targets targets;
    private final Access access;

    RehearsalController(RuleRehearsals rehearsals, RuleBooks books, RuleWhy why, Targets targets, Access access) {
        this.rehearsals = rehearsals;
        this.books = books;
        this.why = why;
        this.targets = targets;
        this.access = access;
    }

    @PostMapping("/rehearse")
    String start(@RequestParam(defaultValue = "") String rule, RedirectAttributes redirect) {
        try {
            long id = rehearsals.start(rule, access.require(Right.HOUSE_RULES).id());
            return "redirect:" + RulesController.HERE + "/rehearsals/" + id;
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
            return "redirect:" + RulesController.HERE;
        }
    }

    @GetMapping("/rehearsals/{id}")
    String rehearsal(@PathVariable long id, Model model) {
        fill(id, model);
        return "tickets/rules/rehearsal";
    }

    /** How far it is, afresh. */
    @GetMapping("/rehearsals/{id}/state")
    String state(@PathVariable long id, Model model) {
        fill(id, model);
        return "tickets/rules/rehearsal :: state";
    }

    @PostMapping("/rehearsals/{id}/cancel")
    String cancel(@PathVariable long id) {
        rehearsals.cancel(id, access.require(Right.HOUSE_RULES).id());
        return "redirect:" + RulesController.HERE + "/rehearsals/" + id;
    }

    private void fill(long id, Model model) {
        Viewer me = access.require(Right.HOUSE_RULES);
        RuleRehearsals.Run run = rehearsals.find(id);
        RuleBooks.Draft draft = books.draft();
        Optional<Rule> rule = run.book().rule(run.rule());
        model.addAttribute("run", run);
        model.addAttribute("draft", draft);
        model.addAttribute("current", draft.changed() && draft.version() == run.version());
        model.addAttribute("about", rule.map(one -> "“" + one.name() + "”").orElse("The whole book"));
        model.addAttribute("finished", run.kept().isPresent());
        ZoneId zone = targets.zone();
        model.addAttribute("first", MONTH.format(run.from().atZone(zone)));
        model.addAttribute("last", MONTH.format(run.to().atZone(zone)));
        run.kept().ifPresent(kept -> result(run, kept.result(), rule, me, model));
    }

    private void result(
            RuleRehearsals.Run run, RuleRehearsal.Result result, Optional<Rule> rule, Viewer me, Model model) {
        RuleRehearsal.Tally sum = result.byRule().values().stream()
                .reduce(RuleRehearsal.Tally::plus)
                .orElse(RuleRehearsal.Tally.NONE);
        model.addAttribute("sum", sum);
        model.addAttribute("result", result);
        model.addAttribute("bars", bars(sum));
        model.addAttribute("tallies", rule.isPresent() ? List.of() : tallies(run.book(), result));
        var lines = new ArrayList<ChangedLine>();
        for (RuleRehearsal.Changed one : result.changed().stream().limit(SHOWN).toList()) {
            why.of(run.book(), one, me)
                    .ifPresent(told -> lines.add(new ChangedLine(
                            one.ticket().toString(), told.subject(), told.rule(), one.more(), told.words())));
        }
        model.addAttribute("changed", lines);
        model.addAttribute("changedAll", sum.more() + sum.less());
    }

    private static List<Bar> bars(RuleRehearsal.Tally sum) {
        long most = Stream.concat(sum.weeksNow().values().stream(), sum.weeksThen().values().stream())
                .mapToLong(Long::longValue)
                .max()
                .orElse(1);
        return IntStream.range(0, WEEKS)
                .mapToObj(week -> {
                    long now = sum.weeksNow().getOrDefault(week, 0L);
                    long then = sum.weeksThen().getOrDefault(week, 0L);
                    return new Bar(
                            week * 28,
                            (int) (70 * now / most),
                            (int) (70 * then / most),
                            "Week " + (week + 1) + ": " + now + " today, " + then + " with the changes");
                })
                .toList();
    }

    private static List<TallyLine> tallies(RuleBook book, RuleRehearsal.Result result) {
        var lines = new ArrayList<TallyLine>();
        for (Rule rule : book.rules()) {
            RuleRehearsal.Tally tally =
                    Optional.ofNullable(result.byRule().get(rule.id())).orElse(RuleRehearsal.Tally.NONE);
            lines.add(new TallyLine(rule.id(), rule.name(), tally.now(), tally.then(), tally.more(), tally.less()));
        }
        result.byRule().entrySet().stream()
                .filter(one -> book.rule(one.getKey()).isEmpty())
                .sorted(Comparator.comparing(Map.Entry::getKey))
                .map(Map.Entry::getValue)
                .forEach(tally -> lines.add(new TallyLine(
                        "", "a rule that is removed", tally.now(), tally.then(), tally.more(), tally.less())));
        return lines;
    }
}

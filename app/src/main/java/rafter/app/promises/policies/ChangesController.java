package rafter.app.promises.policies;

import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import rafter.app.house.access.Access;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Team;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.target.Rehearsal;
import rafter.core.time.HolidaySet;

/** What is changed and not in force yet: looking at it, rehearsing it, putting it into force. */
@Controller
@RequestMapping("/house-rules/targets")
class ChangesController {

    private static final int USUAL_DAYS = 90;

    private final TargetDrafts drafts;
    private final Rehearsals rehearsals;
    private final Persons persons;
    private final Access access;
    private final Clock clock;

    ChangesController(TargetDrafts drafts, Rehearsals rehearsals, Persons persons, Access access, Clock clock) {
        this.drafts = drafts;
        this.rehearsals = rehearsals;
        this.persons = persons;
        this.access = access;
        this.clock = clock;
    }

    /** An edition in the list; {@code percent} is how far its open tickets are recalculated. */
    public record EditionLine(
            long id, String from, String by, boolean running, long percent, long done, long total, long failed) {}

    @GetMapping("/changes")
    String changes(Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        ZoneId zone = draft.inForce().zone();
        model.addAttribute("draft", draft);
        model.addAttribute("differences", differences(draft.inForce(), draft.book()));
        model.addAttribute("faults", draft.book().faults());
        LocalDate today = clock.instant().atZone(zone).toLocalDate();
        model.addAttribute("from", today.minusDays(USUAL_DAYS).toString());
        model.addAttribute("to", today.toString());
        model.addAttribute(
                "rehearsed",
                draft.changedAt()
                        .flatMap(rehearsals::latest)
                        .filter(id -> draft.changed())
                        .orElse(0L));
        model.addAttribute("editions", editions(zone));
        model.addAttribute("canBringBack", drafts.canBringBack());
        return "promises/policies/changes";
    }

    /** The last editions afresh, while their tickets are recalculated. */
    @GetMapping("/editions")
    String editions(Model model) {
        access.require(Right.HOUSE_RULES);
        model.addAttribute("editions", editions(drafts.current().inForce().zone()));
        return "promises/policies/changes :: editions";
    }

    private List<EditionLine> editions(ZoneId zone) {
        return drafts.editions(8).stream()
                .map(e -> new EditionLine(
                        e.edition(),
                        e.from().equals(Instant.EPOCH) ? "from the beginning" : Say.exactly(e.from(), zone),
                        e.by(),
                        e.work().filter(w -> !w.finished()).isPresent(),
                        e.work().map(BackgroundWork.Work::percent).orElse(100L),
                        e.work().map(BackgroundWork.Work::done).orElse(0L),
                        e.work().map(BackgroundWork.Work::total).orElse(0L),
                        e.work().map(BackgroundWork.Work::failed).orElse(0L)))
                .toList();
    }

    /** What differs, in words. */
    static List<String> differences(PromiseBook before, PromiseBook after) {
        var all = new ArrayList<String>();
        if (!before.zone().equals(after.zone())) {
            all.add("The workspace’s time zone is " + after.zone() + " instead of " + before.zone());
        }
        if (!before.defaultCalendar().equals(after.defaultCalendar())) {
            all.add("The default calendar is “"
                    + after.plan(after.defaultCalendar())
                            .map(CalendarPlan::name)
                            .orElse("none") + "”");
        }
        if (!before.riskOrUsual().equals(after.riskOrUsual())) {
            all.add("A target is at risk when " + after.riskOrUsual().percent()
                    + " % of its time is used, or less than "
                    + Say.worked(after.riskOrUsual().left()) + " is left");
        }
        differ(all, "Calendar", before.calendars(), after.calendars(), CalendarPlan::id, CalendarPlan::name);
        differ(all, "Holiday set", before.holidaySets(), after.holidaySets(), HolidaySet::id, HolidaySet::name);
        differ(all, "Policy", before.policies(), after.policies(), Policy::id, Policy::name);
        if (!common(before, after).equals(common(after, before))) {
            all.add("The order of the policies");
        }
        return all;
    }

    /** The policies of one book that the other has, too, in its order. */
    private static List<String> common(PromiseBook one, PromiseBook other) {
        return one.policies().stream()
                .map(Policy::id)
                .filter(id -> other.policy(id).isPresent())
                .toList();
    }

    private static <T> void differ(
            List<String> all,
            String what,
            List<T> before,
            List<T> after,
            Function<T, String> id,
            Function<T, String> name) {
        Map<String, T> old = new LinkedHashMap<>();
        before.forEach(one -> old.put(id.apply(one), one));
        for (T one : after) {
            T was = old.remove(id.apply(one));
            if (was == null) {
                all.add(what + " “" + name.apply(one) + "” is new");
            } else if (!was.equals(one)) {
                all.add(what + " “" + name.apply(one) + "” is changed");
            }
        }
        old.values().forEach(gone -> all.add(what + " “" + name.apply(gone) + "” is removed"));
    }

    @PostMapping("/discard")
    String discard(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        return doing(redirect, "The changes are discarded.", () -> drafts.discard(version, me));
    }

    @PostMapping("/bring-back")
    String bringBack(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        return doing(redirect, "The discarded changes are back.", () -> drafts.bringBack(version, me));
    }

    @PostMapping("/force")
    String putIntoForce(@RequestParam int version, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        return doing(
                redirect,
                "In force from now on. Open tickets are recalculated in the background; what has ended stays as it is.",
                () -> drafts.putIntoForce(version, me));
    }

    private static String doing(RedirectAttributes redirect, String said, Runnable what) {
        try {
            what.run();
            redirect.addFlashAttribute("said", said);
        } catch (Problem.Invalid | Problem.Stale e) {
            redirect.addFlashAttribute("problem", ((Problem) e).words());
        }
        return "redirect:/house-rules/targets/changes";
    }

    // ------------------------------------------------------------------ rehearsing

    @PostMapping("/rehearse")
    String rehearse(@RequestParam String from, @RequestParam String to, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            ZoneId zone = drafts.current().book().zone();
            Instant start = LocalDate.parse(from).atStartOfDay(zone).toInstant();
            Instant end = LocalDate.parse(to).plusDays(1).atStartOfDay(zone).toInstant();
            Instant now = clock.instant();
            return "redirect:/house-rules/targets/rehearsals/"
                    + rehearsals.start(start, end.isAfter(now) ? now : end, me);
        } catch (DateTimeParseException e) {
            redirect.addFlashAttribute(
                    "problem", "“" + e.getParsedString() + "” is not a date. Write it like 2027-05-17.");
        } catch (Problem.Invalid e) {
            redirect.addFlashAttribute("problem", e.words());
        }
        return "redirect:/house-rules/targets/changes";
    }

    /** A share now and then. */
    public record Compared(
            String name,
            String now,
            String then,
            String difference,
            String tone,
            long countNow,
            long countThen,
            String sure) {}

    /** A clock that would have ended otherwise. */
    public record ChangedLine(
            TicketNumber ticket, String objective, String started, String now, String then, boolean worse) {}

    /** An hour of the week; {@code tone} says whether fewer or more would have been missed. */
    public record Cell(int x, int y, int missedNow, int missedThen, String tone, String title) {}

    @GetMapping("/rehearsals/{id}")
    String rehearsal(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        fill(id, model);
        return "promises/policies/rehearsal";
    }

    /** The rehearsal afresh, while it runs. */
    @GetMapping("/rehearsals/{id}/state")
    String state(@PathVariable long id, Model model) {
        access.require(Right.HOUSE_RULES);
        fill(id, model);
        return "promises/policies/rehearsal :: state";
    }

    @PostMapping("/rehearsals/{id}/cancel")
    String cancel(@PathVariable long id) {
        rehearsals.cancel(id, access.require(Right.HOUSE_RULES).id());
        return "redirect:/house-rules/targets/rehearsals/" + id;
    }

    private void fill(long id, Model model) {
        Rehearsals.Run run = rehearsals.find(id);
        TargetDrafts.Draft draft = drafts.current();
        ZoneId zone = draft.book().zone();
        model.addAttribute("draft", draft);
        model.addAttribute("run", run);
        // What was rehearsed is what would come into force.
        model.addAttribute(
                "current",
                draft.changed()
                        && draft.changedAt()
                                .filter(at -> !at.isAfter(run.startedAt()))
                                .isPresent());
        model.addAttribute("percent", run.work().percent());
        model.addAttribute("period", Say.exactly(run.from(), zone) + " to " + Say.exactly(run.to(), zone));
        run.result().ifPresent(result -> show(result, zone, model));
    }

    private void show(Rehearsal.Result result, ZoneId zone, Model model) {
        Map<TeamId, String> teams = persons.teams().stream().collect(Collectors.toMap(Team::id, Team::name));
        model.addAttribute("result", result);
        model.addAttribute(
                "objectives",
                result.byObjective().entrySet().stream()
                        .map(e -> compare(e.getKey().words(), e.getValue()))
                        .toList());
        model.addAttribute(
                "teams",
                result.byTeam().entrySet().stream()
                        .map(e -> compare(
                                Optional.ofNullable(teams.get(e.getKey())).orElse("no team"), e.getValue()))
                        .toList());
        model.addAttribute("cells", cells(result.byHour()));
        Instant now = clock.instant();
        model.addAttribute(
                "changed",
                result.changed().stream()
                        .map(c -> new ChangedLine(
                                c.ticket(),
                                c.objective().words(),
                                Say.when(c.started(), now, zone),
                                c.now().words(),
                                c.then().words(),
                                c.then() == Rehearsal.Ending.MISSED))
                        .toList());
    }

    private static Compared compare(String name, Rehearsal.Tally t) {
        var now = new Share(t.metNow(), t.metNow() + t.missedNow());
        var then = new Share(t.metThen(), t.metThen() + t.missedThen());
        double difference = then.percent() - now.percent();
        boolean both = now.whole() > 0 && then.whole() > 0;
        String words =
                !both ? "" : String.format(Locale.ENGLISH, "%+.1f", difference).replace("-", "−");
        String tone = !both || Math.abs(difference) < 0.05 ? "" : difference > 0 ? "calm" : "late";
        Share.Bounds bounds = then.bounds();
        String sure =
                then.whole() == 0 ? "" : String.format(Locale.ENGLISH, "%.0f to %.0f %%", bounds.low(), bounds.high());
        return new Compared(name, percent(now), percent(then), words, tone, now.whole(), then.whole(), sure);
    }

    private static String percent(Share share) {
        return share.whole() == 0 ? "–" : String.format(Locale.ENGLISH, "%.1f %%", share.percent());
    }

    private static List<Cell> cells(Map<Integer, Rehearsal.Tally> byHour) {
        var cells = new ArrayList<Cell>();
        byHour.forEach((hour, t) -> {
            String day = DayOfWeek.of(1 + hour / 24).getDisplayName(TextStyle.SHORT, Locale.ENGLISH);
            String tone = t.missedThen() > t.missedNow()
                    ? "more"
                    : t.missedThen() < t.missedNow() ? "fewer" : t.missedNow() > 0 ? "same" : "none";
            String title = String.format(
                    "%s %02d:00, begun then: %d missed now, %d with the changes",
                    day, hour % 24, t.missedNow(), t.missedThen());
            cells.add(new Cell(
                    36 + 20 * (hour % 24), 18 * (hour / 24), (int) t.missedNow(), (int) t.missedThen(), tone, title));
        });
        return cells;
    }
}

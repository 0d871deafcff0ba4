package rafter.app.promises.hours;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.Year;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
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
import rafter.app.promises.targets.DraftChange;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.target.Risk;
import rafter.core.time.Closing;
import rafter.core.time.Entry;
import rafter.core.time.Interval;
import rafter.core.time.Outlook;
import rafter.core.time.RepeatWords;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;
import rafter.core.time.YearSheet;

/** Calendars: when the team is open. Changes go into the draft and count for nothing until it is put into force. */
@Controller
@RequestMapping("/house-rules/hours")
class HoursController {

    private static final int USUAL_HOURS = 24;
    private static final int MOST_HOURS = 2000;

    private final TargetDrafts drafts;
    private final DraftChange change;
    private final Access access;
    private final Clock clock;

    HoursController(TargetDrafts drafts, DraftChange change, Access access, Clock clock) {
        this.change = change;
        this.drafts = drafts;
        this.access = access;
        this.clock = clock;
    }

    /** A calendar in the list. */
    public record CalendarLine(String id, String name, String zone, boolean usual, String hours, String usedBy) {}

    /** A holiday set in the list. */
    public record SetLine(String id, String name, String zone, int days, String usedBy) {}

    @GetMapping
    String list(Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        PromiseBook book = draft.book();
        model.addAttribute("draft", draft);
        model.addAttribute("zone", book.zone().getId());
        model.addAttribute("risk", book.riskOrUsual());
        model.addAttribute(
                "calendars",
                book.calendars().stream().map(plan -> line(plan, book)).toList());
        model.addAttribute(
                "sets",
                book.holidaySets().stream()
                        .map(set -> new SetLine(
                                set.id(),
                                set.name(),
                                set.zone().map(ZoneId::getId).orElse("each calendar’s own"),
                                set.days().size(),
                                String.join(
                                        ", ",
                                        book.calendars().stream()
                                                .filter(c -> c.holidaySets().contains(set.id()))
                                                .map(CalendarPlan::name)
                                                .toList())))
                        .toList());
        return "promises/hours/hours";
    }

    private CalendarLine line(CalendarPlan plan, PromiseBook book) {
        WorkingTime hours = WorkingTime.of(book.calendar(plan));
        Instant now = clock.instant();
        long week = hours.between(now, now.plus(Duration.ofDays(28))).toHours() / 4;
        List<String> policies = book.policies().stream()
                .filter(p -> p.calendar().equals(Optional.of(plan.id())))
                .map(Policy::name)
                .toList();
        return new CalendarLine(
                plan.id(),
                plan.name(),
                plan.zone().map(ZoneId::getId).orElse(book.zone().getId() + ", the workspace’s"),
                plan.id().equals(book.defaultCalendar()),
                plan.aroundTheClock() ? "around the clock" : "about " + week + " h a week",
                policies.isEmpty() ? "no policy" : String.join(", ", policies));
    }

    /** When a target is at risk, everywhere. */
    @PostMapping("/risk")
    String risk(
            @RequestParam int percent,
            @RequestParam int minutes,
            @RequestParam int version,
            RedirectAttributes redirect) {
        return change(version, "changed when a target is at risk", redirect, "/house-rules/hours", book -> {
            if (percent < 1 || percent > 99 || minutes < 0 || minutes > 10_000) {
                throw new Problem.Invalid(
                        "The share is between 1 and 99 %, the time left between 0 and 10,000 minutes. Nothing was changed.");
            }
            return book.withRisk(new Risk(percent, Duration.ofMinutes(minutes)));
        });
    }

    @PostMapping("/zone")
    String zone(@RequestParam String zone, @RequestParam int version, RedirectAttributes redirect) {
        return change(
                version,
                "changed the workspace’s time zone",
                redirect,
                "/house-rules/hours",
                book -> book.withZone(Zones.read(zone)
                        .orElseThrow(
                                () -> new Problem.Invalid("The workspace needs a time zone. Nothing was changed."))));
    }

    /** Makes a new calendar, empty or as a copy of another. */
    @PostMapping("/add")
    String add(
            @RequestParam String name,
            @RequestParam(defaultValue = "") String like,
            @RequestParam int version,
            RedirectAttributes redirect) {
        String id = "calendar-" + UUID.randomUUID();
        return change(version, "added a calendar", redirect, "/house-rules/hours/" + id, "/house-rules/hours", book -> {
            String fresh = name.isBlank() ? "New calendar" : name.strip();
            CalendarPlan plan = book.plan(like)
                    .map(other -> new CalendarPlan(
                            id, fresh, other.zone(), other.aroundTheClock(), other.entries(), other.holidaySets()))
                    .orElseGet(() -> new CalendarPlan(id, fresh, Optional.empty(), false, List.of(), List.of()));
            var all = new ArrayList<>(book.calendars());
            all.add(plan);
            return book.withCalendars(all);
        });
    }

    // ------------------------------------------------------------------ one calendar

    /** A line of what comes next. */
    public record NextLine(String day, String hours, String sum, boolean open) {}

    /** An entry in the list of a calendar; {@code tone} is {@code usual}, {@code rare} or {@code shut}. */
    public record EntryLine(String id, String sentence, String tone) {}

    @GetMapping("/{id}")
    String calendar(
            @PathVariable String id,
            @RequestParam(required = false) @Nullable Integer year,
            @RequestParam(required = false) @Nullable String from,
            @RequestParam(required = false) @Nullable Integer hours,
            Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        CalendarPlan plan = Plans.of(draft.book(), id);
        WorkCalendar calendar = draft.book().calendar(plan);
        WorkingTime time = WorkingTime.of(calendar);
        ZoneId zone = calendar.zone();
        int shown = year == null ? clock.instant().atZone(zone).getYear() : Math.clamp(year, 2016, 2064);
        model.addAttribute("draft", draft);
        model.addAttribute("plan", plan);
        model.addAttribute("line", line(plan, draft.book()));
        model.addAttribute("zone", zone.getId());
        model.addAttribute("sets", draft.book().holidaySets());
        model.addAttribute("sheet", SheetDrawing.of(YearSheet.of(time, Year.of(shown)), zone));
        model.addAttribute(
                "entries",
                plan.entries().stream()
                        .sorted(RepeatWords.order())
                        .map(HoursController::entryLine)
                        .toList());
        next(time, zone, from, hours == null ? USUAL_HOURS : Math.clamp(hours, 1, MOST_HOURS), model);
        return "promises/hours/calendar";
    }

    private static EntryLine entryLine(Entry entry) {
        boolean usual = entry.repeat()
                .filter(r -> r.rule().contains("FREQ=WEEKLY") || r.rule().contains("FREQ=DAILY"))
                .isPresent();
        String tone = entry.kind() == Entry.Kind.CLOSING ? "shut" : usual && !entry.evenOnHolidays() ? "usual" : "rare";
        return new EntryLine(entry.id(), RepeatWords.sentence(entry), tone);
    }

    private void next(WorkingTime time, ZoneId zone, @Nullable String from, int hours, Model model) {
        Instant start = clock.instant();
        if (from != null && !from.isBlank()) {
            try {
                start = LocalDateTime.parse(from.strip().replace(' ', 'T'))
                        .atZone(zone)
                        .toInstant();
            } catch (DateTimeParseException e) {
                model.addAttribute(
                        "problem",
                        "“" + from + "” is not a date and time. Write it like 2027-12-23 08:00. It was taken as now.");
            }
        }
        Outlook outlook = Outlook.next(time, start, Duration.ofHours(hours));
        model.addAttribute(
                "nextFrom",
                LocalDateTime.ofInstant(start, zone)
                        .truncatedTo(java.time.temporal.ChronoUnit.MINUTES)
                        .toString()
                        .replace('T', ' '));
        model.addAttribute("nextHours", hours);
        model.addAttribute(
                "next",
                outlook.lines().stream().map(line -> nextLine(line, zone)).toList());
        model.addAttribute(
                "nextEnd", outlook.end().map(end -> Say.exactly(end, zone)).orElse(""));
    }

    private static NextLine nextLine(Outlook.Line line, ZoneId zone) {
        return switch (line) {
            case Outlook.Line.Counted(Interval time, Duration soFar, List<Closing> cut) ->
                new NextLine(
                        SheetDrawing.day(time.startInclusive().atZone(zone).toLocalDate()),
                        clock(time.startInclusive(), zone) + "–" + closes(time, zone)
                                + (cut.isEmpty() ? "" : ", shortened: " + names(cut, zone)),
                        Say.worked(soFar),
                        true);
            case Outlook.Line.Skipped(LocalDate first, LocalDate last, List<Closing> because) ->
                new NextLine(
                        first.equals(last)
                                ? SheetDrawing.day(first)
                                : SheetDrawing.day(first) + " to " + SheetDrawing.day(last),
                        because.isEmpty() ? "no opening" : names(because, zone),
                        "",
                        false);
        };
    }

    private static String names(List<Closing> closings, ZoneId zone) {
        return String.join(
                ", ",
                closings.stream()
                        .map(c -> SheetDrawing.name(c, zone))
                        .distinct()
                        .toList());
    }

    private static String clock(Instant at, ZoneId zone) {
        return at.atZone(zone)
                .toLocalTime()
                .truncatedTo(java.time.temporal.ChronoUnit.MINUTES)
                .toString();
    }

    private static String closes(Interval time, ZoneId zone) {
        String end = clock(time.endExclusive(), zone);
        boolean nextDay = !time.startInclusive()
                .atZone(zone)
                .toLocalDate()
                .equals(time.endExclusive().minusNanos(1).atZone(zone).toLocalDate());
        return end.equals("00:00") ? "24:00" : nextDay ? end + " the next day" : end;
    }

    @PostMapping("/{id}/settings")
    String settings(
            @PathVariable String id,
            @RequestParam String name,
            @RequestParam(defaultValue = "") String zone,
            @RequestParam(defaultValue = "false") boolean around,
            @RequestParam(defaultValue = "false") boolean usual,
            @RequestParam(defaultValue = "") List<String> sets,
            @RequestParam int version,
            RedirectAttributes redirect) {
        return change(version, "changed calendar " + name, redirect, "/house-rules/hours/" + id, book -> {
            if (name.isBlank()) {
                throw new Problem.Invalid("The calendar needs a name. Nothing was changed.");
            }
            CalendarPlan old = Plans.of(book, id);
            Optional<ZoneId> own = Zones.read(zone);
            var plan = new CalendarPlan(id, name.strip(), own, around, old.entries(), sets);
            PromiseBook changed = Plans.with(book, plan);
            return usual ? changed.withDefault(id) : changed;
        });
    }

    @PostMapping("/{id}/delete")
    String delete(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change(version, "removed a calendar", redirect, "/house-rules/hours", book -> {
            CalendarPlan plan = Plans.of(book, id);
            if (id.equals(book.defaultCalendar())) {
                throw new Problem.Invalid(
                        "“" + plan.name() + "” is the default. Make another calendar the default first.");
            }
            List<String> users = book.policies().stream()
                    .filter(p -> p.calendar().equals(Optional.of(id)))
                    .map(Policy::name)
                    .toList();
            if (!users.isEmpty()) {
                throw new Problem.Invalid("“" + plan.name() + "” is used by " + String.join(", ", users)
                        + ". Let them count in another calendar first.");
            }
            return book.withCalendars(
                    book.calendars().stream().filter(c -> !c.id().equals(id)).toList());
        });
    }

    private String change(
            int version, String what, RedirectAttributes redirect, String to, UnaryOperator<PromiseBook> how) {
        return change(version, what, redirect, to, to, how);
    }

    private String change(
            int version,
            String what,
            RedirectAttributes redirect,
            String to,
            String otherwise,
            UnaryOperator<PromiseBook> how) {
        return change.apply(version, access.require(Right.HOUSE_RULES).id(), what, redirect, to, otherwise, how);
    }
}

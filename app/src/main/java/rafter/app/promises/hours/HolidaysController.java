package rafter.app.promises.hours;

import de.focus_shift.jollyday.core.HolidayManager;
import de.focus_shift.jollyday.core.HolidayType;
import de.focus_shift.jollyday.core.ManagerParameters;
import java.time.Clock;
import java.time.LocalDate;
import java.time.Year;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
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
import rafter.app.house.access.Right;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.DraftChange;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.id.PersonId;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;

/** Holiday sets, which calendars can share. */
@Controller
@RequestMapping("/house-rules/holidays")
class HolidaysController {

    private static final int MOST_YEARS = 10;

    /** A country whose holidays the library knows. */
    public record Country(String code, String name) {}

    /** A set as it is typed: a line a day, the date first. */
    public record Form(String id, String name, String zone, String days, int version) {
        public Form {
            id = Objects.requireNonNullElse(id, "");
            name = Objects.requireNonNullElse(name, "");
            zone = Objects.requireNonNullElse(zone, "");
            days = Objects.requireNonNullElse(days, "");
        }
    }

    private final TargetDrafts drafts;
    private final DraftChange change;
    private final Access access;
    private final Clock clock;

    HolidaysController(TargetDrafts drafts, DraftChange change, Access access, Clock clock) {
        this.change = change;
        this.drafts = drafts;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/{id}")
    String edit(@PathVariable String id, Model model) {
        access.require(Right.HOUSE_RULES);
        TargetDrafts.Draft draft = drafts.current();
        Form form = id.equals("new")
                ? new Form("new", "", "", "", draft.version())
                : draft.book().holidaySets().stream()
                        .filter(set -> set.id().equals(id))
                        .findFirst()
                        .map(set -> form(set, draft.version()))
                        .orElseThrow(() -> new Problem.NotFound("There is no such holiday set."));
        return page(form, model);
    }

    private static Form form(HolidaySet set, int version) {
        return new Form(set.id(), set.name(), set.zone().map(ZoneId::getId).orElse(""), lines(set.days()), version);
    }

    private static String lines(List<Holiday> days) {
        return days.stream()
                .sorted(Comparator.comparing(Holiday::date))
                .map(day -> day.date() + " " + day.name())
                .collect(Collectors.joining("\n"));
    }

    private String page(Form form, Model model) {
        model.addAttribute("form", form);
        model.addAttribute(
                "countries",
                HolidayManager.getSupportedCalendarCodes().stream()
                        .filter(code -> code.matches("[A-Za-z]{2}"))
                        .map(code -> new Country(
                                code,
                                Locale.of("", code.toUpperCase(Locale.ROOT)).getDisplayCountry(Locale.ENGLISH)))
                        .sorted(Comparator.comparing(Country::name))
                        .toList());
        model.addAttribute("year", Year.now(clock).getValue());
        return "promises/hours/holidays";
    }

    /** Adds the public holidays of a country to what is typed; nothing is saved by that. */
    @PostMapping("/fill")
    String fill(
            Form form,
            @RequestParam String country,
            @RequestParam int firstYear,
            @RequestParam int lastYear,
            Model model) {
        access.require(Right.HOUSE_RULES);
        if (lastYear < firstYear || lastYear - firstYear >= MOST_YEARS) {
            model.addAttribute(
                    "problem",
                    "At most " + MOST_YEARS
                            + " years at once, the first before the last. What you typed is still here.");
            return page(form, model);
        }
        var days = new ArrayList<>(read(form.days(), true));
        HolidayManager manager = HolidayManager.getInstance(ManagerParameters.create(country));
        for (int year = firstYear; year <= lastYear; year++) {
            add(manager, Year.of(year), days);
        }
        model.addAttribute("said", "Filled in. Look through the days, then save.");
        String name = form.name().isBlank()
                ? "Holidays of "
                        + Locale.of("", country.toUpperCase(Locale.ROOT)).getDisplayCountry(Locale.ENGLISH)
                : form.name();
        return page(new Form(form.id(), name, form.zone(), lines(days), form.version()), model);
    }

    /** Two holidays can fall on one day; it is closed once and called by both. */
    private static void add(HolidayManager manager, Year year, List<Holiday> days) {
        manager.getHolidays(year, HolidayType.PUBLIC_HOLIDAY).stream()
                .collect(Collectors.groupingBy(
                        day -> day.getDate(),
                        TreeMap::new,
                        Collectors.mapping(day -> day.getDescription(Locale.ENGLISH), Collectors.joining(" and "))))
                .forEach((date, name) -> {
                    if (days.stream().noneMatch(known -> known.date().equals(date))) {
                        days.add(new Holiday(date, name));
                    }
                });
    }

    @PostMapping("/save")
    String save(Form form, Model model, RedirectAttributes redirect) {
        PersonId me = access.require(Right.HOUSE_RULES).id();
        try {
            if (form.name().isBlank()) {
                throw new Problem.Invalid("The set needs a name.");
            }
            String id = form.id().equals("new") ? "set-" + UUID.randomUUID() : form.id();
            var set = new HolidaySet(id, form.name().strip(), Zones.read(form.zone()), read(form.days(), false));
            var book = drafts.current().book();
            var sets = new ArrayList<>(book.holidaySets());
            sets.removeIf(old -> old.id().equals(id));
            sets.add(set);
            drafts.save(book.withHolidaySets(sets), form.version(), me, "changed holiday set " + set.name());
        } catch (Problem.Invalid | Problem.Stale e) {
            model.addAttribute("problem", ((Problem) e).words() + " What you typed is still here.");
            return page(
                    e instanceof Problem.Stale
                            ? new Form(
                                    form.id(),
                                    form.name(),
                                    form.zone(),
                                    form.days(),
                                    drafts.current().version())
                            : form,
                    model);
        }
        redirect.addFlashAttribute("said", form.name() + " is saved; not in force yet.");
        return "redirect:/house-rules/hours";
    }

    @PostMapping("/{id}/delete")
    String delete(@PathVariable String id, @RequestParam int version, RedirectAttributes redirect) {
        return change.apply(
                version,
                access.require(Right.HOUSE_RULES).id(),
                "removed a holiday set",
                redirect,
                "/house-rules/hours",
                "/house-rules/hours",
                book -> {
                    boolean used = book.calendars().stream()
                            .anyMatch(c -> c.holidaySets().contains(id));
                    if (used) {
                        throw new Problem.Invalid("Calendars still use this set. Take it off them first.");
                    }
                    return book.withHolidaySets(book.holidaySets().stream()
                            .filter(set -> !set.id().equals(id))
                            .toList());
                });
    }

    private static List<Holiday> read(String lines, boolean lenient) {
        var days = new ArrayList<Holiday>();
        for (String line :
                lines.lines().map(String::strip).filter(l -> !l.isEmpty()).toList()) {
            String[] parts = line.split("\\s+", 2);
            try {
                days.add(new Holiday(LocalDate.parse(parts[0]), parts.length > 1 ? parts[1] : "Holiday"));
            } catch (DateTimeParseException e) {
                if (!lenient) {
                    throw new Problem.Invalid(
                            "“" + line + "” does not begin with a date. Write it like 2027-05-17 Constitution Day.");
                }
            }
        }
        return days;
    }
}

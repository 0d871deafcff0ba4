package rafter.app.work.time;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Csv;
import rafter.app.platform.Problem;
import rafter.app.promises.targets.Targets;
import rafter.core.time.Amount;

/** The report on time, and its entries as a table. People see their own time; leads that of everybody. */
@Controller
@RequestMapping("/reports/time")
class TimeController {

    private static final int DAYS = 30;
    private static final int MOST_DAYS = 3_660;

    /** A total in a line. */
    public record Line(String name, String time, String billable, int entries, long share) {}

    private final TimeTotals totals;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    TimeController(TimeTotals totals, Targets targets, Access access, Clock clock) {
        this.totals = totals;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String report(
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String by,
            Model model) {
        Viewer me = access.require(Right.WORK);
        TimeTotals.By how = Arrays.stream(TimeTotals.By.values())
                .filter(one -> one.key().equals(by))
                .findFirst()
                .orElse(me.role().has(Right.HAND_OVER_ANY) ? TimeTotals.By.PERSON_WHO : TimeTotals.By.CUSTOMER);
        LocalDate last = day(to, today(), model);
        LocalDate first = day(from, last.minusDays(DAYS - 1L), model);
        TimeTotals.Asked asked = asked(first, last, me);
        TimeTotals.Group all = totals.total(asked, me);
        model.addAttribute("from", first);
        model.addAttribute("to", last);
        model.addAttribute("by", how);
        model.addAttribute("ways", TimeTotals.By.values());
        model.addAttribute("mine", asked.mine());
        model.addAttribute("total", line(all, all));
        model.addAttribute(
                "lines",
                totals.totals(how, asked, me).stream()
                        .map(one -> line(one, all))
                        .toList());
        return "work/time/time";
    }

    private LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), targets.zone());
    }

    private static LocalDate day(String typed, LocalDate usual, Model model) {
        try {
            return typed.isBlank() ? usual : LocalDate.parse(typed.strip());
        } catch (DateTimeException e) {
            model.addAttribute("problem", "“" + typed + "” is no date; " + usual + " was taken instead.");
            return usual;
        }
    }

    private TimeTotals.Asked asked(LocalDate first, LocalDate last, Viewer me) {
        if (last.isBefore(first) || first.plusDays(MOST_DAYS).isBefore(last)) {
            throw new Problem.Invalid(
                    "The first day comes before the last one, and at most ten years lie between them.");
        }
        ZoneId zone = targets.zone();
        return new TimeTotals.Asked(
                first.atStartOfDay(zone).toInstant(),
                last.plusDays(1).atStartOfDay(zone).toInstant(),
                !me.role().has(Right.HAND_OVER_ANY));
    }

    private static Line line(TimeTotals.Group group, TimeTotals.Group all) {
        return new Line(
                group.name(),
                written(group.minutes()),
                written(group.billable()),
                group.entries(),
                all.minutes() == 0 ? 0 : Math.round(100.0 * group.minutes() / all.minutes()));
    }

    private static String written(long minutes) {
        return minutes == 0 ? "–" : Amount.written(Duration.ofMinutes(minutes));
    }

    @GetMapping("/csv")
    void csv(
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            HttpServletResponse response,
            Model model)
            throws IOException {
        Viewer me = access.require(Right.WORK);
        LocalDate last = day(to, today(), model);
        LocalDate first = day(from, last.minusDays(DAYS - 1L), model);
        TimeTotals.Asked asked = asked(first, last, me);
        response.setContentType("text/csv;charset=utf-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"time-" + first + "-" + last + ".csv\"");
        var printer = new CSVPrinter(response.getWriter(), CSVFormat.RFC4180);
        printer.printRecord(List.of(
                "at",
                "person",
                "ticket",
                "subject",
                "customer",
                "company",
                "topic",
                "kind",
                "minutes",
                "billable",
                "note"));
        totals.each(asked, me, entry -> print(printer, entry));
        printer.flush();
    }

    private static void print(CSVPrinter printer, TimeTotals.Entry entry) {
        try {
            printer.printRecord(
                    entry.at(),
                    Csv.harmless(entry.person()),
                    entry.ticket(),
                    Csv.harmless(entry.subject()),
                    Csv.harmless(entry.customer()),
                    Csv.harmless(entry.company()),
                    Csv.harmless(entry.topic()),
                    Csv.harmless(entry.kind()),
                    entry.minutes(),
                    entry.billable() ? "yes" : "no",
                    Csv.harmless(entry.note()));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

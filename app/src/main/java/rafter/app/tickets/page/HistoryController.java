package rafter.app.tickets.page;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Csv;
import rafter.core.id.TicketNumber;

/** The history of a ticket, as a page and as CSV (RFC 4180). */
@Controller
@RequestMapping("/tickets/{number}/history")
class HistoryController {

    private final History history;
    private final Access access;

    HistoryController(History history, Access access) {
        this.history = history;
        this.access = access;
    }

    @GetMapping
    String show(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String about,
            @RequestParam(defaultValue = "") String who,
            Model model) {
        History.Told told = history.of(number, access.require(Right.WORK));
        model.addAttribute("number", number);
        model.addAttribute("subject", told.subject());
        model.addAttribute("lines", chosen(told.lines(), about, who));
        model.addAttribute("all", told.lines().size());
        model.addAttribute("about", about);
        model.addAttribute("who", who);
        model.addAttribute("abouts", History.About.values());
        model.addAttribute(
                "people",
                told.lines().stream().map(History.Line::who).distinct().sorted().toList());
        return "tickets/page/history";
    }

    private static List<History.Line> chosen(List<History.Line> lines, String about, String who) {
        return History.about(lines, about).stream()
                .filter(line -> who.isEmpty() || line.who().equals(who))
                .toList();
    }

    @GetMapping("/csv")
    ResponseEntity<String> csv(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String about,
            @RequestParam(defaultValue = "") String who) {
        History.Told told = history.of(number, access.require(Right.WORK));
        var out = new StringBuilder();
        try (var printer = new CSVPrinter(out, CSVFormat.RFC4180)) {
            printer.printRecord("at", "who", "what", "before", "after");
            for (History.Line line : chosen(told.lines(), about, who)) {
                printer.printRecord(
                        line.at(),
                        Csv.harmless(line.who()),
                        Csv.harmless(line.what()),
                        Csv.harmless(line.before()),
                        Csv.harmless(line.after()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=utf-8")
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"history-" + number + ".csv\"")
                .body(out.toString());
    }
}

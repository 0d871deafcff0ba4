package rafter.app.tickets.page;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.platform.Done;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Await;
import rafter.core.ticket.Ticket;

/** The times that people set for one ticket. */
@Controller
@RequestMapping("/tickets/{number}")
class TimesController {

    /** A time that is often chosen. */
    public record Usual(String words, String at, String exact) {}

    private record Ahead(String words, int days) {}

    private static final List<Ahead> OFTEN =
            List.of(new Ahead("Tomorrow", 1), new Ahead("In three days", 3), new Ahead("In a week", 7));

    private final Tickets tickets;
    private final TicketTimes times;
    private final Acts acts;
    private final Targets targets;
    private final Access access;
    private final Clock clock;

    TimesController(Tickets tickets, TicketTimes times, Acts acts, Targets targets, Access access, Clock clock) {
        this.tickets = tickets;
        this.times = times;
        this.acts = acts;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping("/choose/times")
    String choose(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        access.require(Right.WORK);
        Terms terms = targets.terms();
        Instant now = clock.instant();
        Ticket ticket = current(number);
        model.addAttribute("number", number);
        model.addAttribute("ticket", ticket);
        model.addAttribute("what", "times");
        model.addAttribute("happenings", Await.Happening.values());
        model.addAttribute("await", ticket.work().await().orElse(new Await(Set.of(), "")));
        model.addAttribute("awaited", ticket.work().await().map(Await::standing).orElse(""));
        model.addAttribute("usual", usual(terms, now));
        model.addAttribute("zone", terms.zone().getId());
        model.addAttribute(
                "agreed",
                ticket.agreedDue().map(at -> Say.when(at, now, terms.zone())).orElse(""));
        model.addAttribute("agreedLocal", ticket.agreedDue().map(times::local).orElse(""));
        model.addAttribute(
                "back",
                ticket.bringBackAt().map(at -> Say.when(at, now, terms.zone())).orElse(""));
        return request.getHeader("HX-Request") == null ? "tickets/page/choose" : "tickets/page/choose :: times";
    }

    /** The first working moment of each of some days ahead. */
    private static List<Usual> usual(Terms terms, Instant now) {
        LocalDate today = now.atZone(terms.zone()).toLocalDate();
        var usual = new ArrayList<Usual>();
        for (Ahead ahead : OFTEN) {
            terms.hours()
                    .nextOpen(today.plusDays(ahead.days())
                            .atStartOfDay(terms.zone())
                            .toInstant())
                    .map(at -> new Usual(ahead.words(), at.toString(), Say.when(at, now, terms.zone())))
                    .filter(one -> usual.stream().noneMatch(known -> known.at().equals(one.at())))
                    .ifPresent(usual::add);
        }
        return usual;
    }

    /** Notes the time agreed with the customer for the resolution; without one, takes it back. */
    @PostMapping("/due")
    String due(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String due,
            @RequestParam(defaultValue = "") String why,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        String before = current(number).agreedDue().map(Instant::toString).orElse("");
        Optional<Instant> wanted = times.read(due);
        acts.perform(number, new Act.AgreeTime(wanted, why), was.map(times::standing), access.require(Right.WORK));
        Optional<Instant> falls = acts.resolutionDue(number);
        return Done.answer(
                request,
                response,
                agreedWords(number, wanted, falls),
                undo(number, "due", "due", before, wanted),
                "/tickets/" + number);
    }

    private String agreedWords(TicketNumber number, Optional<Instant> wanted, Optional<Instant> falls) {
        if (wanted.isEmpty()) {
            return "The time agreed for " + number + " is taken back"
                    + falls.map(at -> "; its resolution is due " + say(at)).orElse("") + ".";
        }
        return falls.filter(at -> !at.equals(wanted.get()))
                .map(at -> "The resolution of " + number + " is due " + say(at) + ", the last working moment before "
                        + say(wanted.get()) + ".")
                .orElseGet(() -> falls.isPresent()
                        ? "The resolution of " + number + " is due " + say(wanted.get()) + "."
                        : "Agreed. The resolution of " + number
                                + " is paused now, so its time moves on with the pause.");
    }

    /** Has the ticket come back at a time; without one, not any more. */
    @PostMapping("/bring-back")
    String bringBack(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String when,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        String before = current(number).bringBackAt().map(Instant::toString).orElse("");
        Optional<Instant> at = times.read(when);
        acts.perform(number, new Act.BringBack(at), was.map(times::standing), access.require(Right.WORK));
        String words = at.map(time -> number + " comes back " + say(time) + ".")
                .orElse(number + " does not come back by itself any more.");
        return Done.answer(
                request, response, words, undo(number, "bring-back", "when", before, at), "/tickets/" + number);
    }

    /** Has the ticket come back once something happens, with a note to oneself. */
    @PostMapping("/wait-for")
    String waitFor(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") List<String> until,
            @RequestParam(defaultValue = "") String note,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Set<Await.Happening> happenings = Arrays.stream(Await.Happening.values())
                .filter(one -> until.contains(one.name()))
                .collect(Collectors.toSet());
        Optional<Await> before = current(number).work().await();
        acts.perform(number, new Act.WaitFor(happenings, note), was, access.require(Right.WORK));
        String words = happenings.isEmpty()
                ? "It is noted on " + number + ". It comes back by nothing that happens."
                : number + " comes back when " + ChangeWords.until(new Await(happenings, "")) + ".";
        return Done.answer(
                request,
                response,
                words,
                new Done.Undo(
                        "/tickets/" + number + "/wait-for",
                        Map.of(
                                "until",
                                before.map(Await::until).orElse(Set.of()).stream()
                                        .map(Enum::name)
                                        .collect(Collectors.joining(",")),
                                "note",
                                before.map(Await::note).orElse(""))),
                "/tickets/" + number);
    }

    private static Done.Undo undo(TicketNumber number, String act, String field, String before, Optional<Instant> now) {
        return new Done.Undo(
                "/tickets/" + number + "/" + act,
                Map.of(field, before, "was", now.map(Instant::toString).orElse("")));
    }

    private String say(Instant at) {
        return Say.when(at, clock.instant(), targets.terms().zone());
    }

    private Ticket current(TicketNumber number) {
        return tickets.get(number, access.require(Right.WORK));
    }
}

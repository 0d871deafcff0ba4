package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Done;
import rafter.core.id.TicketNumber;
import rafter.core.time.Amount;

/** The stopwatch in the frame: started on a ticket, paused, stopped and thrown away from wherever one is. */
@Controller
@RequestMapping("/stopwatch")
class StopwatchController {

    private final Stopwatch watch;
    private final Access access;
    private final Clock clock;

    StopwatchController(Stopwatch watch, Access access, Clock clock) {
        this.watch = watch;
        this.access = access;
        this.clock = clock;
    }

    /** The watch as the frame shows it. */
    @GetMapping
    String show(Model model, HttpServletRequest request) {
        Viewer me = access.require(Right.WORK);
        Optional<Stopwatch.Running> running = watch.of(me.id());
        model.addAttribute("running", running);
        model.addAttribute("choice", watch.choice(me.id()));
        model.addAttribute(
                "seconds",
                running.map(one -> one.measured(clock.instant()).toSeconds()).orElse(0L));
        return request.getHeader("HX-Request") == null ? "tickets/parts/stopwatch" : "tickets/parts/stopwatch :: watch";
    }

    @PostMapping
    String start(@RequestParam TicketNumber ticket, HttpServletRequest request, HttpServletResponse response) {
        Optional<Stopwatch.Stopped> other = watch.start(ticket, access.require(Right.WORK));
        return Done.answer(
                request,
                response,
                "Your watch runs on " + ticket + "."
                        + other.map(one -> " " + words(one)).orElse(""),
                Done.Undo.NONE,
                "/tickets/" + ticket);
    }

    @PostMapping("/pause")
    String pause(@RequestParam(defaultValue = "0") int idle, HttpServletRequest request, HttpServletResponse response) {
        watch.pause(Duration.ofSeconds(idle), access.require(Right.WORK));
        return Done.answer(request, response, "Your watch is paused.", Done.Undo.NONE, "/stopwatch");
    }

    @PostMapping("/choice")
    String choose(
            @RequestParam(defaultValue = "false") boolean starts,
            @RequestParam(defaultValue = "0") int idle,
            HttpServletRequest request,
            HttpServletResponse response) {
        watch.choose(new Stopwatch.Choice(starts, idle), access.require(Right.WORK));
        return Done.answer(request, response, "Your choice is saved.", Done.Undo.NONE, "/stopwatch");
    }

    @PostMapping("/resume")
    String resume(HttpServletRequest request, HttpServletResponse response) {
        watch.resume(access.require(Right.WORK));
        return Done.answer(request, response, "Your watch runs on.", Done.Undo.NONE, "/stopwatch");
    }

    @PostMapping("/stop")
    String stop(
            @RequestParam(defaultValue = "") String kind,
            @RequestParam(defaultValue = "") String note,
            @RequestParam(defaultValue = "false") boolean billable,
            HttpServletRequest request,
            HttpServletResponse response) {
        Stopwatch.Stopped stopped = watch.stop(kind, note, billable, access.require(Right.WORK));
        return Done.answer(request, response, words(stopped), Done.Undo.NONE, "/tickets/" + stopped.ticket());
    }

    private static String words(Stopwatch.Stopped stopped) {
        return stopped.time()
                .map(time -> Amount.written(time) + " written down on " + stopped.ticket() + "."
                        + (stopped.cut()
                                ? " The watch had run longer than twelve hours; correct it if it was more."
                                : ""))
                .orElse("It was too short to be written down.");
    }

    @PostMapping("/discard")
    String discard(HttpServletRequest request, HttpServletResponse response) {
        watch.discard(access.require(Right.WORK));
        return Done.answer(request, response, "The watch is thrown away.", new Done.Undo("", Map.of()), "/today");
    }
}

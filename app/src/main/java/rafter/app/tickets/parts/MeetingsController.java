package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
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
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketTimes;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/** Meetings about a ticket: planned, changed, called off, and those who are invited told each time. */
@Controller
@RequestMapping("/tickets/{number}")
class MeetingsController {

    private final PartForms forms;
    private final Invitations invitations;
    private final TicketTimes times;
    private final Access access;

    MeetingsController(PartForms forms, Invitations invitations, TicketTimes times, Access access) {
        this.forms = forms;
        this.invitations = invitations;
        this.times = times;
        this.access = access;
    }

    @GetMapping("/parts/meeting")
    String form(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int meeting,
            Model model,
            HttpServletRequest request) {
        Work work = forms.work(number, "meeting", model);
        Optional<Meeting.Plan> one =
                work.meeting(meeting).filter(there -> !there.off()).map(Meeting::plan);
        model.addAttribute("meeting", one.isPresent() ? meeting : 0);
        model.addAttribute("title", one.map(Meeting.Plan::title).orElse(""));
        model.addAttribute("at", one.map(Meeting.Plan::at).map(times::local).orElse(""));
        model.addAttribute(
                "length", one.map(plan -> Amount.written(plan.length())).orElse("30 m"));
        model.addAttribute("place", one.map(Meeting.Plan::place).orElse(""));
        model.addAttribute(
                "invited",
                one.map(plan -> String.join(", ", plan.invited()))
                        .orElseGet(() -> invitations.proposed(number, forms.ticket(number))));
        model.addAttribute(
                "was",
                one.flatMap(plan -> forms.standing(number, new Act.SetMeeting(OptionalInt.of(meeting), plan)))
                        .orElse(""));
        return PartForms.view("meeting", request);
    }

    @PostMapping("/meetings")
    String save(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int meeting,
            @RequestParam(defaultValue = "") String title,
            @RequestParam(defaultValue = "") String at,
            @RequestParam(defaultValue = "") String length,
            @RequestParam(defaultValue = "") String place,
            @RequestParam(defaultValue = "") String invited,
            @RequestParam(defaultValue = "") String was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Duration takes = Amount.read(length)
                .orElseThrow(() -> new Problem.Invalid(
                        "“" + length + "” is no amount of time. Write it such as 30 m or 1 h. Nothing was changed."));
        var plan = new Meeting.Plan(
                title,
                times.read(at).orElseThrow(() -> new Problem.Invalid("Choose when it is. Nothing was changed.")),
                takes,
                place,
                addresses(invited));
        var act = new Act.SetMeeting(meeting == 0 ? OptionalInt.empty() : OptionalInt.of(meeting), plan);
        Optional<String> seen = meeting == 0 ? Optional.empty() : Optional.of(was);
        int told = invitations.perform(number, act, seen, access.require(Right.WORK));
        return done(
                number,
                "The meeting is planned" + (told > 0 ? ", and " + told + " are invited." : "."),
                request,
                response);
    }

    private static List<String> addresses(String typed) {
        return Stream.of(typed.split("[,;\\s]+"))
                .filter(one -> !one.isBlank())
                .distinct()
                .toList();
    }

    @PostMapping("/meetings/{meeting}/off")
    String callOff(
            @PathVariable TicketNumber number,
            @PathVariable int meeting,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.CallOffMeeting(meeting, true);
        int told = invitations.perform(number, act, Optional.empty(), access.require(Right.WORK));
        return done(
                number,
                "The meeting is off" + (told > 0 ? "; those who were invited are told." : "."),
                request,
                response);
    }

    /** What was sent cannot be taken back, so it is changed or called off instead. */
    private static String done(
            TicketNumber number, String words, HttpServletRequest request, HttpServletResponse response) {
        return Done.answer(request, response, words, Done.Undo.NONE, "/tickets/" + number);
    }

    /** The meeting as a calendar takes it. */
    @GetMapping("/meetings/{meeting}/ics")
    ResponseEntity<byte[]> calendar(@PathVariable TicketNumber number, @PathVariable int meeting) {
        Ticket ticket = forms.ticket(number);
        Meeting one =
                ticket.work().meeting(meeting).orElseThrow(() -> new Problem.NotFound("There is no such meeting."));
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/calendar;charset=utf-8"))
                .header("Content-Disposition", "attachment; filename=\"meeting-" + number + "-" + meeting + ".ics\"")
                .body(invitations.calendar(number, ticket, one).getBytes(StandardCharsets.UTF_8));
    }
}

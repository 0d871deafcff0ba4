package rafter.app.tickets.parts;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
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
import rafter.app.house.access.Persons;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.TicketTimes;
import rafter.app.tickets.acts.Undoing;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Interest;
import rafter.core.ticket.Work;
import rafter.core.time.Amount;

/** The acts on the parts of the work, and the small forms in which they are filled in. */
@Controller
@RequestMapping("/tickets/{number}")
class PartsController {

    private static final List<String> KINDS = List.of("reading", "writing", "call", "meeting", "on site");

    private final PartForms forms;
    private final TicketTimes times;
    private final Persons persons;
    private final CauseList causes;
    private final Access access;
    private final Clock clock;

    PartsController(PartForms forms, TicketTimes times, Persons persons, CauseList causes, Access access, Clock clock) {
        this.forms = forms;
        this.times = times;
        this.persons = persons;
        this.causes = causes;
        this.access = access;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ forms

    @GetMapping("/parts/task")
    String task(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int task,
            Model model,
            HttpServletRequest request) {
        Work work = forms.work(number, "task", model);
        Optional<Work.Task> one = work.task(task).filter(there -> !there.gone());
        model.addAttribute("task", one.map(Work.Task::id).orElse(0));
        model.addAttribute("text", one.map(Work.Task::what).orElse(""));
        model.addAttribute(
                "person", one.flatMap(Work.Task::person).map(PersonId::toString).orElse(""));
        model.addAttribute("due", one.flatMap(Work.Task::due).map(times::local).orElse(""));
        model.addAttribute("place", place(work, task));
        model.addAttribute("last", work.shownTasks().size() - 1);
        model.addAttribute(
                "was",
                one.flatMap(there -> forms.standing(
                                number,
                                new Act.SetTask(OptionalInt.of(there.id()), "", Optional.empty(), Optional.empty())))
                        .orElse(""));
        return PartForms.view("task", request);
    }

    private static int place(Work work, int task) {
        return work.shownTasks().stream().map(Work.Task::id).toList().indexOf(task);
    }

    @GetMapping("/parts/time")
    String time(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int stint,
            Model model,
            HttpServletRequest request) {
        Work work = forms.work(number, "time", model);
        Optional<Work.Spent> one =
                work.time(stint).filter(entry -> !entry.gone()).map(Work.TimeEntry::spent);
        model.addAttribute("stint", one.isPresent() ? stint : 0);
        model.addAttribute(
                "amount", one.map(Work.Spent::time).map(Amount::written).orElse(""));
        model.addAttribute("kind", one.map(Work.Spent::kind).orElse(""));
        model.addAttribute("note", one.map(Work.Spent::note).orElse(""));
        model.addAttribute("billable", one.map(Work.Spent::billable).orElse(false));
        model.addAttribute(
                "person", one.map(Work.Spent::person).map(PersonId::toString).orElse(""));
        model.addAttribute("began", one.map(Work.Spent::at).map(times::local).orElse(""));
        model.addAttribute("kinds", KINDS);
        model.addAttribute(
                "was",
                one.flatMap(spent -> forms.standing(number, new Act.SpendTime(OptionalInt.of(stint), spent)))
                        .orElse(""));
        return PartForms.view("time", request);
    }

    @GetMapping("/parts/watchers")
    String watchers(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Work work = forms.work(number, "watchers", model);
        model.addAttribute("watchers", work.watchers());
        model.addAttribute("interests", Interest.values());
        model.addAttribute("mine", work.watching().getOrDefault(access.me().id(), Set.of()));
        return PartForms.view("watchers", request);
    }

    @GetMapping("/parts/resolution")
    String resolution(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Work work = forms.work(number, "resolution", model);
        model.addAttribute("resolution", work.resolution());
        model.addAttribute("causes", causes.used());
        model.addAttribute(
                "was",
                forms.standing(number, new Act.Conclude(Work.Resolution.NONE)).orElse(""));
        return PartForms.view("resolution", request);
    }

    @GetMapping("/parts/under")
    String under(@PathVariable TicketNumber number, Model model, HttpServletRequest request) {
        Work work = forms.work(number, "under", model);
        model.addAttribute("parent", work.parent().map(TicketNumber::toString).orElse(""));
        return PartForms.view("under", request);
    }

    // ------------------------------------------------------------------ acts

    @PostMapping("/watch")
    String watch(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String person,
            @RequestParam(defaultValue = "false") boolean on,
            HttpServletRequest request,
            HttpServletResponse response) {
        PersonId who = Id.read(person, PersonId::new).orElse(access.me().id());
        boolean mine = who.equals(access.me().id());
        String name = mine ? "You" : persons.find(who).map(one -> one.name()).orElse("They");
        String words = name
                + (on ? mine ? " watch " : " watches " : mine ? " do not watch " : " does not watch ")
                + number
                + (on ? "." : " any more.");
        return forms.perform(number, new Act.Watch(who, on), Optional.empty(), words, request, response);
    }

    /** The reader is told of only this on the ticket. */
    @PostMapping("/watch-for")
    String watchFor(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") List<String> of,
            HttpServletRequest request,
            HttpServletResponse response) {
        Set<Interest> chosen = Arrays.stream(Interest.values())
                .filter(one -> of.contains(one.name()))
                .collect(Collectors.toSet());
        String words = chosen.isEmpty()
                ? "You do not watch " + number + " any more."
                : "You are told on " + number + " when "
                        + chosen.stream().sorted().map(Interest::words).collect(Collectors.joining(", and when "))
                        + ".";
        var act = new Act.WatchFor(access.me().id(), chosen);
        return forms.perform(number, act, Optional.empty(), words, request, response);
    }

    @PostMapping("/tasks")
    String saveTask(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int task,
            @RequestParam(defaultValue = "") String what,
            @RequestParam(defaultValue = "") String person,
            @RequestParam(defaultValue = "") String due,
            @RequestParam(defaultValue = "") String was,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.SetTask(
                task == 0 ? OptionalInt.empty() : OptionalInt.of(task),
                what,
                Id.read(person, PersonId::new),
                times.read(due));
        Optional<String> seen = task == 0 ? Optional.empty() : Optional.of(was);
        return forms.perform(number, act, seen, "The task is saved.", request, response);
    }

    @PostMapping("/tasks/{task}/done")
    String tick(
            @PathVariable TicketNumber number,
            @PathVariable int task,
            @RequestParam(defaultValue = "true") boolean done,
            HttpServletRequest request,
            HttpServletResponse response) {
        String words = done ? "The task is done." : "The task is open again.";
        return forms.perform(number, new Act.TickTask(task, done), Optional.empty(), words, request, response);
    }

    @PostMapping("/tasks/{task}/drop")
    String drop(
            @PathVariable TicketNumber number,
            @PathVariable int task,
            HttpServletRequest request,
            HttpServletResponse response) {
        return forms.perform(
                number, new Act.DropTask(task, true), Optional.empty(), "The task is dropped.", request, response);
    }

    @PostMapping("/tasks/{task}/place")
    String place(
            @PathVariable TicketNumber number,
            @PathVariable int task,
            @RequestParam int place,
            HttpServletRequest request,
            HttpServletResponse response) {
        return forms.perform(
                number, new Act.OrderTask(task, place), Optional.empty(), "The task moved.", request, response);
    }

    @PostMapping("/time")
    String spend(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "0") int stint,
            @RequestParam(defaultValue = "") String amount,
            @RequestParam(defaultValue = "") String began,
            @RequestParam(defaultValue = "") String kind,
            @RequestParam(defaultValue = "") String note,
            @RequestParam(defaultValue = "false") boolean billable,
            @RequestParam(defaultValue = "") String person,
            @RequestParam(defaultValue = "") String was,
            HttpServletRequest request,
            HttpServletResponse response) {
        Duration time = Amount.read(amount)
                .orElseThrow(() -> new Problem.Invalid("“" + amount
                        + "” is no amount of time. Write it such as 25 m or 1 h 10 m. Nothing was changed."));
        Instant now = clock.instant();
        Instant at = times.read(began).orElseGet(() -> now.minus(time));
        var spent = new Work.Spent(
                Id.read(person, PersonId::new).orElse(access.me().id()),
                at,
                time,
                kind.strip(),
                billable,
                note.strip());
        var act = new Act.SpendTime(stint == 0 ? OptionalInt.empty() : OptionalInt.of(stint), spent);
        Optional<String> seen = stint == 0 ? Optional.empty() : Optional.of(was);
        String words = Amount.written(time) + (stint == 0 ? " written down." : " it is now.");
        return forms.perform(number, act, seen, words, request, response);
    }

    @PostMapping("/time/{stint}/drop")
    String dropTime(
            @PathVariable TicketNumber number,
            @PathVariable int stint,
            HttpServletRequest request,
            HttpServletResponse response) {
        return forms.perform(
                number, new Act.DropTime(stint, true), Optional.empty(), "The time is taken out.", request, response);
    }

    @PostMapping("/resolution")
    String conclude(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String what,
            @RequestParam(defaultValue = "") String done,
            @RequestParam(defaultValue = "") String cause,
            @RequestParam(required = false) Optional<String> was,
            HttpServletRequest request,
            HttpServletResponse response) {
        var act = new Act.Conclude(new Work.Resolution(what, done, cause));
        return forms.perform(number, act, was, "How it was resolved is written down.", request, response);
    }

    @PostMapping("/under")
    String under(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String parent,
            HttpServletRequest request,
            HttpServletResponse response) {
        Optional<TicketNumber> other = Id.read(parent, TicketNumber::new);
        if (other.isEmpty() && !parent.isBlank()) {
            throw new Problem.Invalid("“" + parent + "” is no number of a ticket. Nothing was changed.");
        }
        String words = other.map(one -> number + " is a part of " + one + " now.")
                .orElse(number + " is a part of no other ticket now.");
        return forms.perform(number, new Act.PutUnder(other), Optional.empty(), words, request, response);
    }

    /** Takes back what was done about the parts of the work. */
    @PostMapping("/parts/undo")
    String undo(
            @PathVariable TicketNumber number,
            @RequestParam(defaultValue = "") String undo,
            HttpServletRequest request,
            HttpServletResponse response) {
        Decision.Undo read = Undoing.read(undo);
        if (!(read.act() instanceof Act.OfWork act)) {
            throw new Problem.Invalid("That cannot be taken back here.");
        }
        return forms.perform(number, act, read.seen(), "It is taken back.", request, response);
    }
}

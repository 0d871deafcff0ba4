package rafter.app.handout.queues;

import java.time.Clock;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.platform.Whens;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.FitRehearsal;

/** Best fit over the days that have passed: would it have chosen whom people chose, and how had loads and lateness been. */
@Controller
@RequestMapping("/house-rules/handing-out/rehearsal")
class FitPastController {

    private static final List<Integer> DAYS = List.of(7, 30, 90);

    /** How many tickets somebody got by people, and would have got by best fit. */
    public record Line(String name, int people, int fit) {}

    /** A ticket on which they differ. */
    public record Differs(TicketNumber ticket, String when, String chosen, long score, String best, long bestScore) {}

    private final FitPast past;
    private final Persons persons;
    private final Whens whens;
    private final Access access;
    private final Clock clock;

    FitPastController(FitPast past, Persons persons, Whens whens, Access access, Clock clock) {
        this.past = past;
        this.persons = persons;
        this.whens = whens;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String rehearse(@RequestParam(defaultValue = "30") String days, Model model) {
        access.require(Right.HOUSE_RULES);
        int back = DAYS.stream()
                .filter(one -> one.toString().equals(days.strip()))
                .findFirst()
                .orElse(30);
        FitRehearsal.Report report = past.since(clock.instant().minus(Duration.ofDays(back)));
        Map<PersonId, String> names = persons.all().stream().collect(Collectors.toMap(Person::id, Person::name));
        model.addAttribute("days", back);
        model.addAttribute("choosable", DAYS);
        model.addAttribute("report", report);
        model.addAttribute("most", FitPast.MOST);
        model.addAttribute("lines", lines(report, names));
        model.addAttribute(
                "differs",
                report.examples().stream()
                        .map(one -> new Differs(
                                one.ticket(),
                                whens.say(one.at()),
                                names.getOrDefault(one.chosen(), "somebody"),
                                Math.round(one.itsScore()),
                                names.getOrDefault(one.best(), "somebody"),
                                Math.round(one.bestScore())))
                        .toList());
        return "handout/queues/fit-past";
    }

    private static List<Line> lines(FitRehearsal.Report report, Map<PersonId, String> names) {
        return names.entrySet().stream()
                .map(one -> new Line(
                        one.getValue(),
                        report.people().got().getOrDefault(one.getKey(), 0),
                        report.fit().got().getOrDefault(one.getKey(), 0)))
                .filter(one -> one.people() + one.fit() > 0)
                .sorted(Comparator.comparing(Line::name))
                .toList();
    }
}

package rafter.app.handout.queues;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.platform.HomeZone;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.routing.Queue;
import rafter.core.routing.Replay;

/** The floor of a day that has passed, run through by a slider: what waited, who was here, and where it began to go wrong. */
@Controller
@RequestMapping("/floor/then")
class ThenController {

    private static final Duration STEP = Duration.ofMinutes(5);
    private static final int WIDE = 864;
    private static final int HIGH = 60;

    /** A queue over the day: its line as points, how many waited in each frame, and where it began to go wrong. */
    public record Line(String name, String points, String counts, int most, int beganX, String began) {}

    /** What somebody had over the day, and at most. */
    public record Load(String name, String counts, int most) {}

    private final Queues queues;
    private final Past past;
    private final Persons persons;
    private final HomeZone zone;
    private final Access access;
    private final Clock clock;

    ThenController(Queues queues, Past past, Persons persons, HomeZone zone, Access access, Clock clock) {
        this.queues = queues;
        this.past = past;
        this.persons = persons;
        this.zone = zone;
        this.access = access;
        this.clock = clock;
    }

    @GetMapping
    String then(@RequestParam(defaultValue = "") String day, Model model) {
        access.require(Right.HAND_OVER_ANY);
        ZoneId home = zone.zone();
        Instant now = clock.instant();
        LocalDate today = now.atZone(home).toLocalDate();
        LocalDate wanted = day(day, today);
        Instant from = wanted.atStartOfDay(home).toInstant();
        Instant until = wanted.plusDays(1).atStartOfDay(home).toInstant();
        Instant end = until.isBefore(now) ? until : now;
        // The last one is now, or the end of the day.
        int many = (int) Duration.between(from, end).plus(STEP).minusMillis(1).dividedBy(STEP) + 1;
        List<Replay.Frame> frames = past.frames(from, end, STEP, many);
        model.addAttribute("day", wanted.toString());
        model.addAttribute("first", today.minusDays(Flow.KEPT.toDays()).toString());
        model.addAttribute("today", today.toString());
        model.addAttribute("last", many - 1);
        model.addAttribute("wide", WIDE);
        model.addAttribute("high", HIGH);
        model.addAttribute("times", times(frames, end, home));
        model.addAttribute("here", here(frames));
        model.addAttribute("lines", lines(frames, home));
        Optional<List<Map<PersonId, Integer>>> loads = past.loads(from, STEP, many);
        model.addAttribute("loads", loads.map(this::loads).orElse(List.of()));
        model.addAttribute("tooMany", loads.isEmpty());
        return "handout/queues/then";
    }

    private static LocalDate day(String typed, LocalDate today) {
        if (typed.isBlank()) {
            return today;
        }
        try {
            LocalDate day = LocalDate.parse(typed.strip());
            if (day.isAfter(today) || day.isBefore(today.minusDays(Flow.KEPT.toDays()))) {
                throw new Problem.Invalid("The floor is kept for ninety days. Choose a day from "
                        + today.minusDays(Flow.KEPT.toDays()) + " to " + today + ".");
            }
            return day;
        } catch (DateTimeParseException e) {
            throw new Problem.Invalid("“" + typed + "” is no day. Write it like " + today + ".");
        }
    }

    private static String times(List<Replay.Frame> frames, Instant end, ZoneId home) {
        return frames.stream()
                .map(frame -> (frame.at().isAfter(end) ? end : frame.at())
                        .atZone(home)
                        .toLocalTime()
                        .toString()
                        .substring(0, 5))
                .collect(Collectors.joining(","));
    }

    /** Who was here, frame by frame; frames are parted by bars, and of those alike only the first names them. */
    private String here(List<Replay.Frame> frames) {
        Map<PersonId, String> names = persons.all().stream().collect(Collectors.toMap(Person::id, Person::name));
        var all = new ArrayList<String>();
        String before = "\0";
        for (Replay.Frame frame : frames) {
            String now = frame.here().stream()
                    .map(id -> names.getOrDefault(id, "somebody"))
                    .sorted()
                    .collect(Collectors.joining(", "));
            all.add(now.equals(before) ? "=" : now);
            before = now;
        }
        return String.join("|", all);
    }

    private List<Line> lines(List<Replay.Frame> frames, ZoneId home) {
        return queues.all().stream()
                .sorted(Comparator.comparing(Queue::name))
                .map(queue -> line(queue.name(), Replay.line(frames, queue.id()), frames, home))
                .toList();
    }

    /** What each had, frame by frame; who never had anything on that day is left out. */
    private List<Load> loads(List<Map<PersonId, Integer>> frames) {
        return persons.all().stream()
                .sorted(Comparator.comparing(Person::name))
                .map(one -> new Load(
                        one.name(),
                        frames.stream()
                                .map(frame -> Integer.toString(frame.getOrDefault(one.id(), 0)))
                                .collect(Collectors.joining(",")),
                        frames.stream()
                                .mapToInt(frame -> frame.getOrDefault(one.id(), 0))
                                .max()
                                .orElse(0)))
                .filter(one -> one.most() > 0)
                .toList();
    }

    private static Line line(String name, int[] counts, List<Replay.Frame> frames, ZoneId home) {
        int most = Math.max(1, Arrays.stream(counts).max().orElse(0));
        int last = Math.max(1, counts.length - 1);
        String points = IntStream.range(0, counts.length)
                .mapToObj(i -> i * WIDE / last + "," + (HIGH - HIGH * Math.max(0, counts[i]) / most))
                .collect(Collectors.joining(" "));
        var began = Replay.began(counts);
        return new Line(
                name,
                points,
                Arrays.stream(counts).mapToObj(Integer::toString).collect(Collectors.joining(",")),
                Arrays.stream(counts).max().orElse(0),
                began.isPresent() ? began.getAsInt() * WIDE / last : -1,
                began.isPresent()
                        ? frames.get(began.getAsInt())
                                .at()
                                .atZone(home)
                                .toLocalTime()
                                .toString()
                                .substring(0, 5)
                        : "");
    }
}

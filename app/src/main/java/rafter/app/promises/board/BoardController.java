package rafter.app.promises.board;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;
import rafter.core.target.PromiseBook;

/** The target board: how promises are kept, by policy, team, agent, channel, topic, plan and week. */
@Controller
@RequestMapping("/reports")
class BoardController {

    private static final int USUAL_DAYS = 30;
    private static final int PAGE = 50;

    private final BoardStore store;
    private final BoardTables drawing;
    private final Targets targets;
    private final Access access;
    private final Clock clock;
    private final TicketStates states;

    BoardController(
            BoardStore store, BoardTables drawing, Targets targets, Access access, Clock clock, TicketStates states) {
        this.states = states;
        this.store = store;
        this.drawing = drawing;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    public record Choice(String key, String name) {}

    @GetMapping
    String first() {
        return "redirect:/reports/targets";
    }

    @GetMapping("/targets")
    String board(
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String objective,
            @RequestParam(defaultValue = "") String policy,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Asked asked = asked(from, to, objective, policy, model);
        PromiseBook book = targets.terms().editions().latest().book();
        BoardStore.Scope scope = asked.scope(Optional.empty());
        List<BoardStore.Group> policies = store.groups(BoardStore.Dimension.POLICY, scope, me);
        model.addAttribute(
                "objectives",
                Arrays.stream(Objective.values())
                        .map(o -> new Choice(o.name(), o.words()))
                        .toList());
        model.addAttribute("policies", names(book, policies));
        model.addAttribute("asked", asked);
        model.addAttribute("promises", drawing.policyLines(policies, book, asked));
        model.addAttribute("tables", tables(scope, asked, me));
        model.addAttribute("weeks", drawing.weeks(store.groups(BoardStore.Dimension.WEEK, scope, me), asked));
        return "promises/board/board";
    }

    /** Figures of single agents are for those who lead. */
    private List<BoardTables.Table> tables(BoardStore.Scope scope, Asked asked, Viewer me) {
        var tables = new ArrayList<BoardTables.Table>();
        tables.add(drawing.table(BoardStore.Dimension.TEAM, "By team", "", scope, asked, me));
        if (me.role() != Role.AGENT) {
            BoardStore.Scope fair = asked.scope(Optional.of(false));
            tables.add(drawing.table(
                    BoardStore.Dimension.AGENT,
                    "By agent",
                    "Without tickets that reached them when three quarters of the time or more were used.",
                    fair,
                    asked,
                    me));
            BoardStore.Scope late = asked.scope(Optional.of(true));
            tables.add(drawing.table(
                    BoardStore.Dimension.AGENT,
                    "Reached late from others",
                    "Shown apart, so that taking a late ticket spoils nobody’s figures.",
                    late,
                    asked,
                    me));
        }
        tables.add(drawing.table(BoardStore.Dimension.PLAN, "By plan", "", scope, asked, me));
        tables.add(drawing.table(BoardStore.Dimension.TOPIC, "By topic", "", scope, asked, me));
        tables.add(drawing.table(BoardStore.Dimension.CHANNEL, "By channel", "", scope, asked, me));
        return tables;
    }

    /** What the reader chose to see. */
    public record Asked(
            String from,
            String to,
            String objective,
            String policy,
            Instant start,
            Instant end,
            Instant now,
            ZoneId zone) {
        BoardStore.Scope scope(Optional<Boolean> reachedLate) {
            return new BoardStore.Scope(start, end, now, some(objective), some(policy), reachedLate, zone);
        }

        private static Optional<String> some(String value) {
            return value.isEmpty() ? Optional.empty() : Optional.of(value);
        }
    }

    private Asked asked(String from, String to, String objective, String policy, Model model) {
        Terms terms = targets.terms();
        Instant now = clock.instant();
        LocalDate today = now.atZone(terms.zone()).toLocalDate();
        LocalDate first = date(from, today.minusDays(USUAL_DAYS), model);
        LocalDate last = date(to, today, model);
        if (last.isBefore(first)) {
            model.addAttribute("problem", "The period ends before it begins; it was turned round.");
            return asked(last.toString(), first.toString(), objective, policy, model);
        }
        String known = Arrays.stream(Objective.values())
                .map(Objective::name)
                .filter(objective::equals)
                .findFirst()
                .orElse("");
        return new Asked(
                first.toString(),
                last.toString(),
                known,
                policy,
                first.atStartOfDay(terms.zone()).toInstant(),
                last.plusDays(1).atStartOfDay(terms.zone()).toInstant(),
                now,
                terms.zone());
    }

    private static LocalDate date(String written, LocalDate otherwise, Model model) {
        try {
            return written.isBlank() ? otherwise : LocalDate.parse(written.strip());
        } catch (DateTimeParseException e) {
            model.addAttribute("problem", "“" + written + "” is not a date; " + otherwise + " was taken.");
            return otherwise;
        }
    }

    /** The policies of today, and those of the past that figures speak of. */
    private static List<Choice> names(PromiseBook book, List<BoardStore.Group> groups) {
        var names = new LinkedHashMap<String, String>();
        book.policies().forEach(p -> names.put(p.id(), p.name()));
        groups.stream()
                .filter(g -> !g.key().isEmpty())
                .forEach(g -> names.putIfAbsent(g.key(), "a policy of the past"));
        return names.entrySet().stream()
                .map(e -> new Choice(e.getKey(), e.getValue()))
                .toList();
    }

    /** A ticket of the list. */
    public record Row(
            TicketNumber number,
            String subject,
            String objective,
            String state,
            String started,
            String due,
            String owner) {}

    @GetMapping("/targets/tickets")
    String tickets(
            @RequestParam String kind,
            @RequestParam String by,
            @RequestParam(defaultValue = "") String key,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "") String objective,
            @RequestParam(defaultValue = "") String policy,
            @RequestParam(required = false) Optional<Boolean> late,
            @RequestParam(defaultValue = "0") int page,
            Model model) {
        Viewer me = access.require(Right.WORK);
        Asked asked = asked(from, to, objective, policy, model);
        BoardStore.Kind which = read(BoardStore.Kind.class, kind);
        BoardStore.Dimension dimension = read(BoardStore.Dimension.class, by);
        if (dimension == BoardStore.Dimension.AGENT && me.role() == Role.AGENT) {
            throw new Problem.NoRight("Figures of single agents are for leads.");
        }
        int at = Math.max(0, page);
        List<BoardStore.Behind> found =
                store.behind(Optional.of(dimension), key, which, asked.scope(late), at * PAGE, PAGE + 1, me);
        model.addAttribute(
                "rows", found.stream().limit(PAGE).map(b -> row(b, asked)).toList());
        model.addAttribute("what", which.words());
        model.addAttribute("asked", asked);
        model.addAttribute(
                "next",
                found.size() > PAGE ? BoardTables.link(which, dimension, key, asked, late) + "&page=" + (at + 1) : "");
        model.addAttribute(
                "previous", at > 0 ? BoardTables.link(which, dimension, key, asked, late) + "&page=" + (at - 1) : "");
        return "promises/board/tickets";
    }

    private Row row(BoardStore.Behind b, Asked asked) {
        ZoneId zone = asked.zone();
        return new Row(
                b.number(),
                b.subject(),
                Objective.valueOf(b.objective()).words(),
                states.name(b.state()),
                Say.when(b.started(), asked.now(), zone),
                b.due().map(due -> Say.when(due, asked.now(), zone)).orElse("paused"),
                b.owner());
    }

    private static <E extends Enum<E>> E read(Class<E> type, String name) {
        return Arrays.stream(type.getEnumConstants())
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new Problem.NotFound("There is no such list. Go back to the board and choose a figure."));
    }
}

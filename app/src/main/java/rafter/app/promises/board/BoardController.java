package rafter.app.promises.board;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Role;
import rafter.app.house.access.Viewer;
import rafter.app.house.states.TicketStates;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;

/** The target board: how promises are kept, by policy, team, agent, channel, topic, plan and week. */
@Controller
@RequestMapping("/reports")
class BoardController {

    private static final int USUAL_DAYS = 30;
    private static final int PAGE = 50;
    private static final DateTimeFormatter WEEK = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);

    private final BoardStore store;
    private final Targets targets;
    private final Access access;
    private final Clock clock;
    private final TicketStates states;

    BoardController(BoardStore store, Targets targets, Access access, Clock clock, TicketStates states) {
        this.states = states;
        this.store = store;
        this.targets = targets;
        this.access = access;
        this.clock = clock;
    }

    /**
     * A line of a table.
     *
     * @param goal the share that is wanted; empty when the line has no one goal
     * @param standing how it stands to the goal, as a style names it, and in words
     * @param sure between which bounds the true share lies
     */
    record Line(
            String name,
            String objective,
            String shape,
            String share,
            int width,
            int low,
            int high,
            String goal,
            int goalAt,
            String standing,
            String standingWords,
            String sure,
            Mark met,
            Mark missed,
            Mark running,
            Mark risk) {}

    /** A figure and the list of its tickets. */
    record Mark(long count, String link) {}

    /** A table of the board. */
    record Table(String title, String note, List<Line> lines) {}

    /** A week as a column. */
    record Column(
            int x, int top, int height, int lowY, int highY, String label, String title, String link, boolean few) {}

    record Choice(String key, String name) {}

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
        model.addAttribute("promises", policyLines(policies, book, asked));
        var tables = new ArrayList<Table>();
        tables.add(table(BoardStore.Dimension.TEAM, "By team", "", scope, asked, me));
        if (me.role() != Role.AGENT) {
            BoardStore.Scope fair = asked.scope(Optional.of(false));
            tables.add(table(
                    BoardStore.Dimension.AGENT,
                    "By agent",
                    "Without tickets that reached them when three quarters of the time or more were used.",
                    fair,
                    asked,
                    me));
            BoardStore.Scope late = asked.scope(Optional.of(true));
            tables.add(table(
                    BoardStore.Dimension.AGENT,
                    "Reached late from others",
                    "Shown apart, so that taking a late ticket spoils nobody’s figures.",
                    late,
                    asked,
                    me));
        }
        tables.add(table(BoardStore.Dimension.PLAN, "By plan", "", scope, asked, me));
        tables.add(table(BoardStore.Dimension.TOPIC, "By topic", "", scope, asked, me));
        tables.add(table(BoardStore.Dimension.CHANNEL, "By channel", "", scope, asked, me));
        model.addAttribute("tables", tables);
        model.addAttribute("weeks", weeks(store.groups(BoardStore.Dimension.WEEK, scope, me), asked));
        return "promises/board/board";
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

    private List<Line> policyLines(List<BoardStore.Group> groups, PromiseBook book, Asked asked) {
        var lines = new ArrayList<Line>();
        List<String> order = book.policies().stream().map(Policy::id).toList();
        groups.stream()
                .sorted(Comparator.comparingInt(
                                (BoardStore.Group g) -> order.contains(g.key()) ? order.indexOf(g.key()) : order.size())
                        .thenComparing(g -> Objective.valueOf(g.objective())))
                .forEach(g -> {
                    Optional<Policy> policy = book.policy(g.key());
                    Objective objective = Objective.valueOf(g.objective());
                    Optional<Goal> goal =
                            policy.flatMap(p -> Optional.ofNullable(p.goals().get(objective)));
                    Asked narrowed = new Asked(
                            asked.from(),
                            asked.to(),
                            g.objective(),
                            asked.policy(),
                            asked.start(),
                            asked.end(),
                            asked.now(),
                            asked.zone());
                    lines.add(line(
                            policy.map(Policy::name).orElse("a policy of the past"),
                            objective,
                            g,
                            goal.map(Goal::share),
                            BoardStore.Dimension.POLICY,
                            narrowed,
                            Optional.empty()));
                });
        return lines;
    }

    private Table table(
            BoardStore.Dimension dimension, String title, String note, BoardStore.Scope scope, Asked asked, Viewer me) {
        List<Line> lines = store.groups(dimension, scope, me).stream()
                .filter(g -> g.met() + g.missed() + g.running() > 0)
                .sorted(Comparator.comparingDouble((BoardStore.Group g) -> new Share(g.met(), g.met() + g.missed())
                                .bounds()
                                .low())
                        .reversed())
                .map(g -> line(
                        !g.name().isEmpty() ? g.name() : g.key().isEmpty() ? "none" : g.key(),
                        Objective.FIRST_REPLY,
                        g,
                        Optional.empty(),
                        dimension,
                        asked,
                        scope.reachedLate()))
                .toList();
        return new Table(title, note, lines);
    }

    private static Line line(
            String name,
            Objective objective,
            BoardStore.Group g,
            Optional<Integer> goal,
            BoardStore.Dimension dimension,
            Asked asked,
            Optional<Boolean> late) {
        var share = new Share(g.met(), g.met() + g.missed());
        Share.Bounds bounds = share.bounds();
        boolean some = share.whole() > 0;
        String percent = some ? String.format(Locale.ENGLISH, "%.0f %%", Math.floor(share.percent())) : "–";
        String sure = some
                ? String.format(
                        Locale.ENGLISH,
                        "likely (95 %%) between %.0f and %.0f %%",
                        Math.floor(bounds.low()),
                        Math.ceil(bounds.high()))
                : "nothing ended";
        Optional<Share.Standing> standing = goal.filter(w -> some).map(share::against);
        return new Line(
                name,
                objective.words(),
                ClockView.css(objective),
                percent,
                (int) Math.round(share.percent()),
                (int) Math.floor(bounds.low()),
                (int) Math.ceil(bounds.high()),
                goal.map(w -> w == 100 ? "all" : w + " %").orElse(""),
                goal.orElse(0),
                standing.map(s -> s == Share.Standing.REACHED ? "calm" : s == Share.Standing.MISSED ? "late" : "soon")
                        .orElse(""),
                standing.map(s -> s == Share.Standing.REACHED
                                ? "goal reached"
                                : s == Share.Standing.MISSED ? "goal missed" : "too few to say")
                        .orElse(""),
                sure,
                mark(g.met(), BoardStore.Kind.MET, dimension, g.key(), asked, late),
                mark(g.missed(), BoardStore.Kind.MISSED, dimension, g.key(), asked, late),
                mark(g.running(), BoardStore.Kind.RUNNING, dimension, g.key(), asked, late),
                mark(g.risk(), BoardStore.Kind.RISK, dimension, g.key(), asked, late));
    }

    private static Mark mark(
            long count,
            BoardStore.Kind kind,
            BoardStore.Dimension dimension,
            String key,
            Asked asked,
            Optional<Boolean> late) {
        return new Mark(count, link(kind, dimension, key, asked, late));
    }

    private static String link(
            BoardStore.Kind kind, BoardStore.Dimension dimension, String key, Asked asked, Optional<Boolean> late) {
        var link = UriComponentsBuilder.fromPath("/reports/targets/tickets")
                .queryParam("kind", kind.name())
                .queryParam("by", dimension.name())
                .queryParam("key", "{key}")
                .queryParam("from", asked.from())
                .queryParam("to", asked.to())
                .queryParam("objective", asked.objective())
                .queryParam("policy", "{policy}");
        late.ifPresent(only -> link.queryParam("late", only));
        return link.encode()
                .buildAndExpand(Map.of("key", key, "policy", asked.policy()))
                .toUriString();
    }

    private static List<Column> weeks(List<BoardStore.Group> groups, Asked asked) {
        List<BoardStore.Group> known = groups.stream()
                .filter(g -> g.key() != null && !g.key().isEmpty() && g.met() + g.missed() > 0)
                .toList();
        int step = known.isEmpty() ? 1 : Math.min(70, 640 / known.size());
        var columns = new ArrayList<Column>();
        for (BoardStore.Group g : known) {
            var share = new Share(g.met(), g.met() + g.missed());
            Share.Bounds bounds = share.bounds();
            int x = 34 + step * columns.size();
            int height = (int) Math.round(share.percent() * 1.2);
            String week = WEEK.format(LocalDate.parse(g.key()));
            String title = String.format(
                    Locale.ENGLISH,
                    "Week from %s: %d of %d met, %.0f %%, likely (95 %%) between %.0f and %.0f %%",
                    week,
                    share.part(),
                    share.whole(),
                    share.percent(),
                    bounds.low(),
                    bounds.high());
            columns.add(new Column(
                    x,
                    130 - height,
                    height,
                    130 - (int) Math.round(bounds.low() * 1.2),
                    130 - (int) Math.round(bounds.high() * 1.2),
                    week,
                    title,
                    link(BoardStore.Kind.MISSED, BoardStore.Dimension.WEEK, g.key(), asked, Optional.empty()),
                    bounds.high() - bounds.low() > 20));
        }
        return columns;
    }

    // ------------------------------------------------------------------ the tickets behind a figure

    /** A ticket of the list. */
    record Row(
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
        ZoneId zone = asked.zone();
        model.addAttribute(
                "rows",
                found.stream()
                        .limit(PAGE)
                        .map(b -> new Row(
                                b.number(),
                                b.subject(),
                                Objective.valueOf(b.objective()).words(),
                                states.name(b.state()),
                                Say.when(b.started(), asked.now(), zone),
                                b.due()
                                        .map(due -> Say.when(due, asked.now(), zone))
                                        .orElse("paused"),
                                b.owner()))
                        .toList());
        model.addAttribute("what", which.words());
        model.addAttribute("asked", asked);
        model.addAttribute(
                "next", found.size() > PAGE ? link(which, dimension, key, asked, late) + "&page=" + (at + 1) : "");
        model.addAttribute("previous", at > 0 ? link(which, dimension, key, asked, late) + "&page=" + (at - 1) : "");
        return "promises/board/tickets";
    }

    private static <E extends Enum<E>> E read(Class<E> type, String name) {
        return Arrays.stream(type.getEnumConstants())
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new Problem.NotFound("There is no such list. Go back to the board and choose a figure."));
    }
}

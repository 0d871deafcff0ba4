package rafter.app.promises.board;

import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.web.util.UriComponentsBuilder;
import rafter.app.house.access.Viewer;
import rafter.app.promises.targets.ClockView;
import rafter.core.measure.Share;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;

/** Draws the figures of the board as tables, each figure with the list of its tickets. */
@Component
class BoardTables {

    private static final DateTimeFormatter WEEK = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);

    /**
     * A line of a table.
     *
     * @param goal the share that is wanted; empty when the line has no one goal
     * @param standing how it stands to the goal, as a style names it, and in words
     * @param sure between which bounds the true share lies
     */
    public record Line(
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
    public record Mark(long count, String link) {}

    /** A table of the board. */
    public record Table(String title, String note, List<Line> lines) {}

    /** A week as a column. */
    public record Column(
            int x, int top, int height, int lowY, int highY, String label, String title, String link, boolean few) {}

    private final BoardStore store;

    BoardTables(BoardStore store) {
        this.store = store;
    }

    /** The promises of each policy. */
    List<Line> policyLines(List<BoardStore.Group> groups, PromiseBook book, BoardController.Asked asked) {
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
                    BoardController.Asked narrowed = new BoardController.Asked(
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

    /** A table by one dimension. */
    Table table(
            BoardStore.Dimension dimension,
            String title,
            String note,
            BoardStore.Scope scope,
            BoardController.Asked asked,
            Viewer me) {
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
            BoardController.Asked asked,
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
            BoardController.Asked asked,
            Optional<Boolean> late) {
        return new Mark(count, link(kind, dimension, key, asked, late));
    }

    static String link(
            BoardStore.Kind kind,
            BoardStore.Dimension dimension,
            String key,
            BoardController.Asked asked,
            Optional<Boolean> late) {
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

    /** The weeks as columns. */
    List<Column> weeks(List<BoardStore.Group> groups, BoardController.Asked asked) {
        List<BoardStore.Group> known = groups.stream()
                .filter(g -> g.key() != null && !g.key().isEmpty() && g.met() + g.missed() > 0)
                .toList();
        int step = known.isEmpty() ? 1 : Math.min(70, 640 / known.size());
        var columns = new ArrayList<Column>();
        for (BoardStore.Group g : known) {
            columns.add(week(g, 34 + step * columns.size(), asked));
        }
        return columns;
    }

    private static Column week(BoardStore.Group g, int x, BoardController.Asked asked) {
        var share = new Share(g.met(), g.met() + g.missed());
        Share.Bounds bounds = share.bounds();
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
        return new Column(
                x,
                130 - height,
                height,
                130 - (int) Math.round(bounds.low() * 1.2),
                130 - (int) Math.round(bounds.high() * 1.2),
                week,
                title,
                link(BoardStore.Kind.MISSED, BoardStore.Dimension.WEEK, g.key(), asked, Optional.empty()),
                bounds.high() - bounds.low() > 20);
    }

    // ------------------------------------------------------------------ the tickets behind a figure
}

package rafter.app.work.worklist;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import rafter.app.platform.Say;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Terms;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;
import rafter.core.time.WorkingTime;

/**
 * The due horizon: all running targets of a view by the time they fall due. Late ones stand in a bin at the left; closed time is
 * folded to a hatched strip.
 *
 * @param total how many targets it shows
 * @param late how many of them are late
 * @param text the same in words
 */
public record Horizon(
        int total,
        int late,
        List<Mark> marks,
        List<More> more,
        List<Tick> ticks,
        List<Fold> folds,
        int nowX,
        String nowWords,
        String text,
        String edges,
        List<Stretch> stretches) {

    static final int LEFT = 184;
    static final int WIDTH = 1060;
    static final int BASE = 70;
    private static final int LATE_LEFT = 132;
    private static final int STEP = 15;
    private static final int HIGHEST = 4;
    /** Where hundreds fall due, single ones say little: fewer are drawn, and how many more there are is said. */
    private static final int HIGHEST_OF_MANY = 2;

    /** Where what the shapes mean stands above the columns, these are lower. */
    private static final int LEGEND = 900;

    private static final int MANY = 200;
    /** Where there are so many that every column is more than full, one stands for its column. */
    private static final int FULL = 500;

    private static final Duration AHEAD = Duration.ofHours(11);

    /** A target: its shape, where it stands, and the ticket it belongs to. */
    public record Mark(int x, int y, String objective, String tone, TicketNumber ticket, String title) {}

    /** How many more there are than a column can show. */
    public record More(int x, int y, String words) {}

    public record Tick(int x, String label) {}

    /**
     * A line of the same in words: what falls due in a stretch of time.
     *
     * @param due the stretch, as an address names it
     * @param count how many targets
     * @param kinds how many of which kind
     */
    public record Stretch(String words, String due, int count, String kinds) {}

    /**
     * The marks as SVG. Written here rather than in the template, for there may be hundreds of them and they hold nothing that a
     * stranger wrote: only numbers and words of ours.
     */
    public String marksSvg() {
        var svg = new StringBuilder();
        for (String tone : List.of("late", "soon", "calm")) {
            svg.append("<g class=\"").append(tone).append("\">");
            marks.stream()
                    .filter(m -> m.tone().equals(tone))
                    .forEach(m -> svg.append("<a tabindex=\"")
                            // One stop for the Tab key: the others are reached from the first by the arrows.
                            .append(svg.indexOf("</a>") < 0 ? "0" : "-1")
                            .append("\" href=\"/tickets/")
                            .append(m.ticket())
                            .append("\"><title>")
                            .append(m.title())
                            .append("</title><use x=\"")
                            .append(m.x())
                            .append("\" y=\"")
                            .append(m.y())
                            .append("\" href=\"#h-")
                            .append(m.objective())
                            .append("\"/></a>"));
            svg.append("</g>");
        }
        return svg.toString();
    }

    /** Closed time. */
    public record Fold(int x, int width, String label) {}

    /** Asks for what falls due; {@code edges} as {@link WorklistStore#due} takes them. */
    interface Source extends Function<List<Instant>, List<WorklistStore.Due>> {}

    /** Draws it for a view. */
    static Horizon draw(Terms terms, Instant now, Source source) {
        WorkingTime hours = terms.hours();
        Instant start = now.atZone(terms.zone()).truncatedTo(ChronoUnit.HOURS).toInstant();
        Instant end = hours.add(now, AHEAD).orElse(now.plus(AHEAD));
        var scale = new TimeScale(hours.openings(start, end), start, end, LEFT, WIDTH);
        List<Instant> edges = scale.edges(now);
        List<WorklistStore.Due> due = source.apply(edges);
        var marks = new ArrayList<Mark>();
        var more = new ArrayList<More>();
        lateBin(due, marks, more);
        columns(due, edges, scale, terms, now, marks, more);
        int late = due.stream()
                .filter(d -> d.bucket() == 0)
                .mapToInt(WorklistStore.Due::count)
                .sum();
        int total = due.stream().mapToInt(WorklistStore.Due::count).sum();
        return new Horizon(
                total,
                late,
                marks,
                more,
                scale.ticks(terms.zone()),
                scale.folds(terms.zone()),
                scale.x(now),
                Say.when(now, now, terms.zone()),
                text(due, edges, total, late, terms.zone(), now),
                edges(scale, edges),
                stretches(due, edges, terms.zone(), now));
    }

    /** Where each column begins, and when: {@code x:seconds}, for brushing. */
    private static String edges(TimeScale scale, List<Instant> edges) {
        return edges.stream().map(at -> scale.x(at) + ":" + at.getEpochSecond()).collect(Collectors.joining(","));
    }

    /** What is late, then an hour a line; hours in which nothing falls due are left out. */
    private static List<Stretch> stretches(List<WorklistStore.Due> due, List<Instant> edges, ZoneId zone, Instant now) {
        var stretches = new ArrayList<Stretch>();
        stretch("late", 0, now.getEpochSecond(), inBucket(due, 0)).ifPresent(stretches::add);
        int first = 1;
        for (int bucket = 1; bucket < edges.size(); bucket++) {
            boolean last = bucket == edges.size() - 1;
            if (last || !hour(edges.get(bucket), zone).equals(hour(edges.get(bucket - 1), zone))) {
                Instant from = edges.get(first - 1);
                Instant until = edges.get(bucket);
                int begin = first;
                int end = bucket;
                List<WorklistStore.Due> within = due.stream()
                        .filter(d -> d.bucket() >= begin && d.bucket() <= end)
                        .toList();
                String words = Say.when(from, now, zone) + " to " + Say.when(until, now, zone);
                stretch(words, from.getEpochSecond(), until.getEpochSecond(), within)
                        .ifPresent(stretches::add);
                first = bucket + 1;
            }
        }
        return stretches;
    }

    private static Instant hour(Instant at, ZoneId zone) {
        return at.atZone(zone).truncatedTo(ChronoUnit.HOURS).toInstant();
    }

    private static Optional<Stretch> stretch(String words, long from, long until, List<WorklistStore.Due> within) {
        int count = within.stream().mapToInt(WorklistStore.Due::count).sum();
        String kinds = Arrays.stream(Objective.values())
                .map(o -> Map.entry(
                        o,
                        within.stream()
                                .filter(d -> d.objective().equals(o.name()))
                                .mapToInt(WorklistStore.Due::count)
                                .sum()))
                .filter(entry -> entry.getValue() > 0)
                .map(entry -> entry.getValue() + " " + entry.getKey().words())
                .collect(Collectors.joining(", "));
        return count == 0 ? Optional.empty() : Optional.of(new Stretch(words, from + "-" + until, count, kinds));
    }

    private static void lateBin(List<WorklistStore.Due> due, List<Mark> marks, List<More> more) {
        int shown = 0;
        int count = 0;
        for (WorklistStore.Due one : inBucket(due, 0)) {
            count += one.count();
            for (Long ticket : one.tickets()) {
                if (shown < 9) {
                    marks.add(new Mark(
                            LATE_LEFT + 8 + 15 * (shown % 3),
                            BASE - 10 - STEP * (shown / 3),
                            css(one),
                            "late",
                            new TicketNumber(ticket),
                            ticket + " " + words(one) + " late"));
                    shown++;
                }
            }
        }
        if (count > shown) {
            more.add(new More(LATE_LEFT + 24, BASE - 10 - STEP * 3, "+" + (count - shown)));
        }
    }

    private static List<WorklistStore.Due> inBucket(List<WorklistStore.Due> due, int bucket) {
        return due.stream()
                .filter(one -> one.bucket() == bucket)
                .sorted(java.util.Comparator.comparing(WorklistStore.Due::objective))
                .toList();
    }

    private static void columns(
            List<WorklistStore.Due> due,
            List<Instant> edges,
            TimeScale scale,
            Terms terms,
            Instant now,
            List<Mark> marks,
            List<More> more) {
        int all = due.stream().mapToInt(WorklistStore.Due::count).sum();
        for (int bucket = 1; bucket < edges.size(); bucket++) {
            Instant from = edges.get(bucket - 1);
            int x = (scale.x(from) + scale.x(edges.get(bucket))) / 2;
            int highest = highest(all, x);
            String tone =
                    terms.hours().between(now, edges.get(bucket)).compareTo(Duration.ofHours(1)) <= 0 ? "soon" : "calm";
            int shown = 0;
            int count = 0;
            for (WorklistStore.Due one : inBucket(due, bucket)) {
                count += one.count();
                for (Long ticket : one.tickets()) {
                    if (shown < highest) {
                        String title = ticket + " " + words(one) + " " + Say.when(from, now, terms.zone());
                        marks.add(
                                new Mark(x, BASE - 8 - STEP * shown, css(one), tone, new TicketNumber(ticket), title));
                        shown++;
                    }
                }
            }
            if (count > shown) {
                more.add(new More(x, BASE - 6 - STEP * highest, "+" + (count - shown)));
            }
        }
    }

    private static int highest(int all, int x) {
        return all > FULL ? 1 : all > MANY || x > LEGEND ? HIGHEST_OF_MANY : HIGHEST;
    }

    private static String css(WorklistStore.Due one) {
        return ClockView.css(Objective.valueOf(one.objective()));
    }

    private static String words(WorklistStore.Due one) {
        return Say.capital(Objective.valueOf(one.objective()).words());
    }

    private static String text(
            List<WorklistStore.Due> due, List<Instant> edges, int total, int late, ZoneId zone, Instant now) {
        int hour = 0;
        for (WorklistStore.Due one : due) {
            boolean within = one.bucket() > 0 && !edges.get(one.bucket() - 1).isAfter(now.plus(Duration.ofHours(1)));
            hour += within ? one.count() : 0;
        }
        return total + (total == 1 ? " target" : " targets") + " running until " + Say.when(edges.getLast(), now, zone)
                + ": " + late + " late, " + hour + " due within the hour, " + (total - late - hour) + " later.";
    }
}

package rafter.app.promises.targets;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import rafter.core.target.Segment;
import rafter.core.target.TargetClock;

/**
 * The small drawing of a clock on a working-time axis: used parts, held parts hatched, the rest, and the due mark.
 *
 * @param bars from left to right
 * @param dueX where the due mark stands
 */
public record Rail(List<Bar> bars, int dueX) {

    /** How wide it is drawn. */
    public static final int WIDTH = 118;

    private static final int HELD_WIDTH = 14;
    private static final int HELD_AT_MOST = 42;

    /** One part of it; {@code kind} is {@code used}, {@code held} or {@code rest}. */
    public record Bar(int x, int width, String kind) {}

    /** Draws a clock. */
    public static Rail of(TargetClock clock) {
        List<Segment> parts = merged(clock.segments());
        long heldParts = parts.stream().filter(part -> !part.counts()).count();
        int held = (int) Math.min(HELD_WIDTH * heldParts, HELD_AT_MOST);
        double each = heldParts == 0 ? 0 : (double) held / heldParts;
        Duration whole = clock.used().compareTo(clock.allowed()) > 0 ? clock.used() : clock.allowed();
        double perSecond = whole.isZero() ? 0 : (double) (WIDTH - held) / whole.toSeconds();
        var bars = new ArrayList<Bar>();
        double x = 0;
        double due = -1;
        long used = 0;
        long allowed = clock.allowed().toSeconds();
        for (Segment part : parts) {
            double width = part.counts() ? part.working().toSeconds() * perSecond : each;
            if (part.counts()) {
                long after = used + part.working().toSeconds();
                due = due < 0 && after >= allowed ? x + (allowed - used) * perSecond : due;
                used = after;
            }
            add(bars, x, width, part.counts() ? "used" : "held");
            x += width;
        }
        if (due < 0) {
            due = WIDTH;
            add(bars, x, WIDTH - x, "rest");
        }
        return new Rail(List.copyOf(bars), (int) Math.round(due));
    }

    private static void add(List<Bar> bars, double x, double width, String kind) {
        int from = (int) Math.round(x);
        int to = (int) Math.round(x + width);
        if (to > from) {
            bars.add(new Bar(from, to - from, kind));
        }
    }

    /** Neighbours of one kind as one; held time in which the team was closed anyway is not drawn. */
    private static List<Segment> merged(List<Segment> segments) {
        var merged = new ArrayList<Segment>();
        for (Segment next : segments) {
            if (!next.counts() && next.working().isZero()) {
                continue;
            }
            if (!merged.isEmpty() && merged.getLast().counts() == next.counts()) {
                Segment last = merged.removeLast();
                merged.add(new Segment(
                        last.from(),
                        next.to(),
                        next.turn(),
                        next.counts(),
                        last.working().plus(next.working())));
            } else {
                merged.add(next);
            }
        }
        return merged;
    }
}

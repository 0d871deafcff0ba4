package rafter.app.promises.targets;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import rafter.core.target.ClockOutline;
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
        return of(ClockOutline.parts(clock.segments()), clock.used(), clock.allowed());
    }

    /** Draws the parts of a clock. */
    static Rail of(List<ClockOutline.Part> parts, Duration used, Duration allowed) {
        long heldParts = parts.stream().filter(part -> !part.counts()).count();
        int held = (int) Math.min(HELD_WIDTH * heldParts, HELD_AT_MOST);
        double each = heldParts == 0 ? 0 : (double) held / heldParts;
        Duration whole = used.compareTo(allowed) > 0 ? used : allowed;
        double perSecond = whole.isZero() ? 0 : (double) (WIDTH - held) / whole.toSeconds();
        var bars = new ArrayList<Bar>();
        double x = 0;
        double due = -1;
        long sum = 0;
        long seconds = allowed.toSeconds();
        for (ClockOutline.Part part : parts) {
            double width = part.counts() ? part.working().toSeconds() * perSecond : each;
            if (part.counts()) {
                long after = sum + part.working().toSeconds();
                due = due < 0 && after >= seconds ? x + (seconds - sum) * perSecond : due;
                sum = after;
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
}

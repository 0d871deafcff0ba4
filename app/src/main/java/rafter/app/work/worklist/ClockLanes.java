package rafter.app.work.worklist;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Terms;

/**
 * The Clock: a lane for each person or team on an axis of working time, each ticket at the instant at which its next target falls due. Late ones stand in
 * a bin at the left, those that fall due beyond the axis, or never, in one at the right.
 *
 * @param nowX where now is
 * @param text all of it in a sentence, with the lanes that are not drawn yet
 * @param further the lane after which there are more
 */
record ClockLanes(
        List<Lane> lanes,
        List<Horizon.Tick> ticks,
        List<Horizon.Fold> folds,
        int nowX,
        String nowWords,
        String text,
        Optional<String> further) {

    static final int LEFT = 96;
    static final int WIDTH = 830;
    private static final int LATER = LEFT + WIDTH + 14;
    private static final int STEP = 14;
    private static final int ROWS = 3;
    private static final int APART = 26;
    private static final Duration AHEAD = Duration.ofHours(11);

    /** A ticket at its place. The rail tells how much of its time is used, from 0 to 20. */
    public record Mark(int x, int y, Worklist.Card card, int used, String tone, String objective, String title) {}

    /** A lane; {@code more} tickets have no room in it. */
    public record Lane(Lanes.Lane holder, int height, List<Mark> marks, int more) {}

    static ClockLanes draw(
            Terms terms, Instant now, List<Lanes.Lane> holders, List<LaneStore.Size> sizes, Optional<String> further) {
        Instant start = now.atZone(terms.zone()).truncatedTo(ChronoUnit.HOURS).toInstant();
        Instant end = terms.hours().add(now, AHEAD).orElse(now.plus(AHEAD));
        var scale = new TimeScale(terms.hours().openings(start, end), start, end, LEFT, WIDTH);
        List<Lane> lanes =
                holders.stream().map(holder -> lane(holder, scale, now, end)).toList();
        int late = sizes.stream().mapToInt(LaneStore.Size::late).sum();
        int total = sizes.stream().mapToInt(LaneStore.Size::total).sum();
        String text = total + " tickets in " + sizes.size() + " lanes, " + late + " of them late.";
        return new ClockLanes(
                lanes,
                scale.ticks(terms.zone()),
                scale.folds(terms.zone()),
                scale.x(now),
                Say.when(now, now, terms.zone()),
                text,
                further);
    }

    private static Lane lane(Lanes.Lane holder, TimeScale scale, Instant now, Instant end) {
        var marks = new ArrayList<Mark>();
        int hidden = 0;
        int lateShown = 0;
        int laterShown = 0;
        var ends = new int[ROWS];
        for (Worklist.Card card : holder.cards()) {
            // What is paused falls due at no time, so it is never late.
            Optional<Instant> due = card.nextDue();
            boolean over = due.isPresent() && !due.get().isAfter(now);
            if (over || due.isEmpty() || due.get().isAfter(end)) {
                int shown = over ? lateShown++ : laterShown++;
                if (shown < 2 * ROWS) {
                    marks.add(mark((over ? 6 : LATER) + 42 * (shown / ROWS), 8 + STEP * (shown % ROWS), card));
                } else {
                    hidden++;
                }
                continue;
            }
            int x = scale.x(due.get());
            int row = freeRow(ends, x);
            if (row < 0) {
                hidden++;
            } else {
                ends[row] = x + APART + 14;
                marks.add(mark(x, 8 + STEP * row, card));
            }
        }
        int more = hidden + holder.total() - holder.cards().size();
        return new Lane(holder, 16 + STEP * ROWS, marks, more);
    }

    private static int freeRow(int[] ends, int x) {
        for (int row = 0; row < ends.length; row++) {
            if (ends[row] <= x) {
                return row;
            }
        }
        return -1;
    }

    private static Mark mark(int x, int y, Worklist.Card card) {
        String title = card.number() + " " + card.subject()
                + card.clock().map(c -> ": " + c.line()).orElse(": no target runs");
        int used = card.clock().map(c -> c.usedOfTwenty()).orElse(0);
        return new Mark(
                x,
                y,
                card,
                used,
                card.clock().map(c -> c.tone()).orElse("calm"),
                card.clock().map(c -> c.objective()).orElse("resolution"),
                title);
    }
}

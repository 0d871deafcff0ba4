package rafter.app.worklist;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import rafter.app.platform.Say;
import rafter.app.targets.Terms;

/**
 * The Clock: a lane a person on an axis of working time, each ticket at the instant at which its next target falls due. Late ones stand in
 * a bin at the left, those that fall due beyond the axis, or never, in one at the right.
 *
 * @param nowX where now is
 */
record ClockLanes(List<Lane> lanes, List<Horizon.Tick> ticks, List<Horizon.Fold> folds, int nowX, String nowWords, String text) {

    static final int LEFT = 96;
    static final int WIDTH = 830;
    private static final int LATER = LEFT + WIDTH + 14;
    private static final int STEP = 14;
    private static final int ROWS = 3;
    private static final int APART = 26;
    private static final Duration AHEAD = Duration.ofHours(11);

    /** Tickets of one person, before they are drawn. */
    record Person(String key, String name, int total, List<Worklist.Card> cards) {}

    /** A ticket at its place. The rail tells how much of its time is used, from 0 to 20. */
    record Mark(int x, int y, Worklist.Card card, int used, String tone, String objective, String title) {}

    /** A person's lane; {@code more} tickets have no room in it. */
    record Lane(String key, String name, int total, int late, int height, List<Mark> marks, int more) {}

    static ClockLanes draw(Terms terms, Instant now, List<Person> people) {
        Instant start = now.atZone(terms.zone()).truncatedTo(ChronoUnit.HOURS).toInstant();
        Instant end = terms.hours().add(now, AHEAD).orElse(now.plus(AHEAD));
        var scale = new TimeScale(terms.hours().openings(start, end), start, end, LEFT, WIDTH);
        List<Lane> lanes = people.stream().map(person -> lane(person, scale, now, end)).toList();
        int late = lanes.stream().mapToInt(Lane::late).sum();
        int total = lanes.stream().mapToInt(Lane::total).sum();
        String text = total + " tickets of " + lanes.size() + " people and of nobody, " + late + " of them late.";
        return new ClockLanes(lanes, scale.ticks(terms.zone()), scale.folds(terms.zone()), scale.x(now), Say.when(now, now, terms.zone()), text);
    }

    private static Lane lane(Person person, TimeScale scale, Instant now, Instant end) {
        var marks = new ArrayList<Mark>();
        int late = 0;
        int hidden = 0;
        int lateShown = 0;
        int laterShown = 0;
        var ends = new int[ROWS];
        for (Worklist.Card card : person.cards()) {
            var due = card.clock().flatMap(c -> c.due());
            boolean over = due.isPresent() && !due.get().isAfter(now);
            boolean later = due.isEmpty() || due.get().isAfter(end);
            late += over ? 1 : 0;
            if (over || later) {
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
        return new Lane(person.key(), person.name(), person.total(), late, 16 + STEP * ROWS, marks, hidden + person.total() - person.cards().size());
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
        String title = card.number() + " " + card.subject() + card.clock().map(c -> ": " + c.line()).orElse(": no target runs");
        int used = card.clock().map(c -> c.usedOfTwenty()).orElse(0);
        return new Mark(
                x, y, card, used, card.clock().map(c -> c.tone()).orElse("calm"), card.clock().map(c -> c.objective()).orElse("resolution"), title);
    }
}

package rafter.app.work.worklist;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * The lanes that are drawn at once: as many as a screen shows, from the first or from after one of them on. The rest comes by scrolling.
 *
 * @param after the lane that is drawn already
 */
record LaneRun(Optional<String> after, int most) {

    /** What a workspace may have in lanes at all. */
    static final int MOST_LANES = 60;

    private static final int BESIDE_EACH_OTHER = 6;
    private static final int BELOW_EACH_OTHER = 16;

    /** The run asked for: from after a lane, or as many as a reader has already, or all of them; otherwise the first. */
    static LaneRun read(Shape shape, Map<String, String> parameters) {
        String wanted = parameters.getOrDefault("lanes", "");
        int atOnce = shape == Shape.CLOCK ? BELOW_EACH_OTHER : BESIDE_EACH_OTHER;
        int most = wanted.matches("\\d{1,2}") ? Math.max(atOnce, Integer.parseInt(wanted)) : atOnce;
        return new LaneRun(Optional.ofNullable(parameters.get("after-lane")), wanted.equals("all") ? MOST_LANES : most);
    }

    /** Those of all lanes that belong to it; from the first on when the lane it went on from is gone. */
    List<String> of(List<String> all) {
        int from = after.map(all::indexOf).orElse(-1) + 1;
        return all.subList(from, Math.min(all.size(), from + most));
    }

    /** The lane after which it goes on, if there are more than those of this run. */
    static Optional<String> further(List<String> drawn, List<String> all) {
        return drawn.isEmpty() || drawn.getLast().equals(all.getLast())
                ? Optional.empty()
                : Optional.of(drawn.getLast());
    }
}

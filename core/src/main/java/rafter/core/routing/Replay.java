package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;

/** The floor as it stood, at one instant after another: how many waited where, and who was at work. */
public final class Replay {

    private Replay() {}

    /** A ticket came into a queue, or left it. */
    public record Flowed(Instant at, QueueId queue, boolean came) {}

    /** Somebody was at work from then on, or was not. */
    public record Went(Instant at, PersonId person, boolean here) {}

    /** How it stood. */
    public record Frame(Instant at, Map<QueueId, Integer> waiting, Set<PersonId> here) {
        public Frame {
            waiting = Map.copyOf(waiting);
            here = Set.copyOf(here);
        }
    }

    /**
     * How it stood at the beginning and then at every step. O(n + frames · queues) for n changes.
     *
     * @param begins how it stood at the beginning
     * @param flowed what came and left since, in the order of time
     * @param went who came and left since, in the order of time
     * @param many how many frames, the beginning among them
     */
    public static List<Frame> frames(Frame begins, List<Flowed> flowed, List<Went> went, Duration step, int many) {
        Map<QueueId, Integer> waiting = new HashMap<>(begins.waiting());
        Set<PersonId> here = new HashSet<>(begins.here());
        var frames = new ArrayList<Frame>();
        int flow = 0;
        int go = 0;
        for (int i = 0; i < many; i++) {
            Instant at = begins.at().plus(step.multipliedBy(i));
            while (flow < flowed.size() && !flowed.get(flow).at().isAfter(at)) {
                Flowed one = flowed.get(flow++);
                waiting.merge(one.queue(), one.came() ? 1 : -1, Integer::sum);
            }
            while (go < went.size() && !went.get(go).at().isAfter(at)) {
                Went one = went.get(go++);
                if (one.here()) {
                    here.add(one.person());
                } else {
                    here.remove(one.person());
                }
            }
            frames.add(new Frame(at, waiting, here));
        }
        return frames;
    }

    /** How many waited in a queue, frame by frame. */
    public static int[] line(Collection<Frame> frames, QueueId queue) {
        return frames.stream()
                .mapToInt(frame -> frame.waiting().getOrDefault(queue, 0))
                .toArray();
    }

    /**
     * Where it began to go wrong in a queue: the last frame before the one in which most waited where it was no more than half of that. Nothing when
     * never more than a few waited.
     */
    public static OptionalInt began(int[] line) {
        int peak = 0;
        for (int i = 1; i < line.length; i++) {
            peak = line[i] > line[peak] ? i : peak;
        }
        if (line.length == 0 || line[peak] <= FEW) {
            return OptionalInt.empty();
        }
        for (int i = peak; i >= 0; i--) {
            if (2 * line[i] <= line[peak]) {
                return OptionalInt.of(i);
            }
        }
        return OptionalInt.empty();
    }

    private static final int FEW = 3;
}

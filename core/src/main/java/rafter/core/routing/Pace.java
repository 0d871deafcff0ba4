package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.OptionalInt;

/** How fast a queue is worked off, and what that means for those who wait in it. */
public final class Pace {

    private Pace() {}

    /**
     * The first place whose ticket will be late when it is its turn, should the queue go on as it did; nothing when none will, or when
     * nothing left it, for of that nothing follows. O(n).
     *
     * @param line what waits, in its order
     * @param perHour how many left in the last hour
     */
    public static OptionalInt late(List<Waiting> line, int perHour, Instant now) {
        for (int i = 0; perHour > 0 && i < line.size(); i++) {
            int place = i;
            boolean late = line.get(i)
                    .due()
                    .filter(due -> due.isBefore(now.plus(turn(place, perHour))))
                    .isPresent();
            if (late) {
                return OptionalInt.of(i + 1);
            }
        }
        return OptionalInt.empty();
    }

    /** How long it takes until whatever is before a place, from zero, is worked off. */
    public static Duration turn(int before, int perHour) {
        return Duration.ofMillis(Duration.ofHours(1).toMillis() * before / perHour);
    }
}

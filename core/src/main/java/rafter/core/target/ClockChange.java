package rafter.core.target;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * A moment in mid-course at which what is promised changed, or an ending was taken back.
 *
 * @param why what brought it about
 * @param policy the name of the policy that holds from then on; empty: none does
 * @param allowed the working time promised from then on
 * @param dueBefore where the due time lay until then; nothing when it was not known
 * @param dueAfter where it lies from then on; nothing when it is not known
 */
public record ClockChange(
        Instant at,
        Why why,
        Optional<String> policy,
        Optional<Duration> allowed,
        Optional<Instant> dueBefore,
        Optional<Instant> dueAfter) {

    /** What it did to the due time. */
    public enum Effect {
        STAYS,
        MOVES,
        BEGINS,
        ENDS
    }

    /** What it did to the due time. */
    public Effect effect() {
        if (allowed.isEmpty()) {
            return Effect.ENDS;
        }
        return dueBefore.isEmpty() ? Effect.BEGINS : dueBefore.equals(dueAfter) ? Effect.STAYS : Effect.MOVES;
    }

    /** What brought it about. */
    public enum Why {
        PRIORITY("the priority changed"),
        FACTS("the ticket or its customer changed"),
        AGREED("another time was agreed with the customer"),
        AS_PROMISED("the time agreed with the customer was taken back"),
        EDITION("another version of hours and targets came into force"),
        REOPENED("it had been met, then the ticket was reopened");

        private final String words;

        Why(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }
}

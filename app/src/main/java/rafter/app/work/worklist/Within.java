package rafter.app.work.worklist;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;

/** The stretches of time until something is due, by which Lanes part tickets. */
enum Within {
    LATE("late", 0),
    HOUR("within an hour", 1),
    FOUR("within 4 hours", 4),
    DAY("within a day", 24),
    WEEK("within a week", 168),
    LATER("later", Integer.MAX_VALUE);

    private final String words;
    private final int hours;

    Within(String words, int hours) {
        this.words = words;
        this.hours = hours;
    }

    String words() {
        return words;
    }

    /** After the stretch before it, and not after its own end. */
    Condition holds(Field<Instant> due, Instant now) {
        Condition after = ordinal() == 0 ? DSL.trueCondition() : due.gt(values()[ordinal() - 1].end(now));
        return this == LATER ? after : after.and(due.le(end(now)));
    }

    /** Its last instant; of {@link #LATER} there is none. */
    Instant end(Instant now) {
        return now.plus(Duration.ofHours(hours));
    }

    /** The stretch in which an instant is. */
    static Within of(Instant due, Instant now) {
        return Arrays.stream(values())
                .filter(one -> one != LATER && !due.isAfter(one.end(now)))
                .findFirst()
                .orElse(LATER);
    }
}

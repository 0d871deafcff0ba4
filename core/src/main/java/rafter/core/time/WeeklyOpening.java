package rafter.core.time;

import java.time.DayOfWeek;
import java.time.LocalTime;

/**
 * One opening that comes every week, in local time of its calendar's zone.
 *
 * @param day the day on which it begins
 * @param opens the local time at which it begins
 * @param closes the local time before which it ends; when it is not after {@code opens} the opening runs over midnight into
 *     the next day, so midnight ("24:00") as an end means the end of the day
 */
public record WeeklyOpening(DayOfWeek day, LocalTime opens, LocalTime closes) {

    /** Whether the opening ends on the day after the one on which it begins. */
    public boolean runsOverMidnight() {
        return !closes.isAfter(opens);
    }
}

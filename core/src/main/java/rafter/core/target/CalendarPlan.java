package rafter.core.target;

import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import rafter.core.time.Entry;

/**
 * A calendar as a workspace keeps it.
 *
 * @param id names it for good
 * @param zone its own time zone; empty: it follows the workspace's
 * @param holidaySets the ids of the holiday sets that hold for it
 */
public record CalendarPlan(
        String id,
        String name,
        Optional<ZoneId> zone,
        boolean aroundTheClock,
        List<Entry> entries,
        List<String> holidaySets) {

    public CalendarPlan {
        entries = List.copyOf(entries);
        holidaySets = List.copyOf(holidaySets);
    }

    /** This calendar with other entries. */
    public CalendarPlan with(List<Entry> others) {
        return new CalendarPlan(id, name, zone, aroundTheClock, others, holidaySets);
    }
}

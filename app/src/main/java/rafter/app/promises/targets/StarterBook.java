package rafter.app.promises.targets;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.core.criteria.Criteria;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.ticket.Priority;
import rafter.core.time.WorkCalendar;

/** The book a new workspace begins with: Monday to Friday, and usual promises to everybody. */
public final class StarterBook {

    private StarterBook() {}

    /** The book, in a zone. */
    public static PromiseBook in(ZoneId zone) {
        WorkCalendar week = WorkCalendar.weekly(
                "Opening hours",
                zone,
                LocalTime.of(8, 0),
                LocalTime.of(17, 0),
                DayOfWeek.MONDAY,
                DayOfWeek.TUESDAY,
                DayOfWeek.WEDNESDAY,
                DayOfWeek.THURSDAY,
                DayOfWeek.FRIDAY);
        var plan = new CalendarPlan("calendar-1", week.name(), Optional.empty(), false, week.entries(), List.of());
        var policy = new Policy(
                "policy-1", "Everybody", "", true, Criteria.everything(), Optional.of(plan.id()), goals(), List.of());
        return new PromiseBook(zone, plan.id(), List.of(plan), List.of(), List.of(policy));
    }

    private static Map<Objective, Goal> goals() {
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        goals.put(Objective.FIRST_REPLY, goal(Objective.FIRST_REPLY, 1, 2, 4, 9));
        goals.put(Objective.NEXT_REPLY, goal(Objective.NEXT_REPLY, 1, 3, 6, 18));
        goals.put(Objective.RESOLUTION, goal(Objective.RESOLUTION, 8, 18, 27, 45));
        return goals;
    }

    /** A goal for all tickets, in whole hours from the highest priority to the lowest. */
    public static Goal goal(Objective objective, int... hours) {
        var within = new EnumMap<Priority, Duration>(Priority.class);
        for (Priority priority : Priority.values()) {
            within.put(priority, Duration.ofHours(hours[priority.ordinal()]));
        }
        return Goal.usual(objective, within);
    }
}

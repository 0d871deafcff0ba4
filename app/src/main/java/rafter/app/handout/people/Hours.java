package rafter.app.handout.people;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;
import rafter.app.promises.targets.Targets;
import rafter.core.target.CalendarPlan;
import rafter.core.target.PromiseBook;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** The calendars of the workspace as hours that people work. */
@Component
class Hours {

    private static final int KEPT = 200;

    private final Targets targets;
    /** Compiling a calendar is dear, and they rarely change. */
    private final Map<WorkCalendar, WorkingTime> compiled = new ConcurrentHashMap<>();

    Hours(Targets targets) {
        this.targets = targets;
    }

    /** The calendars that there are. */
    List<CalendarPlan> calendars() {
        return book().calendars();
    }

    /** The hours of a calendar, by its id; nothing when there is none, or it is open around the clock. */
    Optional<WorkingTime> of(String calendar) {
        PromiseBook book = book();
        return calendar.isEmpty()
                ? Optional.empty()
                : book.plan(calendar)
                        .filter(plan -> !plan.aroundTheClock())
                        .map(book::calendar)
                        .map(this::compiled);
    }

    private PromiseBook book() {
        return targets.terms().editions().latest().book();
    }

    private WorkingTime compiled(WorkCalendar calendar) {
        if (compiled.size() > KEPT) {
            compiled.clear();
        }
        return compiled.computeIfAbsent(calendar, WorkingTime::of);
    }
}

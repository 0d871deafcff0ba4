package rafter.app.promises.hours;

import rafter.app.platform.Problem;
import rafter.core.target.CalendarPlan;
import rafter.core.target.PromiseBook;

/** The calendars of a book, one by one. */
final class Plans {

    private Plans() {}

    /**
     * A calendar.
     *
     * @throws Problem.NotFound when there is none of this id
     */
    static CalendarPlan of(PromiseBook book, String id) {
        return book.plan(id).orElseThrow(() -> new Problem.NotFound("There is no such calendar."));
    }

    /** A book with a calendar in the place of the one of its id. */
    static PromiseBook with(PromiseBook book, CalendarPlan plan) {
        return book.withCalendars(book.calendars().stream()
                .map(c -> c.id().equals(plan.id()) ? plan : c)
                .toList());
    }
}

package rafter.app.tickets.acts;

import java.time.Instant;
import java.time.ZoneId;
import rafter.app.platform.Say;
import rafter.core.time.WorkingTime;

/** When we are open again, as a customer reads it. */
final class OpensWords {

    private OpensWords() {}

    /** “now” while we are open, else when that is next. */
    static String of(WorkingTime hours, Instant now, ZoneId zone) {
        return hours.isOpen(now)
                ? "now"
                : hours.nextOpen(now).map(at -> Say.when(at, now, zone)).orElse("later");
    }
}

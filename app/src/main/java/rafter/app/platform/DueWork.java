package rafter.app.platform;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import java.util.function.IntSupplier;

/** Work that becomes due because time goes by. */
public final class DueWork {

    private DueWork() {}

    /**
     * Looks again and again for what is due, and does it in parts, each in its own transaction, until a part is not full.
     *
     * @param name its name in the database, which stays
     * @param pause how long after one look the next one is
     * @param part does a part, and says how much it was
     * @param atOnce how much a full part is
     */
    public static RecurringTask<Void> inParts(String name, Duration pause, int atOnce, IntSupplier part) {
        return Tasks.recurring(name, FixedDelay.of(pause)).execute((instance, context) -> {
            while (part.getAsInt() == atOnce) {
                // A part was full, so more may be due.
            }
        });
    }
}

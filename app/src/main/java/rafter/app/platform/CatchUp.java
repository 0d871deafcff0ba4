package rafter.app.platform;

import java.util.function.IntSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Work that an upgrade leaves behind: done beside everything else once the application runs. What fails is left to the next start. */
public final class CatchUp {

    private static final Logger LOG = LoggerFactory.getLogger(CatchUp.class);

    private CatchUp() {}

    /**
     * Begins it.
     *
     * @param name of the thread, and in the log
     * @param work does all there is to do, and says how much that was
     */
    public static void begin(String name, IntSupplier work) {
        Thread.ofVirtual().name(name).start(() -> {
            try {
                int done = work.getAsInt();
                if (done > 0) {
                    LOG.info("Caught up with {}: {}", name, done);
                }
            } catch (RuntimeException e) {
                LOG.warn("Could not catch up with {}: {}", name, e.toString());
            }
        });
    }

    /** Does some of the work again and again until none is left; how much it was. */
    public static int all(IntSupplier some) {
        int count = 0;
        for (int done = some.getAsInt(); done > 0; done = some.getAsInt()) {
            count += done;
        }
        return count;
    }
}

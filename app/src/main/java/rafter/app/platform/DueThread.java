package rafter.app.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One thread that does what falls due, each at its own time, and sleeps in between. What fails is tried again. */
public abstract class DueThread extends OneThread {

    private static final Logger LOG = LoggerFactory.getLogger(DueThread.class);
    /** What another node sets for an earlier time is noticed within this. */
    private static final Duration LONGEST_SLEEP = Duration.ofSeconds(1);

    private static final Duration AFTER_FAILURE = Duration.ofSeconds(2);

    private final Semaphore woken = new Semaphore(0);
    private final String name;
    private final Clock clock;
    private final boolean enabled;

    protected DueThread(String name, Clock clock, boolean enabled) {
        super(name);
        this.name = name;
        this.clock = clock;
        this.enabled = enabled;
    }

    /**
     * Does some of what is due.
     *
     * @return how much it was; none: there is nothing to do now
     */
    protected abstract int doDue();

    /** When the next falls due. */
    protected abstract Optional<Instant> nextDue();

    @Override
    public boolean isAutoStartup() {
        return enabled;
    }

    @Override
    protected void run() {
        while (isRunning()) {
            try {
                if (doDue() == 0) {
                    sleep();
                }
            } catch (InterruptedException e) {
                return;
            } catch (RuntimeException e) {
                // Nothing of that round happened.
                LOG.warn("What was due of {} could not be done and is tried again", name, e);
                pause(AFTER_FAILURE);
            }
        }
    }

    private void sleep() throws InterruptedException {
        Instant now = clock.instant();
        Duration wait = nextDue()
                .map(due -> Duration.between(now, due))
                .filter(one -> one.compareTo(LONGEST_SLEEP) < 0)
                .orElse(LONGEST_SLEEP);
        if (woken.tryAcquire(Math.max(20, wait.toMillis()), TimeUnit.MILLISECONDS)) {
            woken.drainPermits();
        }
    }

    /** Something may be due sooner than was thought. */
    protected void wake() {
        woken.release();
    }
}

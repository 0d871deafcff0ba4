package rafter.app.tickets.clocks;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import rafter.app.platform.OneThread;

/** Waits for the next step that is due and has it fired. */
@Component
class StepRunner extends OneThread {

    private static final Logger LOG = LoggerFactory.getLogger(StepRunner.class);
    private static final int TICKETS_AT_ONCE = 500;
    /** A timer that another node sets for an earlier instant is noticed within this time. */
    private static final Duration LONGEST_SLEEP = Duration.ofSeconds(1);

    private static final Duration AFTER_FAILURE = Duration.ofSeconds(2);

    private final StepFiring firing;
    private final Clock clock;
    private final boolean enabled;

    StepRunner(StepFiring firing, Clock clock, @Value("${rafter.steps.enabled:true}") boolean enabled) {
        super("steps");
        this.firing = firing;
        this.clock = clock;
        this.enabled = enabled;
    }

    @Override
    public boolean isAutoStartup() {
        return enabled;
    }

    @Override
    protected void run() {
        while (isRunning()) {
            try {
                if (firing.fireDue(TICKETS_AT_ONCE) == 0) {
                    sleep();
                }
            } catch (InterruptedException e) {
                return;
            } catch (RuntimeException e) {
                // Nothing of that round happened; it is tried again.
                LOG.warn("Steps of targets could not be fired and are tried again", e);
                pause(AFTER_FAILURE);
            }
        }
    }

    private void sleep() throws InterruptedException {
        Instant now = clock.instant();
        Duration wait = firing.nextDue()
                .map(due -> Duration.between(now, due))
                .filter(w -> w.compareTo(LONGEST_SLEEP) < 0)
                .orElse(LONGEST_SLEEP);
        Thread.sleep(Math.max(20, wait.toMillis()));
    }
}

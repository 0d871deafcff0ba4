package rafter.app.tickets.writing;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import rafter.app.platform.OneThread;

/** Sends replies when their time has come. */
@Component
class SendingRunner extends OneThread {

    private static final Logger LOG = LoggerFactory.getLogger(SendingRunner.class);
    private static final int AT_ONCE = 50;
    /** What another node has go out earlier is noticed within this time. */
    private static final Duration LONGEST_SLEEP = Duration.ofSeconds(1);

    private static final Duration AFTER_FAILURE = Duration.ofSeconds(2);

    private final Sending sending;
    private final Clock clock;
    private final boolean enabled;

    SendingRunner(Sending sending, Clock clock, @Value("${rafter.sending.enabled:true}") boolean enabled) {
        super("sending");
        this.sending = sending;
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
                if (sending.sendDue(AT_ONCE) == 0) {
                    sleep();
                }
            } catch (InterruptedException e) {
                return;
            } catch (RuntimeException e) {
                LOG.warn("Replies could not be sent and are tried again", e);
                pause(AFTER_FAILURE);
            }
        }
    }

    private void sleep() throws InterruptedException {
        Instant now = clock.instant();
        Duration wait = sending.nextDue()
                .map(due -> Duration.between(now, due))
                .filter(one -> one.compareTo(LONGEST_SLEEP) < 0)
                .orElse(LONGEST_SLEEP);
        Thread.sleep(Math.max(20, wait.toMillis()));
    }
}

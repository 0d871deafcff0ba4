package rafter.app.handout.queues;

import jakarta.annotation.PreDestroy;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Hands out as soon as something came into a queue, rather than with the next look of the timer: who calls does not wait for that. */
@Component
class AtOnce {

    private static final Logger LOG = LoggerFactory.getLogger(AtOnce.class);

    private final ObjectProvider<GivingOut> giving;
    private final boolean enabled;
    private final AtomicBoolean asked = new AtomicBoolean();
    private final ExecutorService beside = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().name("hand-out").daemon().factory());

    AtOnce(ObjectProvider<GivingOut> giving, @Value("${db-scheduler.enabled:true}") boolean enabled) {
        this.giving = giving;
        this.enabled = enabled;
    }

    /** Something came into a queue; it is handed out when the running transaction commits. */
    void soon() {
        if (!enabled || !TransactionSynchronizationManager.isSynchronizationActive()) {
            return;
        }
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                // One look that has not begun yet sees whatever came until then.
                if (asked.compareAndSet(false, true)) {
                    beside.execute(AtOnce.this::look);
                }
            }
        });
    }

    private void look() {
        asked.set(false);
        try {
            giving.getObject().giveOut();
        } catch (RuntimeException e) {
            LOG.info("Handing out waits for the next look: {}", e.toString());
        }
    }

    @PreDestroy
    void end() {
        beside.shutdownNow();
    }
}

package rafter.app.arrival.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import rafter.app.platform.News;
import rafter.app.platform.RafterSettings;

/** The threads that process what was received: woken when something arrives, and looking by themselves every second. */
@Component
class IntakeWorkers implements SmartLifecycle {

    private static final Logger LOG = LoggerFactory.getLogger(IntakeWorkers.class);
    private static final int LOOK_EVERY_SECONDS = 1;
    private static final int AFTER_FAILURE_SECONDS = 5;

    private final Processor processor;
    private final RafterSettings settings;
    private final ReentrantLock lock = new ReentrantLock();
    private final Condition arrived = lock.newCondition();
    private final List<Thread> threads = new ArrayList<>();
    private volatile boolean running;
    /** How often somebody was woken; guarded by the lock. */
    private long news;

    IntakeWorkers(Processor processor, RafterSettings settings) {
        this.processor = processor;
        this.settings = settings;
    }

    @Override
    public void start() {
        running = true;
        for (int i = 1; i <= settings.intake().workers(); i++) {
            Thread thread = new Thread(this::run, "intake-" + i);
            threads.add(thread);
            thread.start();
        }
    }

    @Override
    public void stop() {
        running = false;
        wake();
        threads.forEach(thread -> {
            try {
                thread.join(TimeUnit.SECONDS.toMillis(10));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        threads.clear();
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    @EventListener
    void hear(News news) {
        if (news.topic().equals("mail")) {
            wake();
        }
    }

    private void wake() {
        lock.lock();
        try {
            news++;
            arrived.signalAll();
        } finally {
            lock.unlock();
        }
    }

    private void run() {
        while (running) {
            try {
                if (processor.processSome() == 0) {
                    rest(LOOK_EVERY_SECONDS);
                }
            } catch (RuntimeException e) {
                LOG.warn("Intake rests for a moment: {}", e.toString());
                rest(AFTER_FAILURE_SECONDS);
            }
        }
    }

    private void rest(int seconds) {
        lock.lock();
        try {
            long left = TimeUnit.SECONDS.toNanos(seconds);
            long heard = news;
            while (running && news == heard && left > 0) {
                left = arrived.awaitNanos(left);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } finally {
            lock.unlock();
        }
    }
}

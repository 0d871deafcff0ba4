package rafter.app.platform;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;

/** Threads that do what waits: woken by news of a topic, and looking by themselves every second. */
public abstract class WokenThreads implements SmartLifecycle {

    private static final Logger LOG = LoggerFactory.getLogger(WokenThreads.class);
    private static final int LOOK_EVERY_SECONDS = 1;
    private static final int AFTER_FAILURE_SECONDS = 5;

    private final String name;
    private final String topic;
    private final int count;
    private final ReentrantLock lock = new ReentrantLock();
    private final Condition arrived = lock.newCondition();
    private final List<Thread> threads = new ArrayList<>();
    private volatile boolean running;
    /** How often somebody was woken; guarded by the lock. */
    private long news;

    /**
     * Threads that rest as long as nothing waits.
     *
     * @param topic news of it wake them
     * @param count how many
     */
    protected WokenThreads(String name, String topic, int count) {
        this.name = name;
        this.topic = topic;
        this.count = count;
    }

    /** Does a part of what waits; false: nothing waits. */
    protected abstract boolean work();

    @Override
    public void start() {
        running = true;
        for (int i = 1; i <= count; i++) {
            Thread thread = new Thread(this::run, name + "-" + i);
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

    /** Wakes them when it is about their topic. */
    @EventListener
    public void hear(News told) {
        if (told.topic().equals(topic)) {
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
            long heard = heard();
            try {
                if (!work()) {
                    rest(LOOK_EVERY_SECONDS, heard);
                }
            } catch (RuntimeException e) {
                LOG.warn("{} rests for a moment: {}", name, e.toString());
                rest(AFTER_FAILURE_SECONDS, heard());
            }
        }
    }

    private long heard() {
        lock.lock();
        try {
            return news;
        } finally {
            lock.unlock();
        }
    }

    /** Rests until woken; not at all where that happened since the look began. */
    private void rest(int seconds, long heard) {
        lock.lock();
        try {
            long left = TimeUnit.SECONDS.toNanos(seconds);
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

package rafter.app.platform;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.context.SmartLifecycle;

/** Something that one thread of its own does from the start of the application until its end. */
public abstract class OneThread implements SmartLifecycle {

    private final String name;
    private volatile @Nullable Thread thread;

    protected OneThread(String name) {
        this.name = name;
    }

    /** Does it until {@link #isRunning} says no more, or the thread is interrupted. */
    protected abstract void run();

    @Override
    public void start() {
        Thread one = new Thread(this::run, name);
        one.setDaemon(true);
        thread = one;
        one.start();
    }

    @Override
    public void stop() {
        Thread one = thread;
        thread = null;
        if (one != null) {
            one.interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return thread != null;
    }

    /** Waits after a failure; the end of the application ends the wait. */
    protected static void pause(Duration wait) {
        try {
            Thread.sleep(wait);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

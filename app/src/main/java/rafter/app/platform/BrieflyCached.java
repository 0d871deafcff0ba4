package rafter.app.platform;

import java.time.Duration;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * A value that is read again after a short while, for what nearly never changes and is asked for all the time. Another node's change
 * is seen after that while, one of this node's at once when it is told to {@link #forget}.
 */
public final class BrieflyCached<T> {

    private record Held<T>(T value, long readAtNanos) {}

    private final Supplier<T> source;
    private final long nanos;
    private volatile @Nullable Held<T> held;

    public BrieflyCached(Duration whiles, Supplier<T> source) {
        this.nanos = whiles.toNanos();
        this.source = source;
    }

    /** The value as it was at most that while ago. */
    public T get() {
        Held<T> known = held;
        long now = System.nanoTime();
        if (known == null || now - known.readAtNanos() > nanos) {
            known = new Held<>(source.get(), now);
            held = known;
        }
        return known.value();
    }

    /** Lets the value be read anew when it is next asked for. */
    public void forget() {
        held = null;
    }
}

package rafter.app.platform;

import java.time.Duration;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/**
 * Values derived from many tickets, kept until any ticket changes and never longer than a short while; so that forty open pages that
 * hear of one change cause one computation and not forty.
 */
public final class CachedUntilChange<K, V> {

    /** So many that each person's view has room; beyond it everything is made anew. */
    private static final int MOST = 500;

    private record Held<V>(V value, long change, long madeAtNanos) {}

    private final TicketChanges changes;
    private final long nanos;
    private final ConcurrentHashMap<K, Held<V>> held = new ConcurrentHashMap<>();

    public CachedUntilChange(TicketChanges changes, Duration longest) {
        this.changes = changes;
        this.nanos = longest.toNanos();
    }

    /** The value of a key, made when there is none that is still true. */
    public V get(K key, Supplier<V> make) {
        // Read before making: a change that comes meanwhile makes the value old at once.
        long change = changes.count();
        long now = System.nanoTime();
        Held<V> known = held.get(key);
        if (known != null && known.change() == change && now - known.madeAtNanos() < nanos) {
            return known.value();
        }
        if (held.size() >= MOST) {
            held.clear();
        }
        V value = make.get();
        held.put(key, new Held<>(value, change, now));
        return value;
    }
}

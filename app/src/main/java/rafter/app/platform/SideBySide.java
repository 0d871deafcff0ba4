package rafter.app.platform;

import java.util.ArrayList;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BiConsumer;
import java.util.function.IntFunction;

/** Does work in shares that run beside each other, and adds up what came of them. */
public final class SideBySide {

    private SideBySide() {}

    /**
     * Does each share in a thread of its own.
     *
     * @param shares how many there are
     * @param share does one, by its number from zero
     * @param add adds what came of the second to what came of the first
     * @throws BackgroundWork.Cancelled when a share was cancelled
     */
    public static <T> T sum(int shares, IntFunction<Callable<T>> share, BiConsumer<T, T> add) {
        try (var pool = Executors.newFixedThreadPool(shares)) {
            var parts = new ArrayList<Future<T>>();
            for (int i = 0; i < shares; i++) {
                parts.add(pool.submit(share.apply(i)));
            }
            T whole = parts.removeFirst().get();
            for (Future<T> part : parts) {
                add.accept(whole, part.get());
            }
            return whole;
        } catch (ExecutionException e) {
            if (e.getCause() instanceof BackgroundWork.Cancelled cancelled) {
                throw cancelled;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }
}

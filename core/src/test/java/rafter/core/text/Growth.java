package rafter.core.text;

import java.util.function.IntConsumer;

/** Finds out how work grows with its input, without a limit of time that a busy machine could break. */
public final class Growth {

    private Growth() {}

    /**
     * How many times longer an input takes that is {@code times} as large; about as much for linear work, its square for quadratic work. The
     * quickest of several runs of each counts.
     */
    public static long of(IntConsumer work, int size, int times) {
        work.accept(size);
        long small = quickest(work, size);
        long large = quickest(work, size * times);
        return large / Math.max(small, 200_000);
    }

    private static long quickest(IntConsumer work, int size) {
        long best = Long.MAX_VALUE;
        for (int i = 0; i < 3; i++) {
            long start = System.nanoTime();
            work.accept(size);
            best = Math.min(best, System.nanoTime() - start);
        }
        return best;
    }
}

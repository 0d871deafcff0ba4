package rafter.benchmarks;

import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;

/**
 * How quick the machine is at this moment. It is shared: the same work takes up to three times as long when its neighbours are busy, and
 * figures can be compared only when this one is about the same.
 *
 * @param counting seconds for plain work on two cores at once
 * @param walking seconds for going through memory at random on two cores at once, which caches and what others do to them decide
 */
record MachineSpeed(double counting, double walking) {

    private static final int CORES = 2;
    private static final int COUNTS = 300_000_000;
    private static final int STEPS = 4_000_000;
    private static final int PLACES = 1 << 23;

    /** Measures it; takes about two seconds. */
    static MachineSpeed now() {
        int[] next = oneRing();
        return new MachineSpeed(seconds(MachineSpeed::count), seconds(core -> walk(next, core)));
    }

    @Override
    public String toString() {
        return "the machine: counting %.2f s, walking through memory %.2f s".formatted(counting, walking);
    }

    private static double seconds(IntToLongFunction work) {
        long started = System.nanoTime();
        long sum = IntStream.range(0, CORES).parallel().mapToLong(work).sum();
        double taken = (System.nanoTime() - started) / 1e9;
        // The sum is asked for, so that the work is not left out.
        return sum == 42 ? Double.NaN : taken;
    }

    private static long count(int from) {
        // Marsaglia's xorshift: unlike additions and multiplications, several steps of it cannot be folded into one.
        long value = from + 1L;
        for (int i = 0; i < COUNTS; i++) {
            value ^= value << 13;
            value ^= value >>> 7;
            value ^= value << 17;
        }
        return value;
    }

    private static long walk(int[] next, int from) {
        int at = from;
        for (int i = 0; i < STEPS; i++) {
            at = next[at];
        }
        return at;
    }

    /** One ring through all places in an order that no cache foresees: a full period by Hull and Dobell's rule. */
    private static int[] oneRing() {
        var next = new int[PLACES];
        for (int i = 0; i < PLACES; i++) {
            next[i] = (i * 1_664_525 + 1_013_904_223) & (PLACES - 1);
        }
        return next;
    }
}

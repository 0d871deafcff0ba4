package rafter.benchmarks;

import java.util.Arrays;
import java.util.Collection;

/** How long something took, each time it was done, in milliseconds. */
final class Millis {

    private final double[] sorted;

    Millis(double... each) {
        this.sorted = each.clone();
        Arrays.sort(sorted);
    }

    static Millis of(Collection<Double> each) {
        return new Millis(each.stream().mapToDouble(one -> one).toArray());
    }

    int times() {
        return sorted.length;
    }

    double p50() {
        return sorted[sorted.length / 2];
    }

    double p95() {
        return sorted[sorted.length * 95 / 100];
    }

    double most() {
        return sorted[sorted.length - 1];
    }
}

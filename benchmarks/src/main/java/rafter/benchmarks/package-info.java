/** Measures the figures of {@code docs/performance.md}. */
@NullMarked
package rafter.benchmarks;

import org.jspecify.annotations.NullMarked;

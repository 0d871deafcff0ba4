package rafter.benchmarks;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** Working time over a calendar of ten years, at random instants. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.NANOSECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
public class WorkingTimeBenchmark {

    private static final int SAMPLES = 4096;

    private final WorkingTime hours = WorkingTime.of(
            WorkCalendar.weekly(
                    "Office",
                    ZoneId.of("Europe/Oslo"),
                    LocalTime.of(8, 0),
                    LocalTime.of(17, 0),
                    DayOfWeek.MONDAY,
                    DayOfWeek.TUESDAY,
                    DayOfWeek.WEDNESDAY,
                    DayOfWeek.THURSDAY,
                    DayOfWeek.FRIDAY),
            new WorkingTime.Span(LocalDate.of(2020, 1, 1), LocalDate.of(2030, 1, 1)));
    private final Instant[] instants = new Instant[SAMPLES];
    private final Duration[] amounts = new Duration[SAMPLES];
    private int next;

    @Setup
    public void prepare() {
        var random = new Random(1);
        Instant start = Instant.parse("2020-06-01T00:00:00Z");
        for (int i = 0; i < SAMPLES; i++) {
            instants[i] = start.plusSeconds(random.nextInt(280_000_000));
            amounts[i] = Duration.ofMinutes(random.nextInt(10_000));
        }
    }

    @Benchmark
    public Optional<Instant> add() {
        int i = next++ & SAMPLES - 1;
        return hours.add(instants[i], amounts[i]);
    }

    @Benchmark
    public Duration between() {
        int i = next++ & SAMPLES - 1;
        return hours.between(instants[i], instants[i + 7 & SAMPLES - 1]);
    }
}

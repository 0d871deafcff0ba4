package rafter.app.promises.targets;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import rafter.core.json.StrictJson;
import rafter.core.target.ClockOutline;
import rafter.core.target.Objective;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;

/** How the outline of a clock is kept with its ticket: in one letter a field, for there is one in every row. */
public final class Outlines {

    private static final JsonMapper JSON = StrictJson.mapper(new SimpleModule());

    /**
     * The kept form.
     *
     * @param o the objective
     * @param p the policy's key
     * @param a the instant up to which it is told, in milliseconds
     * @param r whether it runs
     * @param d when it is due, and k when it comes to be at risk, in milliseconds; empty or one
     * @param u the time used, in milliseconds
     * @param w the time allowed, in milliseconds
     * @param l whether it is late
     * @param s the parts in turns, in milliseconds; those that did not count are negative
     */
    private record Kept(
            String o,
            String p,
            long a,
            boolean r,
            List<Long> d,
            List<Long> k,
            long u,
            long w,
            boolean l,
            List<Long> s) {}

    private Outlines() {}

    /** The kept form of an outline; times lose what is less than a millisecond. */
    public static @Nullable JSONB write(Optional<ClockOutline> outline) {
        return outline.map(one -> JSONB.valueOf(JSON.writeValueAsString(new Kept(
                        one.objective().name(),
                        one.policy(),
                        one.asOf().toEpochMilli(),
                        one.running(),
                        millis(one.due()),
                        millis(one.riskFrom()),
                        one.used().toMillis(),
                        one.allowed().toMillis(),
                        one.late(),
                        one.parts().stream()
                                .map(part -> part.counts()
                                        ? part.working().toMillis()
                                        : -Math.max(1, part.working().toMillis()))
                                .toList()))))
                .orElse(null);
    }

    private static List<Long> millis(Optional<Instant> at) {
        return at.map(one -> List.of(one.toEpochMilli())).orElse(List.of());
    }

    /** Reads what {@link #write} wrote. */
    public static Optional<ClockOutline> read(@Nullable JSONB kept) {
        return Optional.ofNullable(kept).map(json -> read(JSON.readValue(json.data(), Kept.class)));
    }

    private static ClockOutline read(Kept kept) {
        var parts = new ArrayList<ClockOutline.Part>();
        kept.s().forEach(part -> parts.add(new ClockOutline.Part(part >= 0, Duration.ofMillis(Math.abs(part)))));
        return new ClockOutline(
                Objective.valueOf(kept.o()),
                kept.p(),
                Instant.ofEpochMilli(kept.a()),
                kept.r(),
                instant(kept.d()),
                instant(kept.k()),
                Duration.ofMillis(kept.u()),
                Duration.ofMillis(kept.w()),
                kept.l(),
                parts);
    }

    private static Optional<Instant> instant(List<Long> millis) {
        return millis.stream().findFirst().map(Instant::ofEpochMilli);
    }
}

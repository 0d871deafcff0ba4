package rafter.core.target;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.time.Duration;
import java.util.List;
import rafter.core.ticket.Act;

/**
 * Something that happens at a moment of a clock, to keep a promise or to make good for a missed one.
 *
 * @param id names the step within its policy; it fires once a clock
 * @param acts what is done then
 */
public record Step(String id, Objective objective, When when, List<Act.Automatic> acts) {

    public Step {
        acts = List.copyOf(acts);
    }

    /** The moment, told from the due instant. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "when")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = When.Before.class, name = "before"),
        @JsonSubTypes.Type(value = When.Used.class, name = "used"),
        @JsonSubTypes.Type(value = When.After.class, name = "after")
    })
    public sealed interface When {
        /** When so much working time is left. */
        record Before(Duration left) implements When {}

        /** When this share of the time allowed is used. */
        record Used(int percent) implements When {}

        /** When it has been late for so much working time; zero: at the due instant. */
        record After(Duration late) implements When {}
    }

    /** How much working time must have been used for the moment to come. */
    public Duration usedAt(Duration allowed) {
        return switch (when) {
            case When.Before(Duration left) -> left.compareTo(allowed) >= 0 ? Duration.ZERO : allowed.minus(left);
            case When.Used(int percent) -> allowed.multipliedBy(percent).dividedBy(100);
            case When.After(Duration late) -> allowed.plus(late);
        };
    }
}

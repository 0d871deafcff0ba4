package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which expert from outside. */
public record ExpertId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public ExpertId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which team. */
public record TeamId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public TeamId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which person of ours. */
public record PersonId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public PersonId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

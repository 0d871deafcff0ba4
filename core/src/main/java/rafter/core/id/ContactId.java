package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which contact: somebody who writes to us. */
public record ContactId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public ContactId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

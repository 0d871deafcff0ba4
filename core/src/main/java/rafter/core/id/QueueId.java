package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which queue. */
public record QueueId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public QueueId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

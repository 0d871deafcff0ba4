package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which entry of a conversation: a message, a note or a bounce; entries are numbered in the order in which they are kept. */
public record MessageId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public MessageId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

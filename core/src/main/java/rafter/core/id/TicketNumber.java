package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** The number of a ticket, as people say it. */
public record TicketNumber(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public TicketNumber {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

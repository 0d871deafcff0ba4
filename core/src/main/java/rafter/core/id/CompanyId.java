package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which company. */
public record CompanyId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public CompanyId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

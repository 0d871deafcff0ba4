package rafter.core.id;

import com.fasterxml.jackson.annotation.JsonCreator;

/** Which skill. */
public record SkillId(long value) implements Id {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public SkillId {}

    @Override
    public String toString() {
        return Long.toString(value);
    }
}

package rafter.core.ticket;

import org.jspecify.annotations.Nullable;
import rafter.core.json.StrictJson;
import tools.jackson.core.JacksonException;
import tools.jackson.core.exc.StreamReadException;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;

/** Acts as JSON, for keeping. */
public final class ActJson {

    private static final JsonMapper JSON = StrictJson.mapper(new SimpleModule());

    private ActJson() {}

    public static String write(Act act) {
        return JSON.writerFor(Act.class).writeValueAsString(act);
    }

    /**
     * Reads an act.
     *
     * @throws JacksonException when it is none
     */
    public static Act read(String json) {
        return there(JSON.readValue(json, Act.class));
    }

    public static String write(Decision.Undo undo) {
        return JSON.writeValueAsString(undo);
    }

    /**
     * Reads what takes an act back.
     *
     * @throws JacksonException when it is none
     */
    public static Decision.Undo readUndo(String json) {
        return there(JSON.readValue(json, Decision.Undo.class));
    }

    /** The word "null" is JSON, and yet nothing. */
    private static <T> T there(@Nullable T read) {
        if (read == null) {
            throw new StreamReadException("there is nothing");
        }
        return read;
    }
}

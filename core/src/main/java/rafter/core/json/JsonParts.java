package rafter.core.json;

import java.util.List;
import tools.jackson.databind.JsonNode;

/** Parts of JSON of which each has to be there, and of its own sort. */
public final class JsonParts {

    private JsonParts() {}

    /**
     * The parts of a list.
     *
     * @throws Unreadable when it is none
     */
    public static List<JsonNode> list(JsonNode node, String name) {
        JsonNode list = node.path(name);
        if (!list.isArray()) {
            throw new Unreadable("“" + name + "” is a list.");
        }
        return list.valueStream().toList();
    }

    /**
     * A text.
     *
     * @throws Unreadable when it is none
     */
    public static String text(JsonNode node, String name) {
        JsonNode text = node.path(name);
        if (!text.isString()) {
            throw new Unreadable("“" + name + "” is missing, or no text.");
        }
        return text.asString();
    }

    /**
     * A yes or no.
     *
     * @throws Unreadable when it is neither
     */
    public static boolean bool(JsonNode node, String name) {
        JsonNode said = node.path(name);
        if (!said.isBoolean()) {
            throw new Unreadable("“" + name + "” is true or false.");
        }
        return said.asBoolean();
    }

    /**
     * A whole number.
     *
     * @throws Unreadable when it is none
     */
    public static int number(JsonNode node, String name) {
        JsonNode said = node.path(name);
        if (!said.isInt()) {
            throw new Unreadable("“" + name + "” is a whole number.");
        }
        return said.asInt();
    }
}

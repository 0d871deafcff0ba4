package rafter.core.criteria;

import java.util.ArrayList;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Criteria as JSON: {@code {"version": 1, "all": [{"field": "plan", "is": ["Anchor"]}]}}. A reader of a later version refuses what it
 * does not know rather than guess.
 */
public final class CriteriaJson {

    private static final int VERSION = 1;
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private CriteriaJson() {}

    /** Thrown for JSON that is no criteria; the message says what is wrong. */
    public static final class Unreadable extends IllegalArgumentException {
        Unreadable(String message) {
            super(message);
        }
    }

    /** Writes criteria. */
    public static String write(Criteria criteria) {
        return tree(criteria).put("version", VERSION).toString();
    }

    /**
     * Reads criteria.
     *
     * @throws Unreadable when it is none
     */
    public static Criteria read(String json) {
        try {
            return read(MAPPER.readTree(json));
        } catch (JacksonException e) {
            throw new Unreadable("That is not JSON: " + e.getOriginalMessage());
        }
    }

    /**
     * Reads criteria from a part of a larger document.
     *
     * @throws Unreadable when it is none
     */
    public static Criteria read(JsonNode node) {
        int version = node.path("version").asInt(VERSION);
        if (version != VERSION) {
            throw new Unreadable("Criteria of version " + version + " cannot be read by this version of Rafter.");
        }
        return part(node, 0);
    }

    /** Writes criteria as a part of a larger document. */
    public static ObjectNode tree(Criteria criteria) {
        ObjectNode node = MAPPER.createObjectNode();
        switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts(node, "all", parts);
            case Criteria.Any(List<Criteria> parts) -> parts(node, "any", parts);
            case Criteria.Not(Criteria part) -> node.set("not", tree(part));
            case Criteria.Test test -> {
                node.put("field", test.field().key());
                var values = node.putArray(test.operator().key());
                test.values().forEach(values::add);
            }
        }
        return node;
    }

    private static void parts(ObjectNode node, String name, List<Criteria> parts) {
        var array = node.putArray(name);
        parts.forEach(part -> array.add(tree(part)));
    }

    private static Criteria part(JsonNode node, int depth) {
        if (depth > Criteria.DEEPEST) {
            throw new Unreadable("The criteria are nested more than " + Criteria.DEEPEST + " deep.");
        }
        if (node.has("all")) {
            return new Criteria.All(parts(node.get("all"), depth));
        }
        if (node.has("any")) {
            return new Criteria.Any(parts(node.get("any"), depth));
        }
        if (node.has("not")) {
            return new Criteria.Not(part(node.get("not"), depth + 1));
        }
        return test(node);
    }

    private static List<Criteria> parts(JsonNode array, int depth) {
        var parts = new ArrayList<Criteria>();
        array.forEach(part -> parts.add(part(part, depth + 1)));
        return parts;
    }

    private static Criteria test(JsonNode node) {
        String name = node.path("field").asString("");
        Field field = Field.of(name).orElseThrow(() -> new Unreadable("There is no field “" + name + "”."));
        for (Operator operator : field.type().operators()) {
            if (node.has(operator.key())) {
                var values = new ArrayList<String>();
                node.get(operator.key()).forEach(value -> values.add(value.asString()));
                return new Criteria.Test(field, operator, values);
            }
        }
        throw new Unreadable("Nothing that can be asked about " + field.words() + " stands beside it.");
    }
}

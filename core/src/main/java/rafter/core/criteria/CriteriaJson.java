package rafter.core.criteria;

import java.util.ArrayList;
import java.util.List;
import rafter.core.json.Unreadable;
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
        if (node.has("version")
                && (!node.get("version").isInt() || node.get("version").asInt() != VERSION)) {
            throw new Unreadable(
                    "Criteria of version " + node.get("version") + " cannot be read by this version of Rafter.");
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
            case Criteria.Expert(Formula formula) -> node.put("formula", formula.text());
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
        if (!node.isObject()) {
            throw new Unreadable(
                    "Criteria are an object with “all”, “any”, “not” or “field”, and not " + shortened(node) + ".");
        }
        if (node.has("all")) {
            return new Criteria.All(parts(only(node, "all"), "all", depth));
        }
        if (node.has("any")) {
            return new Criteria.Any(parts(only(node, "any"), "any", depth));
        }
        if (node.has("not")) {
            return new Criteria.Not(part(only(node, "not"), depth + 1));
        }
        if (node.has("formula")) {
            JsonNode text = only(node, "formula");
            if (!text.isString()) {
                throw new Unreadable("A formula is text, and not " + shortened(text) + ".");
            }
            return new Criteria.Expert(Formula.of(text.asString()));
        }
        return test(node);
    }

    /** The value of a name beside which nothing else may stand, for nobody could say what it means. */
    private static JsonNode only(JsonNode node, String name) {
        for (String other : node.propertyNames()) {
            if (!other.equals(name) && !other.equals("version")) {
                throw new Unreadable("“" + other + "” is not known beside “" + name + "”.");
            }
        }
        return node.get(name);
    }

    private static List<Criteria> parts(JsonNode array, String name, int depth) {
        if (!array.isArray()) {
            throw new Unreadable("“" + name + "” is a list of criteria, and not " + shortened(array) + ".");
        }
        var parts = new ArrayList<Criteria>();
        array.forEach(part -> parts.add(part(part, depth + 1)));
        return parts;
    }

    private static Criteria test(JsonNode node) {
        String name = node.path("field").isString() ? node.path("field").asString() : "";
        Field field = Field.of(name).orElseThrow(() -> new Unreadable("There is no field “" + name + "”."));
        var asked = new ArrayList<String>();
        for (String key : node.propertyNames()) {
            if (!key.equals("field") && !key.equals("version")) {
                asked.add(key);
            }
        }
        if (asked.size() != 1) {
            throw new Unreadable("One thing is asked about " + field.words() + ", and not " + asked.size() + ".");
        }
        Operator operator = Operator.of(asked.getFirst())
                .filter(field.type().operators()::contains)
                .orElseThrow(() ->
                        new Unreadable("“" + asked.getFirst() + "” cannot be asked about " + field.words() + "."));
        return new Criteria.Test(field, operator, values(node.get(operator.key()), field));
    }

    private static List<String> values(JsonNode array, Field field) {
        if (!array.isArray()) {
            throw new Unreadable(
                    "What " + field.words() + " is compared with is a list, and not " + shortened(array) + ".");
        }
        var values = new ArrayList<String>();
        array.forEach(value -> {
            if (!value.isString()) {
                throw new Unreadable(
                        "What " + field.words() + " is compared with is text, and not " + shortened(value) + ".");
            }
            values.add(value.asString());
        });
        return values;
    }

    private static String shortened(JsonNode node) {
        String text = node.toString();
        return text.length() > 40 ? text.substring(0, 40) + "…" : text;
    }
}

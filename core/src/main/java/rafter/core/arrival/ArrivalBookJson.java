package rafter.core.arrival;

import java.util.List;
import rafter.core.criteria.CriteriaJson;
import rafter.core.json.JsonParts;
import rafter.core.json.Unreadable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** What decides about arriving mail as JSON, for keeping. A reader refuses what it does not know rather than guess. */
public final class ArrivalBookJson {

    private static final int VERSION = 1;
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private ArrivalBookJson() {}

    /** Writes a book. */
    public static String write(ArrivalBook book) {
        ObjectNode node = MAPPER.createObjectNode()
                .put("arrival", VERSION)
                .put("junk", book.junk())
                .put("threshold", book.threshold());
        var rules = node.putArray("rules");
        for (ArrivalRule rule : book.rules()) {
            ObjectNode one = rules.addObject()
                    .put("id", rule.id())
                    .put("name", rule.name())
                    .put("on", rule.on())
                    .put("then", rule.then().key());
            one.set("criteria", CriteriaJson.tree(rule.criteria()));
        }
        return node.toString();
    }

    /**
     * Reads a book.
     *
     * @throws Unreadable when it is none
     */
    public static ArrivalBook read(String json) {
        JsonNode node;
        try {
            node = MAPPER.readTree(json);
        } catch (JacksonException e) {
            throw new Unreadable("That is not JSON: " + e.getOriginalMessage());
        }
        if (JsonParts.number(node, "arrival") != VERSION) {
            throw new Unreadable("Rules of arriving mail of version " + node.path("arrival")
                    + " cannot be read by this version of Rafter.");
        }
        List<ArrivalRule> rules = JsonParts.list(node, "rules").stream()
                .map(ArrivalBookJson::rule)
                .toList();
        return new ArrivalBook(rules, JsonParts.bool(node, "junk"), JsonParts.number(node, "threshold"));
    }

    private static ArrivalRule rule(JsonNode node) {
        String then = JsonParts.text(node, "then");
        return new ArrivalRule(
                JsonParts.text(node, "id"),
                JsonParts.text(node, "name"),
                JsonParts.bool(node, "on"),
                CriteriaJson.read(node.path("criteria")),
                Admission.of(then)
                        .orElseThrow(() -> new Unreadable("“" + then + "” is nothing that can become of a mail.")));
    }
}

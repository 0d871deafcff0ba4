package rafter.core.rule;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.Optional;
import java.util.TreeMap;
import rafter.core.criteria.CriteriaJson;
import rafter.core.json.JsonParts;
import rafter.core.json.Unreadable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A book of rules as JSON, for keeping and for taking it elsewhere. A reader refuses what it does not know rather than guess. */
public final class RuleBookJson {

    private static final int VERSION = 1;
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private RuleBookJson() {}

    /** Writes a book. */
    public static String write(RuleBook book) {
        ObjectNode node = MAPPER.createObjectNode().put("rulebook", VERSION);
        var sections = node.putArray("sections");
        for (RuleBook.Section section : book.sections()) {
            ObjectNode one = sections.addObject().put("id", section.id()).put("name", section.name());
            var rules = one.putArray("rules");
            section.rules().forEach(rule -> rules.add(tree(rule)));
        }
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(node);
    }

    private static ObjectNode tree(Rule rule) {
        ObjectNode node = MAPPER.createObjectNode()
                .put("id", rule.id())
                .put("name", rule.name())
                .put("description", rule.description())
                .put("on", rule.on())
                .put("since", rule.since().toString())
                .put("carriesOn", rule.carriesOn());
        node.set("occasion", tree(rule.occasion()));
        node.set("criteria", CriteriaJson.tree(rule.criteria()));
        var deeds = node.putArray("deeds");
        for (Deed deed : rule.deeds()) {
            ObjectNode one = deeds.addObject().put("do", deed.form());
            new TreeMap<>(deed.typed()).forEach(one::put);
        }
        return node;
    }

    private static ObjectNode tree(Occasion occasion) {
        ObjectNode node = MAPPER.createObjectNode();
        switch (occasion) {
            case Occasion.Arrival arrival -> node.put("when", "arrival");
            case Occasion.Change change -> {
                node.put("when", "change");
                var of = node.putArray("of");
                change.of().stream().sorted().forEach(one -> of.add(one.key()));
                node.put("about", change.about());
            }
            case Occasion.Clock clock -> {
                node.put("when", "clock").put("moment", clock.moment().key());
                node.put("span", clock.span().toString()).put("working", clock.working());
                node.put("times", clock.times()).put("again", clock.again().toString());
            }
        }
        return node;
    }

    /**
     * Reads a book.
     *
     * @throws Unreadable when it is none
     */
    public static RuleBook read(String json) {
        JsonNode node;
        try {
            node = MAPPER.readTree(json);
        } catch (JacksonException e) {
            throw new Unreadable("That is not JSON: " + e.getOriginalMessage());
        }
        if (!node.path("rulebook").isInt()) {
            throw new Unreadable("That is no rulebook; it begins with { \"rulebook\": 1 }.");
        }
        if (node.path("rulebook").asInt() != VERSION) {
            throw new Unreadable(
                    "A rulebook of version " + node.path("rulebook") + " cannot be read by this version of Rafter.");
        }
        var ids = new HashSet<String>();
        var sections = new ArrayList<RuleBook.Section>();
        for (JsonNode one : JsonParts.list(node, "sections")) {
            var rules = new ArrayList<Rule>();
            JsonParts.list(one, "rules").forEach(rule -> rules.add(rule(rule)));
            sections.add(new RuleBook.Section(id(one), JsonParts.text(one, "name"), rules));
            rules.stream().map(Rule::id).filter(id -> !ids.add(id)).findFirst().ifPresent(id -> {
                throw new Unreadable("Two rules have the id “" + id + "”.");
            });
        }
        return new RuleBook(sections);
    }

    private static Rule rule(JsonNode node) {
        String name = JsonParts.text(node, "name");
        try {
            var deeds = new ArrayList<Deed>();
            JsonParts.list(node, "deeds").forEach(one -> deeds.add(deed(one)));
            return new Rule(
                    id(node),
                    name,
                    JsonParts.text(node, "description"),
                    JsonParts.bool(node, "on"),
                    occasion(node.path("occasion")),
                    CriteriaJson.read(node.path("criteria")),
                    deeds,
                    JsonParts.bool(node, "carriesOn"),
                    instant(JsonParts.text(node, "since")));
        } catch (Unreadable e) {
            throw new Unreadable("The rule “" + name + "” cannot be read. " + e.getMessage());
        }
    }

    /** It stands in addresses of pages. */
    private static String id(JsonNode node) {
        String id = JsonParts.text(node, "id");
        if (!id.matches("[A-Za-z0-9][A-Za-z0-9_-]{0,79}")) {
            throw new Unreadable("The id “" + id + "” has other signs than letters, digits, - and _, or too many.");
        }
        return id;
    }

    private static Deed deed(JsonNode node) {
        var typed = new TreeMap<String, String>();
        node.propertyStream()
                .filter(one -> !one.getKey().equals("do"))
                .forEach(one -> typed.put(one.getKey(), one.getValue().asString("")));
        Deed deed = new Deed(JsonParts.text(node, "do"), typed);
        if (!deed.known()) {
            throw new Unreadable("“" + deed.form() + "” is nothing that a rule can do.");
        }
        return deed;
    }

    private static Occasion occasion(JsonNode node) {
        return switch (JsonParts.text(node, "when")) {
            case "arrival" -> new Occasion.Arrival();
            case "change" -> {
                var of = new HashSet<Happening>();
                JsonParts.list(node, "of").forEach(one -> of.add(known(Happening.of(one.asString("")), one)));
                yield new Occasion.Change(of, JsonParts.text(node, "about"));
            }
            case "clock" ->
                new Occasion.Clock(
                        known(Moment.of(JsonParts.text(node, "moment")), node.path("moment")),
                        duration(JsonParts.text(node, "span")),
                        JsonParts.bool(node, "working"),
                        node.path("times").asInt(1),
                        duration(JsonParts.text(node, "again")));
            default ->
                throw new Unreadable(
                        "It is read on “arrival”, “change” or “clock”, and not on " + node.path("when") + ".");
        };
    }

    private static <T> T known(Optional<T> one, JsonNode said) {
        return one.orElseThrow(() -> new Unreadable(said + " is not known."));
    }

    private static Duration duration(String text) {
        try {
            return Duration.parse(text);
        } catch (DateTimeException e) {
            throw new Unreadable("“" + text + "” is no length of time such as PT4H.");
        }
    }

    private static Instant instant(String text) {
        try {
            return Instant.parse(text);
        } catch (DateTimeException e) {
            throw new Unreadable("“" + text + "” is no time such as 2027-03-01T08:00:00Z.");
        }
    }
}

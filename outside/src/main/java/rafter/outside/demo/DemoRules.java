package rafter.outside.demo;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationContext;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.tickets.rules.RuleDesk;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Field;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;

/** The rules of the demo world; one can never be reached, one never matches, and one looks for a word that tickets write otherwise. */
final class DemoRules {

    private static final Occasion ARRIVAL = new Occasion.Arrival();

    private final Map<String, TeamId> teams;

    private DemoRules(Map<String, TeamId> teams) {
        this.teams = teams;
    }

    static void putIntoForce(ApplicationContext context, PersonId ravi) {
        Map<String, TeamId> teams =
                context.getBean(Persons.class).teams().stream().collect(Collectors.toMap(Team::name, Team::id));
        context.getBean(RuleDesk.class).putIntoForce(new DemoRules(teams).book(), ravi);
    }

    private RuleBook book() {
        return new RuleBook(List.of(
                new RuleBook.Section("sort", "Sort what arrives", sorting()),
                new RuleBook.Section("raise", "Raise what is urgent", raising()),
                new RuleBook.Section("chase", "Chase what stalls", chasing())));
    }

    private List<Rule> sorting() {
        return List.of(
                rule(
                        "Tide notices",
                        "The harbour sends one each morning; nobody has to read it.",
                        ARRIVAL,
                        all(is(KnownField.SUBJECT, Operator.BEGINS_WITH, "Tide notice")),
                        false,
                        deed("close")),
                rule(
                        "Lost property",
                        "What was left on board goes to the counter at once.",
                        ARRIVAL,
                        any(
                                is(
                                        KnownField.SUBJECT,
                                        Operator.HAS_ANY,
                                        "lost",
                                        "left on board",
                                        "left behind",
                                        "umbrella"),
                                is(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "I left a", "daughter left her")),
                        false,
                        deed("team", "team", team("Lost property")),
                        deed("topic", "topic", "lost items"),
                        deed("tag", "tag", "lost")),
                rule(
                        "Key customers who lost something",
                        "Anchor customers are looked after by their own team.",
                        ARRIVAL,
                        all(
                                is(KnownField.PLAN, Operator.IS, "Anchor"),
                                is(KnownField.SUBJECT, Operator.HAS_ANY, "lost")),
                        false,
                        deed("priority", "priority", "P1"),
                        deed("team", "team", team("Key accounts"))),
                rule(
                        "Freight",
                        "Trailers and slots are the freight desk’s, wherever they were sent.",
                        ARRIVAL,
                        all(is(KnownField.SUBJECT, Operator.HAS_FORM, "freight", "trailer", "slot", "refrigerated")),
                        false,
                        deed("team", "team", team("Freight desk")),
                        deed("topic", "topic", "freight slots")),
                rule(
                        "Invoices",
                        "What was paid and what was billed is one topic.",
                        ARRIVAL,
                        all(is(KnownField.SUBJECT, Operator.HAS_FORM, "invoice", "charged")),
                        true,
                        deed("topic", "topic", "billing"),
                        deed("tag", "tag", "invoice")),
                rule(
                        "Season passes",
                        "Pass, gate and ticket machine are one topic.",
                        ARRIVAL,
                        all(is(KnownField.SUBJECT, Operator.HAS_ANY, "pass", "season pass")),
                        true,
                        deed("topic", "topic", "passes")),
                rule(
                        "School groups",
                        "Groups with pupils need their lunch and their coach.",
                        ARRIVAL,
                        all(is(KnownField.FIRST_MESSAGE, Operator.HAS_ANY, "pupil")),
                        true,
                        deed("tag", "tag", "school"),
                        deed("task", "task", "Ask the galley about lunch", "by", "1 d")),
                rule(
                        "Travel agencies",
                        "Agencies write on behalf of others.",
                        ARRIVAL,
                        all(is(KnownField.CONTACT_ADDRESS, Operator.ENDS_WITH, "@quaysidetravel.example")),
                        true,
                        deed("tag", "tag", "agency")));
    }

    private List<Rule> raising() {
        return List.of(
                rule(
                        "Anchor customers come first",
                        "Their contract says so.",
                        ARRIVAL,
                        all(
                                is(KnownField.PLAN, Operator.IS, "Anchor"),
                                new Criteria.Not(is(KnownField.PRIORITY, Operator.AT_LEAST, "P2"))),
                        true,
                        deed("priority", "priority", "P2")),
                rule(
                        "Somebody waits at the quay",
                        "Boarding help cannot wait until tomorrow.",
                        ARRIVAL,
                        all(is(KnownField.SUBJECT, Operator.HAS_ANY, "wheelchair", "stranded")),
                        true,
                        deed("priority", "priority", "P1"),
                        deed("notify", "whom", "LEAD", "text", "{customer} needs help to board: {subject}")),
                rule(
                        "Writes for the third time",
                        "Whoever has to ask again and again is looked at by a lead.",
                        new Occasion.Change(Set.of(Happening.CUSTOMER_WROTE), ""),
                        all(is(KnownField.CUSTOMER_MESSAGES, Operator.AT_LEAST, "3")),
                        true,
                        deed("tag", "tag", "asked again")),
                rule(
                        "A poor rating",
                        "A lead reads each of them.",
                        new Occasion.Change(Set.of(Happening.RATED), ""),
                        all(is(KnownField.RATING, Operator.IS, "POOR")),
                        true,
                        deed(
                                "notify",
                                "whom",
                                "LEAD",
                                "text",
                                "{customer} was not helped well on {ticket}: {subject}")));
    }

    private List<Rule> chasing() {
        return List.of(
                rule(
                        "Nobody owns it and it is nearly due",
                        "The lead of its team hands it out.",
                        new Occasion.Clock(Moment.DUE, Duration.ofMinutes(30), true, 1, Duration.ZERO),
                        all(is(KnownField.OWNER, Operator.IS_EMPTY)),
                        true,
                        deed(
                                "notify",
                                "whom",
                                "LEAD",
                                "text",
                                "Nobody owns {ticket} yet, and it is nearly due: {subject}")),
                rule(
                        "A partner is silent",
                        "Partners answer faster when they are rung.",
                        new Occasion.Clock(Moment.TURN, Duration.ofHours(8), true, 2, Duration.ofHours(8)),
                        all(is(KnownField.TURN, Operator.IS, "PARTNER")),
                        true,
                        deed(
                                "notify",
                                "whom",
                                "OWNER",
                                "text",
                                "The partner on {ticket} has not answered. Ring them: {subject}")),
                rule(
                        "A customer is silent",
                        "After five days we look whether anything is left to do.",
                        new Occasion.Clock(Moment.US, Duration.ofDays(5), false, 1, Duration.ZERO),
                        all(is(KnownField.TURN, Operator.IS, "CUSTOMER")),
                        true,
                        deed("tag", "tag", "silent"),
                        deed("notify", "whom", "OWNER", "text", "{customer} has been silent for five days: {subject}")),
                rule(
                                "Did that help?",
                                "A draft: should we ask before we resolve?",
                                new Occasion.Clock(Moment.US, Duration.ofDays(7), false, 1, Duration.ZERO),
                                all(is(KnownField.TURN, Operator.IS, "CUSTOMER")),
                                true,
                                deed(
                                        "mail",
                                        "text",
                                        "Hello {first name},\n\ndid our last answer help? If we hear nothing, we take it that it did.\n\n{workspace}"))
                        .on(false));
    }

    private String team(String name) {
        TeamId id = teams.get(name);
        if (id == null) {
            throw new IllegalStateException("no team " + name);
        }
        return id.toString();
    }

    private static Criteria.Test is(Field field, Operator operator, String... values) {
        return Criteria.test(field, operator, values);
    }

    private static Criteria all(Criteria... parts) {
        return new Criteria.All(List.of(parts));
    }

    private static Criteria any(Criteria... parts) {
        return new Criteria.Any(List.of(parts));
    }

    private static Deed deed(String form, String... typed) {
        var map = new java.util.TreeMap<String, String>();
        for (int i = 0; i < typed.length; i += 2) {
            map.put(typed[i], typed[i + 1]);
        }
        return new Deed(form, map);
    }

    private static Rule rule(
            String name, String description, Occasion occasion, Criteria criteria, boolean carriesOn, Deed... deeds) {
        String id = "rule-" + name.toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z]+", "-");
        return new Rule(id, name, description, true, occasion, criteria, List.of(deeds), carriesOn, Instant.EPOCH);
    }
}

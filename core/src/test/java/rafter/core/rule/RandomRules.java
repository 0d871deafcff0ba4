package rafter.core.rule;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.Formula;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;

/** Criteria, facts and books as they might be, from a seed; about few fields and few values, so that they meet. */
final class RandomRules {

    static final Instant NOW = Instant.parse("2027-03-01T09:00:00Z");
    static final Asking NOBODY = Asking.ofNobody(NOW);

    private static final OwnField METRES = new OwnField(7, OwnField.Kind.NUMBER);
    private static final OwnField DAY = new OwnField(8, OwnField.Kind.DATE);
    private static final Map<Field, List<String>> ASKED = Map.of(
            KnownField.TOPIC,
            List.of("billing", "lost", "freight"),
            KnownField.PRIORITY,
            List.of("P1", "P2", "P3"),
            KnownField.TAGS,
            List.of("urgent", "vip", "pet"),
            KnownField.SUBJECT,
            List.of("lost", "lost bag", "bag", "bags", "a lost bag"),
            KnownField.CONTACT_ADDRESS,
            List.of("ada@x.example", "ada", "x.example"),
            KnownField.AGE,
            List.of("1 h", "4 h", "2 d"),
            KnownField.NEXT_TARGET,
            List.of("30 m", "4 h"),
            METRES,
            List.of("1", "2", "10"),
            DAY,
            List.of("2027-03-01", "2027-03-02"));
    private static final List<Field> FIELDS =
            ASKED.keySet().stream().sorted((a, b) -> a.key().compareTo(b.key())).toList();
    private static final List<String> SUBJECTS =
            List.of("Lost bag", "A lost bag of mine", "Bags", "bag lost", "Nothing", "The lost, the bag", "");

    private RandomRules() {}

    static Criteria criteria(Random random, int depth) {
        int kind = depth == 0 ? 0 : random.nextInt(6);
        return switch (kind) {
            case 3 -> new Criteria.All(parts(random, depth));
            case 4 -> new Criteria.Any(parts(random, depth));
            case 5 -> new Criteria.Not(criteria(random, depth - 1));
            default -> random.nextInt(20) == 0 ? formula(random) : test(random);
        };
    }

    private static Criteria formula(Random random) {
        return new Criteria.Expert(Formula.of(random.nextBoolean() ? "priority <= 2" : "tags.size() > 1"));
    }

    private static List<Criteria> parts(Random random, int depth) {
        return IntStream.range(0, random.nextInt(4))
                .mapToObj(i -> criteria(random, depth - 1))
                .toList();
    }

    private static Criteria test(Random random) {
        Field field = FIELDS.get(random.nextInt(FIELDS.size()));
        List<Operator> operators = field.type().operators();
        Operator operator = operators.get(random.nextInt(operators.size()));
        var values = new ArrayList<String>();
        for (int i = 0; operator.wantsValues() && i <= random.nextInt(3); i++) {
            List<String> some = ASKED.get(field);
            values.add(some.get(random.nextInt(some.size())));
        }
        return new Criteria.Test(field, operator, values);
    }

    static Facts facts(Random random) {
        Facts facts = Facts.none()
                .with(KnownField.PRIORITY, "P" + (1 + random.nextInt(4)))
                .with(KnownField.SUBJECT, SUBJECTS.get(random.nextInt(SUBJECTS.size())))
                .with(KnownField.AGE, new Fact.Since(NOW.minus(amount(random))));
        facts = random.nextBoolean() ? facts.with(KnownField.TOPIC, pick(random, "billing", "lost", "other")) : facts;
        facts = random.nextBoolean() ? facts.with(METRES, pick(random, "0", "1", "1.5", "2", "11")) : facts;
        facts = random.nextBoolean()
                ? facts.with(DAY, pick(random, "2027-02-28", "2027-03-01", "2027-03-02", "2027-03-09"))
                : facts;
        facts = random.nextBoolean()
                ? facts.with(
                        KnownField.CONTACT_ADDRESS,
                        List.of(pick(random, "ada@x.example", "ada@y.example"), pick(random, "bo@x.example", "ada")))
                : facts;
        facts = facts.with(KnownField.TAGS, subset(random, "urgent", "vip", "pet", "slow"));
        return random.nextBoolean()
                ? facts.with(
                        KnownField.NEXT_TARGET,
                        new Fact.Ahead(
                                NOW.plus(amount(random)).minus(Duration.ofHours(2)),
                                random.nextBoolean()
                                        ? Optional.of(NOW.plusSeconds(random.nextInt(3) - 1))
                                        : Optional.empty()))
                : facts;
    }

    private static List<String> subset(Random random, String... values) {
        return List.of(values).stream().filter(value -> random.nextInt(3) == 0).toList();
    }

    private static Duration amount(Random random) {
        return Duration.ofMinutes(List.of(10, 59, 60, 61, 240, 241, 3_000).get(random.nextInt(7)));
    }

    private static String pick(Random random, String... values) {
        return values[random.nextInt(values.length)];
    }

    static boolean matches(Criteria criteria, Facts facts) {
        return rafter.core.criteria.Matching.matches(NOBODY.resolve(criteria), facts);
    }

    static Rule rule(String id, Criteria criteria, boolean carriesOn, Deed... deeds) {
        return new Rule(
                id,
                id,
                "For a test.",
                true,
                new Occasion.Arrival(),
                criteria,
                List.of(deeds),
                carriesOn,
                Instant.EPOCH);
    }

    static Deed tag(String tag) {
        return new Deed("tag", Map.of("tag", tag));
    }

    static RuleBook book(Rule... rules) {
        return new RuleBook(List.of(new RuleBook.Section("s", "All", List.of(rules))));
    }
}

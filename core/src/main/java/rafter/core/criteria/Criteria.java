package rafter.core.criteria;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;
import rafter.core.time.Amount;

/** A sentence that a ticket matches or not: tests, joined by all of, any of and not, to any depth. */
public sealed interface Criteria {

    /** Matches when all parts do; with no parts, always. */
    record All(List<Criteria> parts) implements Criteria {
        public All {
            parts = List.copyOf(parts);
        }
    }

    /** Matches when at least one part does; with no parts, never. */
    record Any(List<Criteria> parts) implements Criteria {
        public Any {
            parts = List.copyOf(parts);
        }
    }

    /** Matches when its part does not. */
    record Not(Criteria part) implements Criteria {}

    /**
     * One question about one field.
     *
     * @param operator one of those that the field's type has
     * @param values what it is compared with; choices by their key, words and texts as they are typed; several mean one of them
     */
    record Test(Field field, Operator operator, List<String> values) implements Criteria {
        public Test {
            values = List.copyOf(values);
        }
    }

    /** A question that only an expert's formula can ask. */
    record Expert(Formula formula) implements Criteria {}

    /** Matches every ticket. */
    static Criteria everything() {
        return new All(List.of());
    }

    /** A question about a field. */
    static Test test(Field field, Operator operator, String... values) {
        return new Test(field, operator, List.of(values));
    }

    /** What is wrong with it, in words; empty when it can be used. */
    static List<String> faults(Criteria criteria) {
        var faults = new ArrayList<String>();
        collect(criteria, faults, 0);
        return faults;
    }

    /** The fields that it asks about. */
    static Set<Field> asked(Criteria criteria) {
        var asked = new HashSet<Field>();
        collect(criteria, asked);
        return asked;
    }

    private static void collect(Criteria criteria, Set<Field> asked) {
        switch (criteria) {
            case All(List<Criteria> parts) -> parts.forEach(part -> collect(part, asked));
            case Any(List<Criteria> parts) -> parts.forEach(part -> collect(part, asked));
            case Not(Criteria part) -> collect(part, asked);
            case Test test -> asked.add(test.field());
            // Which of them it names, nobody looks for: a formula may name any.
            case Expert expert -> asked.addAll(KnownField.ofFormulas());
        }
    }

    /** Deeper than this nobody reads a sentence. */
    int DEEPEST = 8;

    private static void collect(Criteria criteria, List<String> faults, int depth) {
        if (depth > DEEPEST) {
            faults.add("It is nested more than " + DEEPEST + " deep.");
            return;
        }
        switch (criteria) {
            case All(List<Criteria> parts) -> parts.forEach(part -> collect(part, faults, depth + 1));
            case Any(List<Criteria> parts) -> {
                if (parts.isEmpty()) {
                    faults.add("An “any of” is empty and would match nothing.");
                }
                parts.forEach(part -> collect(part, faults, depth + 1));
            }
            case Not(Criteria part) -> collect(part, faults, depth + 1);
            case Test test -> check(test, faults);
            case Expert(Formula formula) -> formula.fault().ifPresent(faults::add);
        }
    }

    private static void check(Test test, List<String> faults) {
        if (!test.field().type().operators().contains(test.operator())) {
            faults.add("“" + test.field().words() + " " + test.operator().words() + "” cannot be asked.");
        }
        boolean amount = test.field().type().ofTime() && test.operator().wantsValues();
        if (amount) {
            unreadable(
                    test,
                    value -> Amount.read(value).isEmpty(),
                    "” is no length of time. Write it like 30 m, 4 h or 2 d.",
                    faults);
        }
        checkValues(test, faults);
        if (test.operator().wantsValues() && test.values().stream().allMatch(String::isBlank)) {
            faults.add("“" + test.field().words() + " " + test.operator().words() + " …” lacks what to compare with.");
        }
    }

    private static void checkValues(Test test, List<String> faults) {
        FieldType type = test.field().type();
        if (test.field() == KnownField.PRIORITY) {
            unreadable(
                    test,
                    value -> Priority.of(value).isEmpty(),
                    "” is no priority. They are P1, P2, P3 and P4.",
                    faults);
        }
        if (test.operator() == Operator.HAS_FORM) {
            unreadable(
                    test,
                    value -> Words.list(value).size() > Words.MOST_OF_A_PHRASE,
                    "” has too many words to look for in all their forms; at most " + Words.MOST_OF_A_PHRASE + ".",
                    faults);
        }
        if (type == FieldType.NUMBER) {
            unreadable(
                    test,
                    value -> OwnField.number(value).isEmpty(),
                    "” is no number. Write it like 12 or 0.5.",
                    faults);
        } else if (type == FieldType.DATE) {
            unreadable(
                    test, value -> OwnField.date(value).isEmpty(), "” is no date. Write it like 2027-03-01.", faults);
        }
    }

    private static void unreadable(Test test, Predicate<String> wrong, String words, List<String> faults) {
        test.values().stream().filter(wrong).forEach(value -> faults.add("“" + value + words));
    }
}

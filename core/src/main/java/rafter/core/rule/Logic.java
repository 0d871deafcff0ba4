package rafter.core.rule;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.Formula;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Operator;
import rafter.core.criteria.OwnField;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;
import rafter.core.time.Amount;

/**
 * Tells by logic alone whether any ticket whatever can match criteria. An analytic tableau (Smullyan, First-Order Logic, 1968): the
 * criteria are taken apart into alternatives, each a set of questions with their answers, and an alternative is given up as soon as the
 * answers about one field cannot stand together. For a field with an order or with choices a handful of values decide, for all others
 * are like one of them. What is said to be impossible is so for every ticket; what is said to be possible may not be. The cost is bounded by
 * {@value #MOST} alternatives; beyond that nothing is said.
 */
public final class Logic {

    /** What can be said. */
    public enum Answer {
        IMPOSSIBLE,
        POSSIBLE,
        /** It would take too long to find out. */
        UNKNOWN
    }

    private static final int MOST = 20_000;
    /** All forms of a phrase are considered up to so many of them. */
    private static final int MOST_FORMS = 200;
    /** A text that nobody compares with. */
    private static final String OTHER = "\uE000other\uE000";

    private static final Instant NOW = Instant.EPOCH.plus(Duration.ofDays(10_000));
    private static final Asking NOBODY = Asking.ofNobody(NOW);

    private int left = MOST;

    private Logic() {}

    /** Whether there can be a ticket that matches all of these. */
    public static Answer together(List<Criteria> all) {
        var logic = new Logic();
        boolean found = logic.open(all.stream().map(one -> new Claim(one, true)).toList(), Branch.EMPTY);
        return found ? Answer.POSSIBLE : logic.left <= 0 ? Answer.UNKNOWN : Answer.IMPOSSIBLE;
    }

    /** Whether every ticket that matches one of these matches some of the others, too. */
    public static boolean implies(Criteria one, List<Criteria> others) {
        List<Criteria> all = Stream.concat(Stream.of(one), others.stream().map(Criteria.Not::new))
                .map(Criteria.class::cast)
                .toList();
        return together(all) == Answer.IMPOSSIBLE;
    }

    /** That something holds, or that it does not. */
    private record Claim(Criteria criteria, boolean holds) {}

    // ------------------------------------------------------------------ taking apart

    /** Whether a branch stays open with these claims; false when it does not, or nobody knows. */
    private boolean open(List<Claim> claims, Branch branch) {
        if (--left <= 0) {
            return false;
        }
        if (claims.isEmpty()) {
            return true;
        }
        // What leaves no choice goes first: it closes branches before they part.
        int next = 0;
        for (int i = 0; i < claims.size(); i++) {
            if (!parts(claims.get(i))) {
                next = i;
                break;
            }
        }
        Claim claim = claims.get(next);
        var rest = new ArrayList<>(claims);
        rest.remove(next);
        return switch (claim.criteria()) {
            case Criteria.All(List<Criteria> parts) -> several(parts, claim.holds(), claim.holds(), rest, branch);
            case Criteria.Any(List<Criteria> parts) -> several(parts, claim.holds(), !claim.holds(), rest, branch);
            case Criteria.Not(Criteria part) -> open(with(rest, new Claim(part, !claim.holds())), branch);
            case Criteria.Test test -> test(test, claim.holds(), rest, branch);
            case Criteria.Expert(Formula formula) -> atom(new Atom.Opaque(formula.text()), claim.holds(), rest, branch);
        };
    }

    private static boolean parts(Claim claim) {
        return switch (claim.criteria()) {
            case Criteria.All all -> !claim.holds();
            case Criteria.Any any -> claim.holds();
            case Criteria.Not not -> false;
            case Criteria.Expert expert -> false;
            case Criteria.Test test ->
                switch (test.operator()) {
                    case HAS_ANY, HAS_FORM -> claim.holds() && test.values().size() > 1;
                    case HAS_NONE -> !claim.holds() && test.values().size() > 1;
                    case HAS_ALL -> !claim.holds() && test.values().size() > 1;
                    default -> false;
                };
        };
    }

    /** All of them together, or one of them. */
    private boolean several(List<Criteria> parts, boolean hold, boolean together, List<Claim> rest, Branch branch) {
        if (together) {
            var all = new ArrayList<>(rest);
            parts.forEach(part -> all.add(new Claim(part, hold)));
            return open(all, branch);
        }
        for (Criteria part : parts) {
            if (open(with(rest, new Claim(part, hold)), branch)) {
                return true;
            }
        }
        return false;
    }

    private static List<Claim> with(List<Claim> claims, Claim more) {
        var all = new ArrayList<>(claims);
        all.add(more);
        return all;
    }

    private boolean test(Criteria.Test test, boolean holds, List<Claim> rest, Branch branch) {
        return switch (test.field().type()) {
            case WORDS -> words(test, holds, rest, branch);
            case SET -> set(test, holds, rest, branch);
            case CHOICE, RANKED, TEXT, NUMBER, DATE, ELAPSED, DUE, AHEAD ->
                branch.with(test, holds).filter(next -> open(rest, next)).isPresent();
        };
    }

    private boolean words(Criteria.Test test, boolean holds, List<Claim> rest, Branch branch) {
        Field field = test.field();
        List<String> phrases =
                test.values().stream().filter(value -> !value.isBlank()).toList();
        return switch (test.operator()) {
            case HAS_ALL ->
                some(test.values().stream().map(value -> standing(field, value)).toList(), holds, holds, rest, branch);
            case HAS_NONE -> some(phrases.stream().map(p -> standing(field, p)).toList(), !holds, holds, rest, branch);
            case HAS_FORM -> some(phrases.stream().flatMap(p -> forms(field, p)).toList(), holds, !holds, rest, branch);
            case BEGINS_WITH ->
                some(
                        phrases.stream()
                                .<Atom>map(
                                        p -> new Atom.Begins(field, Words.of(p).stored()))
                                .toList(),
                        holds,
                        !holds,
                        rest,
                        branch);
            default -> some(phrases.stream().map(p -> standing(field, p)).toList(), holds, !holds, rest, branch);
        };
    }

    private static Atom standing(Field field, String phrase) {
        return new Atom.Stands(field, Words.of(phrase).stored());
    }

    private static Stream<Atom> forms(Field field, String phrase) {
        List<List<String>> forms = Words.formsOf(phrase);
        long many = forms.stream().mapToLong(List::size).reduce(1, (a, b) -> Math.min(a * b, Integer.MAX_VALUE));
        if (forms.isEmpty()) {
            return Stream.of();
        }
        if (many > MOST_FORMS) {
            return Stream.of(
                    new Atom.Opaque(field.key() + " form " + Words.of(phrase).stored()));
        }
        Stream<String> all = Stream.of("");
        for (List<String> word : forms) {
            all = all.flatMap(before -> word.stream().map(form -> before + " " + form));
        }
        return all.map(text -> standing(field, text));
    }

    private boolean set(Criteria.Test test, boolean holds, List<Claim> rest, Branch branch) {
        List<Atom> atoms = test.values().stream()
                .map(value -> value.strip().toLowerCase(Locale.ROOT))
                .<Atom>map(value -> new Atom.Member(test.field(), value))
                .toList();
        return switch (test.operator()) {
            case HAS_ALL -> some(atoms, holds, holds, rest, branch);
            case HAS_NONE -> some(atoms, !holds, holds, rest, branch);
            case IS_EMPTY -> atom(new Atom.Empty(test.field()), holds, rest, branch);
            case IS_SET -> atom(new Atom.Empty(test.field()), !holds, rest, branch);
            default -> some(atoms, holds, !holds, rest, branch);
        };
    }

    /** All of these have this answer, or one of them has. */
    private boolean some(List<Atom> atoms, boolean hold, boolean together, List<Claim> rest, Branch branch) {
        if (together) {
            Optional<Branch> next = Optional.of(branch);
            for (Atom atom : atoms) {
                next = next.flatMap(one -> one.with(atom, hold));
            }
            return next.filter(one -> open(rest, one)).isPresent();
        }
        for (Atom atom : atoms) {
            if (atom(atom, hold, rest, branch)) {
                return true;
            }
        }
        return false;
    }

    private boolean atom(Atom atom, boolean holds, List<Claim> rest, Branch branch) {
        return branch.with(atom, holds).filter(next -> open(rest, next)).isPresent();
    }

    // ------------------------------------------------------------------ what stands together

    /** A question that is answered by yes or no, and of which more is known only by comparing it with others. */
    private sealed interface Atom {

        /** Whether it cannot hold by itself. */
        default boolean never() {
            return false;
        }

        /** Whether the other one holds wherever this one does. */
        default boolean entails(Atom other) {
            return equals(other);
        }

        /** These words stand side by side. */
        record Stands(Field field, String spaced) implements Atom {
            @Override
            public boolean never() {
                return spaced.length() <= 1;
            }

            @Override
            public boolean entails(Atom other) {
                return other instanceof Stands stands && stands.field.equals(field) && spaced.contains(stands.spaced);
            }
        }

        /** It begins with these words. */
        record Begins(Field field, String spaced) implements Atom {
            @Override
            public boolean never() {
                return spaced.length() <= 1;
            }

            @Override
            public boolean entails(Atom other) {
                return switch (other) {
                    case Begins begins -> begins.field.equals(field) && spaced.startsWith(begins.spaced);
                    case Stands stands -> stands.field.equals(field) && spaced.contains(stands.spaced);
                    case Member member -> false;
                    case Empty empty -> false;
                    case Opaque opaque -> false;
                };
            }
        }

        record Member(Field field, String value) implements Atom {}

        record Empty(Field field) implements Atom {}

        /** Something that either holds or does not; nothing else is known of it. */
        record Opaque(String name) implements Atom {}
    }

    /** The answers of an alternative, none of which contradict each other as far as was looked. */
    private record Branch(Set<Atom> yes, Set<Atom> no, Map<Field, List<Answered>> asked) {

        static final Branch EMPTY = new Branch(Set.of(), Set.of(), Map.of());

        /** A question and its answer. */
        record Answered(Criteria.Test test, boolean holds) {}

        Optional<Branch> with(Atom atom, boolean holds) {
            if (holds ? impossible(atom) : atom.never() ? false : yes.stream().anyMatch(other -> other.entails(atom))) {
                return Optional.empty();
            }
            return Optional.of(new Branch(holds ? plus(yes, atom) : yes, holds ? no : plus(no, atom), asked));
        }

        private boolean impossible(Atom atom) {
            boolean clash = switch (atom) {
                case Atom.Empty(Field field) ->
                    yes.stream()
                            .anyMatch(other -> other instanceof Atom.Member member
                                    && member.field().equals(field));
                case Atom.Member member -> yes.contains(new Atom.Empty(member.field()));
                case Atom.Stands stands -> false;
                case Atom.Begins begins -> false;
                case Atom.Opaque opaque -> false;
            };
            return clash || atom.never() || no.stream().anyMatch(atom::entails);
        }

        private static Set<Atom> plus(Set<Atom> atoms, Atom more) {
            var all = new HashSet<>(atoms);
            all.add(more);
            return all;
        }

        Optional<Branch> with(Criteria.Test test, boolean holds) {
            var all = new HashMap<>(asked);
            var answers = new ArrayList<>(asked.getOrDefault(test.field(), List.of()));
            answers.add(new Answered(test, holds));
            all.put(test.field(), answers);
            return possible(test.field(), answers) ? Optional.of(new Branch(yes, no, all)) : Optional.empty();
        }
    }

    /** Whether there is a value of a field with which all questions have these answers. */
    private static boolean possible(Field field, List<Branch.Answered> answers) {
        if (field.type() == FieldType.TEXT) {
            return texts(field, answers);
        }
        List<Criteria> resolved = answers.stream()
                .map(one -> NOBODY.resolve(one.holds() ? one.test() : new Criteria.Not(one.test())))
                .toList();
        return values(field, answers).anyMatch(value -> {
            Facts facts = Facts.none().with(field, value);
            return resolved.stream().allMatch(one -> Matching.matches(one, facts));
        });
    }

    /** Values of which one behaves like any other value as far as these questions go. */
    private static Stream<Fact> values(Field field, List<Branch.Answered> answers) {
        Set<String> compared = new LinkedHashSet<>();
        answers.forEach(one -> compared.addAll(one.test().values()));
        Stream<Fact> some = switch (field.type()) {
            case CHOICE -> Stream.concat(compared.stream(), Stream.of(OTHER)).map(Fact::chosen);
            case RANKED -> Arrays.stream(Priority.values()).map(Fact.Ranked::new);
            case NUMBER ->
                around(compared.stream()
                        .flatMap(value -> OwnField.number(value).stream())
                        .sorted()
                        .toList());
            case DATE ->
                days(compared.stream()
                        .flatMap(value -> OwnField.date(value).stream())
                        .toList());
            case ELAPSED -> amounts(compared).map(amount -> new Fact.Since(NOW.minus(amount)));
            case DUE, AHEAD ->
                Stream.concat(amounts(compared), Stream.of(Duration.ofSeconds(-1), Duration.ofDays(1)))
                        .flatMap(amount -> Stream.of(
                                new Fact.Ahead(NOW.plus(amount), Optional.empty()),
                                new Fact.Ahead(NOW.plus(amount), Optional.of(NOW)),
                                new Fact.Ahead(NOW.plus(amount), Optional.of(NOW.plusSeconds(1)))));
            case TEXT, SET, WORDS -> Stream.of();
        };
        return Stream.concat(some, Stream.of(Fact.NOTHING));
    }

    /** The numbers, one between each two, and one on either side. */
    private static Stream<Fact> around(List<BigDecimal> numbers) {
        var all = new ArrayList<BigDecimal>(numbers);
        for (int i = 0; i + 1 < numbers.size(); i++) {
            all.add(numbers.get(i).add(numbers.get(i + 1)).multiply(new BigDecimal("0.5")));
        }
        if (!numbers.isEmpty()) {
            all.add(numbers.getFirst().subtract(BigDecimal.ONE));
            all.add(numbers.getLast().add(BigDecimal.ONE));
        }
        all.add(BigDecimal.ZERO);
        return all.stream().map(Fact.Amount::new);
    }

    private static Stream<Fact> days(List<LocalDate> dates) {
        return Stream.concat(
                        Stream.of(LocalDate.EPOCH),
                        dates.stream().flatMap(date -> Stream.of(date.minusDays(1), date, date.plusDays(1))))
                .map(Fact.Day::new);
    }

    private static Stream<Duration> amounts(Set<String> compared) {
        return Stream.concat(
                Stream.of(Duration.ZERO),
                compared.stream()
                        .flatMap(value -> Amount.read(value).stream())
                        .flatMap(amount -> Stream.of(amount.minusSeconds(1), amount, amount.plusSeconds(1))));
    }

    /**
     * Of several texts one is enough for a yes, and all count for a no; so for each yes there must be a text for which no other question
     * has a yes that shall have none.
     */
    private static boolean texts(Field field, List<Branch.Answered> answers) {
        List<Criteria> all = new ArrayList<>();
        for (Branch.Answered one : answers) {
            Criteria.Test test = one.test();
            Criteria said = one.holds() ? test : new Criteria.Not(test);
            boolean yes = one.holds() == (test.operator() != Operator.IS_NOT && test.operator() != Operator.IS_EMPTY);
            if (!yes) {
                all.add(said);
            }
        }
        for (Branch.Answered one : answers) {
            Criteria.Test test = one.test();
            boolean yes = one.holds() == (test.operator() != Operator.IS_NOT && test.operator() != Operator.IS_EMPTY);
            if (!yes) {
                continue;
            }
            Criteria said = one.holds() ? test : new Criteria.Not(test);
            Optional<String> witness = witnesses(test)
                    .filter(text -> {
                        Facts facts = Facts.none().with(field, List.of(text));
                        return Matching.matches(said, facts)
                                && all.stream().allMatch(no -> Matching.matches(no, facts));
                    })
                    .findFirst();
            if (witness.isEmpty()) {
                return false;
            }
        }
        return true;
    }

    private static Stream<String> witnesses(Criteria.Test test) {
        return Stream.concat(
                test.values().stream().flatMap(value -> Stream.of(value, value + OTHER, OTHER + value)),
                Stream.of(OTHER));
    }
}

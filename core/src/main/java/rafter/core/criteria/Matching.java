package rafter.core.criteria;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;

/** Decides whether facts match criteria that are {@linkplain Asking#resolve resolved}. A test costs O(v + w) for v values and w words of the field. */
public final class Matching {

    private static final Words NO_WORDS = Words.of("");

    private Matching() {}

    /** Finds words in what is running text: looks there, or knows already what is in it. */
    @FunctionalInterface
    public interface Finder {
        boolean has(Field field, Words text, String phrase);
    }

    private static final Finder LOOKS = (field, text, phrase) -> text.has(phrase);

    /** Whether they match. */
    public static boolean matches(Criteria criteria, Facts facts) {
        return matches(criteria, facts, LOOKS);
    }

    /** Whether they match, with somebody who finds words. */
    public static boolean matches(Criteria criteria, Facts facts, Finder finder) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> {
                for (Criteria part : parts) {
                    if (!matches(part, facts, finder)) {
                        yield false;
                    }
                }
                yield true;
            }
            case Criteria.Any(List<Criteria> parts) -> {
                for (Criteria part : parts) {
                    if (matches(part, facts, finder)) {
                        yield true;
                    }
                }
                yield false;
            }
            case Criteria.Not(Criteria part) -> !matches(part, facts, finder);
            case Criteria.Test test -> test(test, facts, finder);
            case Criteria.Expert(Formula formula) -> formula.matches(facts);
        };
    }

    /** Whether facts match, with every part's own answer; no part is skipped. */
    public static Verdict explain(Criteria criteria, Facts facts) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> group(criteria, explain(parts, facts), true);
            case Criteria.Any(List<Criteria> parts) -> group(criteria, explain(parts, facts), false);
            case Criteria.Not(Criteria part) -> {
                Verdict inner = explain(part, facts);
                yield new Verdict(criteria, !inner.matches(), List.of(inner), List.of());
            }
            case Criteria.Test test -> new Verdict(criteria, test(test, facts, LOOKS), List.of(), found(test, facts));
            case Criteria.Expert(Formula formula) ->
                new Verdict(criteria, formula.matches(facts), List.of(), List.of());
        };
    }

    private static List<Verdict> explain(List<Criteria> parts, Facts facts) {
        return parts.stream().map(part -> explain(part, facts)).toList();
    }

    private static Verdict group(Criteria criteria, List<Verdict> parts, boolean all) {
        boolean matches =
                all ? parts.stream().allMatch(Verdict::matches) : parts.stream().anyMatch(Verdict::matches);
        return new Verdict(criteria, matches, parts, List.of());
    }

    /** What the ticket has there, for saying why; of running text only the words that were looked for. */
    private static List<String> found(Criteria.Test test, Facts facts) {
        return facts.of(test.field()) instanceof Fact.Running running
                ? test.values().stream().filter(running.words()::has).toList()
                : facts.of(test.field()).plain();
    }

    private static boolean test(Criteria.Test test, Facts facts, Finder finder) {
        Field field = test.field();
        return switch (field.type()) {
            case CHOICE -> choice(test, facts.of(field, Fact.Chosen.class).map(Fact.Chosen::key));
            case RANKED -> ranked(test, facts.of(field, Fact.Ranked.class).map(Fact.Ranked::priority));
            case SET ->
                set(
                        test,
                        facts.of(field, Fact.Several.class)
                                .map(Fact.Several::all)
                                .orElse(Set.of()));
            case TEXT ->
                text(
                        test,
                        facts.of(field, Fact.Texts.class)
                                .map(Fact.Texts::folded)
                                .orElse(List.of("")));
            case WORDS ->
                words(
                        test,
                        facts.of(field, Fact.Running.class)
                                .map(Fact.Running::words)
                                .orElse(NO_WORDS),
                        finder);
            case NUMBER -> ordered(test, facts.of(field, Fact.Amount.class).map(Fact.Amount::value), OwnField::number);
            case DATE -> ordered(test, facts.of(field, Fact.Day.class).map(Fact.Day::date), OwnField::date);
            case ELAPSED -> elapsed(test, facts.of(field, Fact.Since.class).map(Fact.Since::at));
            case DUE, AHEAD -> ahead(test, facts.of(field, Fact.Ahead.class));
        };
    }

    /** Long ago means early. */
    private static boolean elapsed(Criteria.Test test, Optional<Instant> began) {
        return began.filter(at -> test.operator() == Operator.AT_LEAST
                        ? bounds(test).anyMatch(bound -> !at.isAfter(bound))
                        : bounds(test).anyMatch(bound -> !at.isBefore(bound)))
                .isPresent();
    }

    private static boolean ahead(Criteria.Test test, Optional<Fact.Ahead> ahead) {
        return switch (test.operator()) {
            case RUNS, IS_SET -> ahead.isPresent();
            case RUNS_NOT, IS_EMPTY -> ahead.isEmpty();
            case AT_RISK ->
                ahead.flatMap(Fact.Ahead::riskFrom)
                        .filter(at -> reached(test, at))
                        .isPresent();
            case WITHIN, LATE, SOON ->
                ahead.map(Fact.Ahead::at).filter(at -> reached(test, at)).isPresent();
            default -> false;
        };
    }

    private static boolean reached(Criteria.Test test, Instant at) {
        return bounds(test).anyMatch(bound -> !at.isAfter(bound));
    }

    /** What is compared with; what cannot be read matches nothing. */
    private static Stream<Instant> bounds(Criteria.Test test) {
        return test.values().stream().flatMap(bound -> Fact.instant(bound).stream());
    }

    private static boolean choice(Criteria.Test test, Optional<String> has) {
        return switch (test.operator()) {
            case IS -> has.filter(test.values()::contains).isPresent();
            case IS_NOT -> has.filter(test.values()::contains).isEmpty();
            case IS_SET -> has.isPresent();
            case IS_EMPTY -> has.isEmpty();
            default -> false;
        };
    }

    /** The first in order, such as P1, is the highest. */
    private static boolean ranked(Criteria.Test test, Optional<Priority> has) {
        Stream<Integer> compared = has.stream()
                .flatMap(value -> test.values().stream()
                        .flatMap(bound -> Priority.of(bound).stream())
                        .map(value::compareTo));
        return switch (test.operator()) {
            case IS -> compared.anyMatch(order -> order == 0);
            case IS_NOT -> compared.noneMatch(order -> order == 0);
            case AT_LEAST -> compared.anyMatch(order -> order <= 0);
            case AT_MOST -> compared.anyMatch(order -> order >= 0);
            default -> false;
        };
    }

    /** What is compared with and cannot be read matches nothing. */
    private static <T extends Comparable<? super T>> boolean ordered(
            Criteria.Test test, Optional<T> value, Function<String, Optional<T>> read) {
        Stream<Integer> compared = value.stream()
                .flatMap(v -> test.values().stream()
                        .flatMap(bound -> read.apply(bound).stream())
                        .map(v::compareTo));
        return switch (test.operator()) {
            case IS -> compared.anyMatch(order -> order == 0);
            case IS_NOT -> compared.noneMatch(order -> order == 0);
            case AT_LEAST, FROM -> compared.anyMatch(order -> order >= 0);
            case AT_MOST, UNTIL -> compared.anyMatch(order -> order <= 0);
            case IS_SET -> value.isPresent();
            case IS_EMPTY -> value.isEmpty();
            default -> false;
        };
    }

    /** Tags are written in small letters; how somebody types one makes no difference. */
    private static boolean set(Criteria.Test test, Set<String> has) {
        List<String> wanted = test.values().stream()
                .map(value -> value.strip().toLowerCase(Locale.ROOT))
                .toList();
        return switch (test.operator()) {
            case HAS_ANY -> wanted.stream().anyMatch(has::contains);
            case HAS_ALL -> has.containsAll(wanted);
            case HAS_NONE -> wanted.stream().noneMatch(has::contains);
            case IS_SET -> !has.isEmpty();
            case IS_EMPTY -> has.isEmpty();
            default -> false;
        };
    }

    /** Of several texts one is enough, such as one of a contact's addresses. */
    private static boolean text(Criteria.Test test, List<String> has) {
        return switch (test.operator()) {
            case IS -> any(test, value -> has.contains(Words.fold(value)));
            case IS_NOT -> !any(test, value -> has.contains(Words.fold(value)));
            case BEGINS_WITH -> any(test, value -> has.stream().anyMatch(one -> one.startsWith(Words.fold(value))));
            case ENDS_WITH -> any(test, value -> has.stream().anyMatch(one -> one.endsWith(Words.fold(value))));
            case IS_SET -> has.stream().anyMatch(one -> !one.isEmpty());
            case IS_EMPTY -> has.stream().allMatch(String::isEmpty);
            default -> false;
        };
    }

    private static boolean words(Criteria.Test test, Words has, Finder finder) {
        Predicate<String> there = phrase -> finder.has(test.field(), has, phrase);
        return switch (test.operator()) {
            case HAS_ANY -> any(test, there);
            case HAS_ALL -> test.values().stream().allMatch(there);
            case HAS_NONE -> !any(test, there);
            case HAS_FORM -> any(test, has::hasForm);
            case BEGINS_WITH -> any(test, has::beginsWith);
            default -> false;
        };
    }

    private static boolean any(Criteria.Test test, Predicate<String> question) {
        return test.values().stream().filter(value -> !value.isBlank()).anyMatch(question);
    }

    /** The parts that decided, as sentences of their own: those that matched, or when nothing did, those that did not. */
    public static List<Verdict> decisive(Verdict verdict) {
        var found = new ArrayList<Verdict>();
        collect(verdict, verdict.matches(), found);
        return found;
    }

    private static void collect(Verdict verdict, boolean wanted, List<Verdict> found) {
        if (verdict.criteria() instanceof Criteria.Not) {
            if (verdict.matches() == wanted) {
                found.add(verdict);
            }
        } else if (verdict.parts().isEmpty()) {
            boolean asked =
                    verdict.criteria() instanceof Criteria.Test || verdict.criteria() instanceof Criteria.Expert;
            if (verdict.matches() == wanted && asked) {
                found.add(verdict);
            }
        } else if (verdict.matches() == wanted) {
            verdict.parts().forEach(part -> collect(part, wanted, found));
        }
    }
}

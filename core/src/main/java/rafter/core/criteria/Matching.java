package rafter.core.criteria;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;

/** Decides whether facts match criteria that are {@linkplain Asking#resolve resolved}. A test costs O(v + w) for v values and w words of the field. */
public final class Matching {

    private Matching() {}

    /** Whether they match. */
    public static boolean matches(Criteria criteria, Facts facts) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> {
                for (Criteria part : parts) {
                    if (!matches(part, facts)) {
                        yield false;
                    }
                }
                yield true;
            }
            case Criteria.Any(List<Criteria> parts) -> {
                for (Criteria part : parts) {
                    if (matches(part, facts)) {
                        yield true;
                    }
                }
                yield false;
            }
            case Criteria.Not(Criteria part) -> !matches(part, facts);
            case Criteria.Test test -> test(test, facts);
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
            case Criteria.Test test -> new Verdict(criteria, test(test, facts), List.of(), found(test, facts));
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
        if (test.field().type() != FieldType.WORDS) {
            return facts.values(test.field());
        }
        Words words = facts.words(test.field());
        return test.values().stream().filter(words::has).toList();
    }

    private static boolean test(Criteria.Test test, Facts facts) {
        return switch (test.field().type()) {
            case CHOICE -> choice(test, facts.values(test.field()));
            case RANKED -> ranked(test, facts.values(test.field()));
            case SET -> set(test, facts.values(test.field()));
            case TEXT -> text(test, facts.values(test.field()));
            case WORDS -> words(test, facts.words(test.field()));
            case NUMBER -> ordered(test, facts.values(test.field()), OwnField::number);
            case DATE -> ordered(test, facts.values(test.field()), OwnField::date);
            case ELAPSED -> elapsed(test, facts.values(test.field()));
            case DUE, AHEAD -> due(test, facts.values(test.field()));
        };
    }

    /** The fact is the instant at which it began; long ago means early. */
    private static boolean elapsed(Criteria.Test test, List<String> began) {
        if (began.isEmpty()) {
            return false;
        }
        Instant at = Instant.parse(began.getFirst());
        return test.operator() == Operator.AT_LEAST
                ? test.values().stream().anyMatch(bound -> !at.isAfter(Instant.parse(bound)))
                : test.values().stream().anyMatch(bound -> !at.isBefore(Instant.parse(bound)));
    }

    private static boolean due(Criteria.Test test, List<String> due) {
        return switch (test.operator()) {
            case RUNS, IS_SET -> !due.isEmpty();
            case RUNS_NOT, IS_EMPTY -> due.isEmpty();
            // Beside the due time stands when it comes to be at risk, as long as it is not late.
            case AT_RISK ->
                due.size() > 1
                        && test.values().stream()
                                .anyMatch(bound -> !Instant.parse(due.get(1)).isAfter(Instant.parse(bound)));
            case WITHIN, LATE, SOON ->
                !due.isEmpty()
                        && test.values().stream()
                                .anyMatch(
                                        bound -> !Instant.parse(due.getFirst()).isAfter(Instant.parse(bound)));
            default -> false;
        };
    }

    private static boolean choice(Criteria.Test test, List<String> has) {
        return switch (test.operator()) {
            case IS -> !has.isEmpty() && test.values().contains(has.getFirst());
            case IS_NOT -> has.isEmpty() || !test.values().contains(has.getFirst());
            case IS_SET -> !has.isEmpty();
            case IS_EMPTY -> has.isEmpty();
            default -> false;
        };
    }

    /** The first in order, such as P1, is the highest. */
    private static boolean ranked(Criteria.Test test, List<String> has) {
        if (has.isEmpty()) {
            return test.operator() == Operator.IS_NOT;
        }
        String value = has.getFirst();
        List<String> known = test.values().stream()
                .filter(bound -> Priority.of(bound).isPresent())
                .toList();
        return switch (test.operator()) {
            case IS -> test.values().contains(value);
            case IS_NOT -> !test.values().contains(value);
            case AT_LEAST -> known.stream().anyMatch(bound -> value.compareTo(bound) <= 0);
            case AT_MOST -> known.stream().anyMatch(bound -> value.compareTo(bound) >= 0);
            default -> false;
        };
    }

    /** What is compared with and cannot be read matches nothing. */
    private static <T extends Comparable<? super T>> boolean ordered(
            Criteria.Test test, List<String> has, Function<String, Optional<T>> read) {
        Optional<T> value = has.stream().findFirst().flatMap(read);
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
    private static boolean set(Criteria.Test test, List<String> has) {
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
    private static boolean text(Criteria.Test test, List<String> values) {
        List<String> has = values.isEmpty()
                ? List.of("")
                : values.stream().map(Words::fold).toList();
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

    private static boolean words(Criteria.Test test, Words has) {
        return switch (test.operator()) {
            case HAS_ANY -> any(test, has::has);
            case HAS_ALL -> test.values().stream().allMatch(has::has);
            case HAS_NONE -> !any(test, has::has);
            case HAS_FORM -> any(test, has::hasForm);
            case BEGINS_WITH -> any(test, has::beginsWith);
            default -> false;
        };
    }

    private static boolean any(Criteria.Test test, java.util.function.Predicate<String> question) {
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
            if (verdict.matches() == wanted && verdict.criteria() instanceof Criteria.Test) {
                found.add(verdict);
            }
        } else if (verdict.matches() == wanted) {
            verdict.parts().forEach(part -> collect(part, wanted, found));
        }
    }
}

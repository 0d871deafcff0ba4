package rafter.core.criteria;

import java.util.List;
import java.util.stream.Collectors;

/** Says criteria in words. */
public final class Sentence {

    /** Tells what people call a value of a field: a team by its name and not its number. */
    @FunctionalInterface
    public interface Names {
        String of(Field field, String value);

        /** What people call a field. */
        default String of(Field field) {
            return field.words();
        }
    }

    private final Names names;

    public Sentence(Names names) {
        this.names = names;
    }

    /** The whole sentence, such as "the customer's plan is Anchor and the topic is billing". */
    public String of(Criteria criteria) {
        return say(criteria, false);
    }

    private String say(Criteria criteria, boolean within) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) when parts.isEmpty() -> "all tickets";
            case Criteria.Any(List<Criteria> parts) when parts.isEmpty() -> "no ticket";
            case Criteria.All(List<Criteria> parts) -> join(parts, " and ", within);
            case Criteria.Any(List<Criteria> parts) -> join(parts, " or ", within);
            case Criteria.Not(Criteria part) -> "not (" + say(part, false) + ")";
            case Criteria.Test test -> test(test);
            case Criteria.Expert(Formula formula) -> "the formula “" + formula.text() + "” holds";
        };
    }

    private String join(List<Criteria> parts, String word, boolean within) {
        if (parts.size() == 1) {
            return say(parts.getFirst(), within);
        }
        String all = parts.stream().map(part -> say(part, true)).collect(Collectors.joining(word));
        return within ? "(" + all + ")" : all;
    }

    private String test(Criteria.Test test) {
        String asked = test.field() instanceof KnownField known && known.type() == FieldType.SET
                ? several(known, test)
                : plainly(test);
        return test.operator().wantsValues() ? asked + " " + values(test) : asked;
    }

    /** What a ticket can have several of is asked about otherwise than what it has one of. */
    private String several(KnownField field, Criteria.Test test) {
        boolean one = test.values().size() == 1;
        return switch (field) {
            case TAGS -> tags(test, one);
            case WATCHERS -> watchers(test);
            case HELPERS ->
                switch (test.operator()) {
                    case IS_SET -> "somebody helps";
                    case IS_EMPTY -> "nobody helps";
                    default -> helping(test, "who helps is", one ? "who helps is" : "those who help are");
                };
            case HELPING_TEAMS ->
                switch (test.operator()) {
                    case IS_SET -> "a team helps";
                    case IS_EMPTY -> "no team helps";
                    default ->
                        helping(
                                test,
                                "the team that helps is",
                                one ? "the team that helps is" : "the teams that help are");
                };
            default -> plainly(test);
        };
    }

    private String watchers(Criteria.Test test) {
        return switch (test.operator()) {
            case HAS_ANY, HAS_ALL -> "the watchers include";
            case HAS_NONE -> "the watchers do not include";
            case IS_SET -> "somebody watches it";
            case IS_EMPTY -> "nobody watches it";
            default -> plainly(test);
        };
    }

    private String tags(Criteria.Test test, boolean one) {
        return switch (test.operator()) {
            case HAS_ANY -> one ? "it has the tag" : "it has one of the tags";
            case HAS_ALL -> one ? "it has the tag" : "it has all of the tags";
            case HAS_NONE -> one ? "it does not have the tag" : "it has none of the tags";
            case IS_SET -> "it has tags";
            case IS_EMPTY -> "it has no tags";
            default -> plainly(test);
        };
    }

    private String helping(Criteria.Test test, String any, String all) {
        return switch (test.operator()) {
            case HAS_ANY -> any;
            case HAS_ALL -> all;
            case HAS_NONE -> any + " not";
            default -> plainly(test);
        };
    }

    private String plainly(Criteria.Test test) {
        return names.of(test.field()) + " " + test.operator().words();
    }

    private String values(Criteria.Test test) {
        boolean quoted = test.field().type() == FieldType.WORDS || test.field().type() == FieldType.TEXT;
        boolean typed = quoted || test.field().type().ofTime();
        List<String> said = test.values().stream()
                .map(value -> quoted ? "“" + value + "”" : typed ? value : names.of(test.field(), value))
                .toList();
        if (said.isEmpty()) {
            return "…";
        }
        String last = said.getLast();
        String word = test.operator() == Operator.HAS_ALL ? " and " : " or ";
        return said.size() == 1 ? last : String.join(", ", said.subList(0, said.size() - 1)) + word + last;
    }

    /** Why a part matched or not: what was asked, and what the ticket has. */
    public String why(Verdict verdict) {
        if (verdict.criteria() instanceof Criteria.Expert(Formula formula)) {
            return "the formula “" + formula.text() + (verdict.matches() ? "” holds" : "” does not hold");
        }
        if (!(verdict.criteria() instanceof Criteria.Test test)) {
            return of(verdict.criteria());
        }
        if (verdict.matches()) {
            return test(test)
                    + (verdict.found().isEmpty() || test.operator() == Operator.IS
                            ? ""
                            : " (" + found(test.field(), verdict) + ")");
        }
        if (test.field().type().ofTime()) {
            return "not: " + test(test) + (verdict.found().isEmpty() ? "" : " (" + found(test.field(), verdict) + ")");
        }
        if (test.field().type() == FieldType.WORDS) {
            return names.of(test.field()) + " does not have " + values(test);
        }
        return names.of(test.field()) + " is "
                + (verdict.found().isEmpty() ? "not known" : found(test.field(), verdict)) + ", not " + values(test);
    }

    private String found(Field field, Verdict verdict) {
        return verdict.found().stream().map(value -> names.of(field, value)).collect(Collectors.joining(", "));
    }
}

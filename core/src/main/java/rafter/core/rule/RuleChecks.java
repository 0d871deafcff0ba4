package rafter.core.rule;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Field;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;

/**
 * Finds what is wrong with the rules of a book among each other: rules that can never be reached, that contradict each other, whose criteria
 * cannot be true, that never matched, or that look for words which stand in tickets in another form alone. What logic can decide, logic
 * decides, for all tickets there can be; the rest is told from history, and every finding says which.
 */
public final class RuleChecks {

    /** What is wrong. */
    public enum Kind {
        IMPOSSIBLE,
        UNREACHABLE,
        CONTRADICTS,
        NEVER,
        OTHER_FORM
    }

    /** What would mend it. */
    public sealed interface Mend {
        /** It moves above another rule. */
        record MoveAbove(String rule) implements Mend {}

        /** Another rule lets those below it be read. */
        record LetCarryOn(String rule) implements Mend {}

        /** Its words are looked for in all their forms. */
        record MatchForms() implements Mend {}
    }

    /**
     * Something that is wrong with a rule.
     *
     * @param words what, for who minds the rules
     * @param byLogic whether it is so for all tickets there can be, and not only for those that there were
     * @param mends what would mend it; the best first
     */
    public record Finding(String rule, Kind kind, String words, boolean byLogic, List<Mend> mends) {
        public Finding {
            mends = List.copyOf(mends);
        }
    }

    /** What the recorded tickets of the last ninety days tell. */
    public interface History {
        /** How many tickets there were; of none nothing is told. */
        long tickets();

        /** How many of them a rule matched when it was asked; nothing when nobody counted. */
        Optional<Long> matched(String rule);

        /** How many of those that a rule would match a rule above it took, by the id of that rule; nothing when nobody counted. */
        Map<String, Long> takenBy(String rule);

        /** Whether any of them has this phrase in a field. */
        boolean has(Field field, String phrase);

        /** A form of the phrase that one of them has there, if it is another one. */
        Optional<String> otherForm(Field field, String phrase);
    }

    private final RuleBook book;
    private final History history;

    private RuleChecks(RuleBook book, History history) {
        this.book = book;
        this.history = history;
    }

    /** All that is wrong with the rules of a book that are on, from the top. */
    public static List<Finding> of(RuleBook book, History history) {
        var checks = new RuleChecks(book, history);
        var all = new ArrayList<Finding>();
        for (RuleBook.Section section : book.sections()) {
            List<Rule> read = section.rules().stream().filter(Rule::on).toList();
            for (int i = 0; i < read.size(); i++) {
                all.addAll(checks.of(read.get(i), read.subList(0, i)));
            }
        }
        return all;
    }

    private List<Finding> of(Rule rule, List<Rule> above) {
        if (Logic.together(List.of(rule.criteria())) == Logic.Answer.IMPOSSIBLE) {
            return List.of(
                    new Finding(rule.id(), Kind.IMPOSSIBLE, "No ticket can be all that it asks for.", true, List.of()));
        }
        var all = new ArrayList<Finding>();
        Optional<Finding> hidden = hidden(rule, above).or(() -> hiddenSoFar(rule));
        hidden.ifPresent(all::add);
        all.addAll(contradictions(rule, above));
        List<Finding> forms = otherForms(rule);
        all.addAll(forms);
        boolean never = history.tickets() > 0
                && history.matched(rule.id()).filter(many -> many == 0).isPresent();
        if (never && hidden.isEmpty() && forms.isEmpty()) {
            all.add(new Finding(
                    rule.id(),
                    Kind.NEVER,
                    "It matched none of the " + history.tickets() + " tickets of the last 90 days.",
                    false,
                    List.of()));
        }
        return all;
    }

    // ------------------------------------------------------------------ what is never reached

    /** By logic: the rules above it that end the reading take every ticket that it would take. */
    private Optional<Finding> hidden(Rule rule, List<Rule> above) {
        List<Rule> enders = enders(rule, above);
        for (Rule one : enders) {
            if (Logic.implies(rule.criteria(), List.of(one.criteria()))) {
                return Optional.of(hiddenBy(rule, List.of(one)));
            }
        }
        boolean together = enders.size() > 1
                && Logic.implies(
                        rule.criteria(), enders.stream().map(Rule::criteria).toList());
        return together ? Optional.of(hiddenBy(rule, enders)) : Optional.empty();
    }

    /** Those above a rule that end the reading wherever it is read, and whose answer nothing changes between them and it. */
    private static List<Rule> enders(Rule rule, List<Rule> above) {
        var enders = new ArrayList<Rule>();
        for (Rule one : above.reversed()) {
            boolean meets = meets(one.occasion(), rule.occasion());
            if (meets && one.carriesOn() && !one.deeds().isEmpty()) {
                // What this one does may make a ticket match that did not when those further up were asked.
                break;
            }
            if (!one.carriesOn() && covers(one.occasion(), rule.occasion())) {
                enders.addFirst(one);
            }
        }
        return enders;
    }

    private static Finding hiddenBy(Rule rule, List<Rule> takers) {
        String names = takers.stream()
                .map(one -> "“" + one.name() + "”")
                .reduce((a, b) -> a + " and " + b)
                .orElse("");
        boolean one = takers.size() == 1;
        List<Mend> mends = one
                ? List.of(
                        new Mend.MoveAbove(takers.getFirst().id()),
                        new Mend.LetCarryOn(takers.getFirst().id()))
                : List.of(new Mend.MoveAbove(takers.getFirst().id()));
        return new Finding(
                rule.id(),
                Kind.UNREACHABLE,
                names + (one ? " takes" : " take") + " every ticket that this rule would take. Move it above"
                        + (one ? ", or let that one carry on." : " them."),
                true,
                mends);
    }

    /** By history: it would have matched, and each time a rule above had ended the reading. */
    private Optional<Finding> hiddenSoFar(Rule rule) {
        Map<String, Long> taken = history.takenBy(rule.id());
        boolean none = history.matched(rule.id()).filter(many -> many == 0).isPresent();
        Optional<Map.Entry<String, Long>> most = taken.entrySet().stream().max(Map.Entry.comparingByValue());
        if (!none || most.isEmpty()) {
            return Optional.empty();
        }
        long all = taken.values().stream().mapToLong(Long::longValue).sum();
        String name = book.rule(most.get().getKey()).map(Rule::name).orElse("a rule");
        return Optional.of(new Finding(
                rule.id(),
                Kind.UNREACHABLE,
                "It was never reached in 90 days: of " + all + (all == 1 ? " ticket" : " tickets")
                        + " that it would have taken, “" + name + "” and others above took each.",
                false,
                List.of(
                        new Mend.MoveAbove(most.get().getKey()),
                        new Mend.LetCarryOn(most.get().getKey()))));
    }

    /** Whether the first is read wherever the second is. */
    private static boolean covers(Occasion first, Occasion second) {
        return switch (second) {
            case Occasion.Arrival arrival -> first instanceof Occasion.Arrival;
            case Occasion.Change change ->
                first instanceof Occasion.Change other
                        && other.of().containsAll(change.of())
                        && (other.about().isBlank() || other.about().equals(change.about()));
            // Each rule on the clock is read at times of its own.
            case Occasion.Clock clock -> false;
        };
    }

    /** Whether there is an occasion at which both are read. */
    private static boolean meets(Occasion first, Occasion second) {
        return switch (second) {
            case Occasion.Arrival arrival -> first instanceof Occasion.Arrival;
            case Occasion.Change change ->
                first instanceof Occasion.Change other
                        && other.of().stream().anyMatch(change.of()::contains)
                        && (other.about().isBlank()
                                || change.about().isBlank()
                                || other.about().equals(change.about()));
            case Occasion.Clock clock -> false;
        };
    }

    // ------------------------------------------------------------------ what contradicts

    private static Collection<Finding> contradictions(Rule rule, List<Rule> above) {
        var all = new ArrayList<Finding>();
        for (Rule one : above) {
            boolean meet = one.carriesOn() && meets(one.occasion(), rule.occasion());
            Optional<Deed> clash = rule.deeds().stream()
                    .filter(deed -> one.deeds().stream().anyMatch(other -> !deed.agrees(other)))
                    .findFirst();
            // Deeds are compared before criteria, for that costs next to nothing.
            if (meet
                    && clash.isPresent()
                    && Logic.together(List.of(one.criteria(), rule.criteria())) == Logic.Answer.POSSIBLE) {
                all.add(new Finding(
                        rule.id(),
                        Kind.CONTRADICTS,
                        "“" + one.name() + "” sets " + clash.get().sets()
                                + " otherwise, and some tickets match both; this rule has the last word.",
                        true,
                        List.of()));
            }
        }
        return all;
    }

    /** Whether logic shows that two rules can change places and nothing comes out otherwise, whatever the ticket. */
    public static boolean unrelated(Rule one, Rule other) {
        return !meets(one.occasion(), other.occasion())
                || (Logic.together(List.of(one.criteria(), other.criteria())) == Logic.Answer.IMPOSSIBLE
                        && !touches(one, other)
                        && !touches(other, one));
    }

    /** Whether what one rule does may change what another one asks. */
    private static boolean touches(Rule one, Rule other) {
        return !one.deeds().isEmpty()
                && !Criteria.asked(other.criteria()).stream().allMatch(RuleChecks::given);
    }

    /** Fields that no deed changes. */
    private static boolean given(Field field) {
        return field instanceof KnownField known
                && switch (known) {
                    case PLAN,
                            COMPANY,
                            CONTACT_NAME,
                            CONTACT_ADDRESS,
                            CHANNEL,
                            SUBJECT,
                            FIRST_MESSAGE,
                            EARLIER_TICKETS,
                            SENDER,
                            SENDER_NAME,
                            SENDER_KNOWN,
                            RECIPIENT,
                            MAILBOX,
                            WRITTEN_BY,
                            HEADER,
                            MAIL_SIZE,
                            MAIL_FILES,
                            JUNK_SCORE,
                            OPEN_TICKETS -> true;
                    case TEAM,
                            TOPIC,
                            PRIORITY,
                            TAGS,
                            STATE,
                            TURN,
                            ANY_MESSAGE,
                            OWNER,
                            WATCHERS,
                            HELPERS,
                            HELPING_TEAMS,
                            OPEN_TASKS,
                            TIME_SPENT,
                            CAUSE,
                            RATING,
                            CUSTOMER_MESSAGES,
                            OUR_MESSAGES,
                            REOPENINGS,
                            AGE,
                            IN_TURN,
                            SINCE_CUSTOMER,
                            SINCE_BACK,
                            COMES_BACK,
                            NEXT_TARGET,
                            FIRST_REPLY,
                            NEXT_REPLY,
                            RESOLUTION,
                            PICK_UP,
                            REGULAR_UPDATE -> false;
                };
    }

    // ------------------------------------------------------------------ words in another form

    private List<Finding> otherForms(Rule rule) {
        var all = new ArrayList<Finding>();
        if (history.tickets() > 0) {
            phrases(rule.criteria()).forEach(test -> {
                for (String phrase : test.values()) {
                    if (!phrase.isBlank() && !history.has(test.field(), phrase)) {
                        history.otherForm(test.field(), phrase)
                                .ifPresent(form -> all.add(otherForm(rule, phrase, form)));
                    }
                }
            });
        }
        return all;
    }

    private static Finding otherForm(Rule rule, String phrase, String form) {
        return new Finding(
                rule.id(),
                Kind.OTHER_FORM,
                "No ticket of the last 90 days has “" + phrase + "”; they have “" + form + "”. Match its forms too.",
                false,
                List.of(new Mend.MatchForms()));
    }

    /** The questions of criteria about phrases of which one is enough, as they are typed and in no other form. */
    public static Stream<Criteria.Test> phrases(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts.stream().flatMap(RuleChecks::phrases);
            case Criteria.Any(List<Criteria> parts) -> parts.stream().flatMap(RuleChecks::phrases);
            case Criteria.Not(Criteria part) -> phrases(part);
            case Criteria.Expert expert -> Stream.of();
            case Criteria.Test test -> asksPhrases(test) ? Stream.of(test) : Stream.of();
        };
    }

    private static boolean asksPhrases(Criteria.Test test) {
        return test.field().type() == FieldType.WORDS && test.operator() == Operator.HAS_ANY;
    }

    /** The same criteria looking for words in all their forms. */
    public static Criteria withForms(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) ->
                new Criteria.All(parts.stream().map(RuleChecks::withForms).toList());
            case Criteria.Any(List<Criteria> parts) ->
                new Criteria.Any(parts.stream().map(RuleChecks::withForms).toList());
            case Criteria.Not(Criteria part) -> new Criteria.Not(withForms(part));
            case Criteria.Expert expert -> expert;
            case Criteria.Test test ->
                asksPhrases(test) ? new Criteria.Test(test.field(), Operator.HAS_FORM, test.values()) : test;
        };
    }

    /** The book with a mend made; unchanged where it cannot be. */
    public static RuleBook mended(RuleBook book, String rule, Mend mend) {
        Optional<Rule> one = book.rule(rule);
        return switch (mend) {
            case Mend.MoveAbove(String other) ->
                book.sectionOf(other)
                        .map(section -> book.placed(
                                rule,
                                section.id(),
                                section.rules().stream()
                                        .map(Rule::id)
                                        .filter(id -> !id.equals(rule))
                                        .toList()
                                        .indexOf(other)))
                        .orElse(book);
            case Mend.LetCarryOn(String other) ->
                book.rule(other).map(taker -> book.replaced(carryingOn(taker))).orElse(book);
            case Mend.MatchForms forms ->
                one.map(it -> book.replaced(new Rule(
                                it.id(),
                                it.name(),
                                it.description(),
                                it.on(),
                                it.occasion(),
                                withForms(it.criteria()),
                                it.deeds(),
                                it.carriesOn(),
                                it.since())))
                        .orElse(book);
        };
    }

    private static Rule carryingOn(Rule it) {
        return new Rule(
                it.id(),
                it.name(),
                it.description(),
                it.on(),
                it.occasion(),
                it.criteria(),
                it.deeds(),
                true,
                it.since());
    }
}

package rafter.core.arrival;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.order.Ordered;

/**
 * All that decides what becomes of mail that belongs to no ticket yet. Rules are read from the top, and the first that matches decides; then
 * the junk score; and what nothing takes opens a ticket.
 *
 * @param junk whether mail is set aside for its junk score
 * @param threshold from which score on, of a hundred
 */
public record ArrivalBook(List<ArrivalRule> rules, boolean junk, int threshold) {

    /** More rules nobody keeps an eye on. */
    public static final int MOST_RULES = 200;

    public static final int LOWEST_THRESHOLD = 50;
    public static final int HIGHEST_THRESHOLD = 100;

    /** Without rules, and nothing is set aside for its score. */
    public static final ArrivalBook EMPTY = new ArrivalBook(List.of(), false, 95);

    public ArrivalBook {
        rules = List.copyOf(rules);
    }

    /** Why something became of a mail. */
    public sealed interface Why {
        /** A rule says so. */
        record ByRule(ArrivalRule rule) implements Why {}

        /** It looks like what was said to be no request. */
        record ByScore(int score) implements Why {}

        /** Nothing takes it. */
        record ByDefault() implements Why {}
    }

    /** What becomes of a mail. */
    public record Decision(Admission then, Why why) {}

    /** What becomes of a mail of which this is known. */
    public Decision decide(Facts mail) {
        for (ArrivalRule rule : rules) {
            if (rule.on() && Matching.matches(rule.criteria(), mail)) {
                return new Decision(rule.then(), new Why.ByRule(rule));
            }
        }
        Optional<Integer> score = mail.of(KnownField.JUNK_SCORE, Fact.Amount.class)
                .map(amount -> amount.value().intValue());
        if (junk && score.isPresent() && score.get() >= threshold) {
            return new Decision(Admission.ASIDE, new Why.ByScore(score.get()));
        }
        return new Decision(Admission.TICKET, new Why.ByDefault());
    }

    /** What keeps it from coming into force, in words; rules that are off may be unfinished. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (rules.size() > MOST_RULES) {
            faults.add("There are more than " + MOST_RULES + " rules.");
        }
        var ids = new HashSet<String>();
        rules.stream()
                .filter(rule -> rule.id().isBlank() || !ids.add(rule.id()))
                .forEach(rule -> faults.add("Two rules have the id “" + rule.id() + "”."));
        rules.stream()
                .filter(ArrivalRule::on)
                .forEach(rule -> rule.faults().forEach(fault -> faults.add("“" + rule.name() + "”: " + fault)));
        if (threshold < LOWEST_THRESHOLD || threshold > HIGHEST_THRESHOLD) {
            faults.add("The score is a number from " + LOWEST_THRESHOLD + " to " + HIGHEST_THRESHOLD + ".");
        }
        return faults;
    }

    /** The rule of this id. */
    public Optional<ArrivalRule> rule(String id) {
        return rules.stream().filter(rule -> rule.id().equals(id)).findFirst();
    }

    /** With a rule changed, or added at the end. */
    public ArrivalBook with(ArrivalRule rule) {
        var all = new ArrayList<>(rules);
        all.replaceAll(one -> one.id().equals(rule.id()) ? rule : one);
        if (rule(rule.id()).isEmpty()) {
            all.add(rule);
        }
        return with(all);
    }

    /** Without a rule. */
    public ArrivalBook without(String id) {
        return with(rules.stream().filter(rule -> !rule.id().equals(id)).toList());
    }

    /** With a rule so many places further down; up for less than nothing. */
    public ArrivalBook moved(String id, int by) {
        return with(Ordered.moved(
                rules, rules.stream().map(ArrivalRule::id).toList().indexOf(id), by));
    }

    /** With these rules. */
    public ArrivalBook with(List<ArrivalRule> others) {
        return new ArrivalBook(others, junk, threshold);
    }

    /** With mail set aside from this score on, or not. */
    public ArrivalBook withJunk(boolean on, int from) {
        return new ArrivalBook(rules, on, from);
    }
}

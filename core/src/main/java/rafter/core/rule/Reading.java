package rafter.core.rule;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/**
 * Reads a book from the top at one occasion: which rules are asked, which match, where the reading ends. A rule that matches is handed to
 * whoever does its deeds at once, so that the rules below are asked about the ticket as it is then. O(r) for r rules.
 */
public final class Reading {

    /** So far a change that a rule made can start others that make changes that start others. */
    public static final int DEEPEST = 5;

    /** What came of asking a rule. */
    public enum Result {
        MATCHED,
        NOT_MATCHED,
        /** A rule above it in its section matched and does not carry on. */
        NOT_REACHED,
        /** It did its work for this cause already. */
        ONCE_ALREADY,
        OFF
    }

    /** A rule that was come by. */
    public record Read(Rule rule, Result result) {}

    private Reading() {}

    /** What a book is read for. */
    public sealed interface Trigger {
        /** A ticket came. */
        record Came() implements Trigger {}

        /**
         * Something happened to it.
         *
         * @param about the tag that was put on, or the key of the field; blank for others
         */
        record Happened(Happening what, Set<String> about) implements Trigger {
            public Happened {
                about = Set.copyOf(about);
            }
        }

        /** The time of one rule came. */
        record Time(String rule) implements Trigger {}

        /** What a book is read for because of an event; nothing when no rule waits for such events. */
        static Optional<Trigger> of(Ticket before, TicketEvent event) {
            return Happening.of(before, event).map(what -> new Happened(what, about(before, event)));
        }

        /** The tags that an event puts on, or the field that it fills. */
        private static Set<String> about(Ticket before, TicketEvent event) {
            if (event instanceof TicketEvent.FieldSet field) {
                return Set.of(field.field());
            }
            return event instanceof TicketEvent.TagsChanged tags
                    ? tags.tags().stream()
                            .filter(tag -> !before.tags().contains(tag))
                            .collect(Collectors.toSet())
                    : Set.of();
        }

        /** Whether a rule is read then. */
        default boolean reads(Rule rule) {
            return switch (this) {
                case Came came -> rule.occasion() instanceof Occasion.Arrival;
                case Happened(Happening what, Set<String> about) ->
                    rule.occasion() instanceof Occasion.Change change
                            && change.of().contains(what)
                            && (change.about().isBlank() || about.isEmpty() || about.contains(change.about()));
                case Time(String id) -> rule.id().equals(id) && rule.occasion() instanceof Occasion.Clock;
            };
        }
    }

    /**
     * Reads a book.
     *
     * @param done the ids of the rules that did their work for this cause already; those that do it now are added
     * @param matches whether a rule matches the ticket as it is at that moment
     * @param does does the deeds of a rule
     */
    public static List<Read> read(
            RuleBook book, Trigger trigger, Set<String> done, Predicate<Rule> matches, Consumer<Rule> does) {
        var all = new ArrayList<Read>();
        for (RuleBook.Section section : book.sections()) {
            boolean ended = false;
            for (Rule rule : section.rules()) {
                if (!trigger.reads(rule)) {
                    continue;
                }
                Result result = ended ? Result.NOT_REACHED : ask(rule, done, matches);
                all.add(new Read(rule, result));
                if (result == Result.MATCHED) {
                    done.add(rule.id());
                    does.accept(rule);
                    ended = !rule.carriesOn();
                } else if (result == Result.ONCE_ALREADY && !rule.carriesOn()) {
                    // It does nothing twice, and yet what it would take is its own.
                    ended = matches.test(rule);
                }
            }
        }
        return all;
    }

    private static Result ask(Rule rule, Set<String> done, Predicate<Rule> matches) {
        if (!rule.on()) {
            return Result.OFF;
        }
        if (done.contains(rule.id())) {
            return Result.ONCE_ALREADY;
        }
        return matches.test(rule) ? Result.MATCHED : Result.NOT_MATCHED;
    }

    /** The rules that match when nothing that they do changes what others are asked; for rehearsing. */
    public static Set<String> matching(RuleBook book, Trigger trigger, Predicate<Rule> matches) {
        var matching = new HashSet<String>();
        read(book, trigger, new HashSet<>(), matches, rule -> matching.add(rule.id()));
        return matching;
    }

    /** Which rule ended the reading above one that was not reached. */
    public static Optional<Rule> ender(RuleBook book, List<Read> reads, Rule notReached) {
        Set<String> matched = new HashSet<>();
        reads.stream()
                .filter(read -> read.result() == Result.MATCHED)
                .forEach(read -> matched.add(read.rule().id()));
        return book.sectionOf(notReached.id()).stream()
                .flatMap(section -> section.rules().stream())
                .filter(rule -> matched.contains(rule.id()) && !rule.carriesOn())
                .findFirst();
    }
}

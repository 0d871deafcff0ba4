package rafter.core.rule;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Matching;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/**
 * Reads a book for a ticket as it stood at an instant, and nothing comes of it: what rules would do is carried along in memory, so that the
 * rules below are asked about the ticket that there would be.
 */
public final class RuleTrial {

    /** What deeds would add to a ticket; nothing for those that change nothing about it. */
    @FunctionalInterface
    public interface Effects {
        List<TicketEvent> of(Ticket ticket, Deed deed, Instant now);
    }

    /**
     * A book that is tried.
     *
     * @param scan for the words of its rules
     */
    public record Tried(RuleBook book, PhraseScan scan) {
        /** A book with the scan for it. */
        public static Tried of(RuleBook book) {
            return new Tried(
                    book,
                    PhraseScan.of(book.rules().stream()
                            .filter(Rule::on)
                            .map(Rule::criteria)
                            .toList()));
        }
    }

    /**
     * A ticket as it stood.
     *
     * @param customer what was known of its customer, and of what they had written
     * @param events all that had happened to it
     * @param clocks reckons its clocks for a longer history
     */
    public record Stood(
            Facts customer, List<TicketEvent> events, Function<List<TicketEvent>, List<TargetClock>> clocks) {}

    /**
     * What came of it.
     *
     * @param reads the rules that were come by, in order
     * @param facts what each of them was asked about, by its id
     */
    public record Outcome(List<Reading.Read> reads, Map<String, Facts> facts) {

        /** The ids of the rules that matched. */
        public Set<String> matched() {
            var ids = new HashSet<String>();
            reads.stream()
                    .filter(read -> read.result() == Reading.Result.MATCHED)
                    .forEach(read -> ids.add(read.rule().id()));
            return ids;
        }
    }

    private RuleTrial() {}

    /** Reads a book for a ticket as it stood at an instant. */
    public static Outcome read(Tried tried, Reading.Trigger trigger, Stood stood, Effects effects, Instant at) {
        var nobody = Asking.ofNobody(at);
        var asked = new HashMap<String, Facts>();
        var now = new Object() {
            Course course = new Course(stood.events(), Ticket.replay(stood.events()));
            Facts facts = course.facts(stood);
            Matching.Finder finder = tried.scan().over(facts);
        };
        List<Reading.Read> reads = Reading.read(
                tried.book(),
                trigger,
                new HashSet<>(),
                rule -> {
                    asked.put(rule.id(), now.facts);
                    return Matching.matches(nobody.resolve(rule.criteria()), now.facts, now.finder);
                },
                rule -> {
                    now.course = now.course.after(rule, effects, at);
                    now.facts = now.course.facts(stood);
                    now.finder = tried.scan().over(now.facts);
                });
        return new Outcome(reads, asked);
    }

    /** What has happened to a ticket, and the ticket that this makes. */
    private record Course(List<TicketEvent> events, Ticket ticket) {

        /** Once a rule has done its work, each deed on the ticket as those before it leave it. */
        Course after(Rule rule, Effects effects, Instant at) {
            Course course = this;
            for (Deed deed : rule.deeds()) {
                course = course.with(effects.of(course.ticket, deed, at));
            }
            return course;
        }

        private Course with(List<TicketEvent> more) {
            if (more.isEmpty()) {
                return this;
            }
            var all = new ArrayList<>(events);
            all.addAll(more);
            return new Course(all, Ticket.replay(all));
        }

        Facts facts(Stood stood) {
            return RuleFacts.of(stood.customer(), events, ticket, stood.clocks().apply(events));
        }
    }

    /** The rules that were not reached and would have matched, each with the rule that took the ticket before it. */
    public static Map<String, String> taken(RuleBook book, Outcome outcome, Facts facts, Instant at) {
        var nobody = Asking.ofNobody(at);
        var taken = new HashMap<String, String>();
        for (Reading.Read read : outcome.reads()) {
            if (read.result() == Reading.Result.NOT_REACHED
                    && read.rule().on()
                    && Matching.matches(nobody.resolve(read.rule().criteria()), facts)) {
                Reading.ender(book, outcome.reads(), read.rule())
                        .ifPresent(by -> taken.put(read.rule().id(), by.id()));
            }
        }
        return taken;
    }
}

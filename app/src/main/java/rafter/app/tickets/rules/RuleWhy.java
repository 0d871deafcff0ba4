package rafter.app.tickets.rules;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Sentence;
import rafter.core.criteria.Verdict;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleFacts;
import rafter.core.rule.RuleRehearsal;
import rafter.core.rule.RuleTrial;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/**
 * Says why rules matched or did not: of a reading that was, by reading the version of the time again on the ticket as it stood then, rule by
 * rule; of a rehearsed ticket; of a message that somebody tries.
 */
@Component
class RuleWhy {

    /**
     * A rule that was come by.
     *
     * @param result what came of asking it
     * @param whys what decided, in words
     * @param done what it did, and {@code failed} what it could not do
     */
    public record Step(
            String rule,
            String name,
            Reading.Result result,
            List<String> whys,
            List<String> done,
            List<String> failed) {

        public boolean matched() {
            return result == Reading.Result.MATCHED;
        }

        /** What came of asking it, in words. */
        public String words() {
            return switch (result) {
                case MATCHED -> "matched";
                case NOT_MATCHED -> "did not match";
                case NOT_REACHED -> "was not reached";
                case ONCE_ALREADY -> "had done its work for this already";
                case OFF -> "is off";
            };
        }
    }

    /** A reading, and each rule in it. */
    public record Told(String at, String trigger, long version, int depth, List<Step> steps) {
        public long matched() {
            return steps.stream().filter(Step::matched).count();
        }
    }

    /** Why a rehearsed ticket would be treated otherwise. */
    public record Changed(String subject, String rule, String words) {}

    private static final int MOST = 40;

    private final TicketStore store;
    private final CustomerFacts customers;
    private final RulePast past;
    private final RuleBooks books;
    private final RuleWords words;
    private final RuleLog log;
    private final Targets targets;
    private final Viewers viewers;
    private final Clock clock;

    RuleWhy(
            TicketStore store,
            CustomerFacts customers,
            RulePast past,
            RuleBooks books,
            RuleWords words,
            RuleLog log,
            Targets targets,
            Viewers viewers,
            Clock clock) {
        this.store = store;
        this.customers = customers;
        this.past = past;
        this.books = books;
        this.words = words;
        this.log = log;
        this.targets = targets;
        this.viewers = viewers;
        this.clock = clock;
    }

    // ------------------------------------------------------------------ what was read

    /** The last readings for a ticket, the newest first, with every rule in them. */
    @Transactional(readOnly = true)
    public List<Told> of(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        List<TicketEvent> events = store.events(number);
        Facts customer = customer(number);
        List<RulePast.Said> said = past.said(List.of(number)).getOrDefault(number, List.of());
        Map<Long, List<RuleLog.Run>> runs = log.runs(number);
        ZoneId zone = targets.zone();
        var told = new ArrayList<Told>();
        for (RuleLog.Past reading : log.readings(number, MOST)) {
            RuleBook book = books.edition(reading.edition()).book();
            told.add(new Told(
                    Say.when(reading.at(), clock.instant(), zone),
                    words.trigger(reading.trigger(), book),
                    reading.edition(),
                    reading.depth(),
                    steps(reading, book, runs.getOrDefault(reading.id(), List.of()), events, customer, said)));
        }
        return told;
    }

    private Facts customer(TicketNumber number) {
        return customers
                .customers(List.of(number), EnumSet.allOf(KnownField.class))
                .getOrDefault(number, Facts.none());
    }

    /** Reads again: what rules did then is what they did, so each is asked about the ticket as those above had left it. */
    private List<Step> steps(
            RuleLog.Past reading,
            RuleBook book,
            List<RuleLog.Run> runs,
            List<TicketEvent> events,
            Facts customer,
            List<RulePast.Said> said) {
        Map<String, RuleLog.Run> ran =
                runs.stream().collect(Collectors.toMap(RuleLog.Run::rule, run -> run, (a, b) -> a));
        var at = new Object() {
            int seq = reading.readSeq();
            Facts facts = facts(customer, events, said, seq, reading.at());
        };
        Sentence sentence = words.sentence();
        Set<String> before = doneBefore(reading, ran.keySet());
        var verdicts = new java.util.HashMap<String, Verdict>();
        List<Reading.Read> reads = Reading.read(
                book,
                reading.trigger(),
                before,
                rule -> {
                    Verdict verdict = verdict(rule.criteria(), at.facts, reading.at());
                    verdicts.put(rule.id(), verdict);
                    return verdict.matches();
                },
                rule -> Optional.ofNullable(ran.get(rule.id())).ifPresent(run -> {
                    at.seq = run.afterSeq();
                    at.facts = facts(customer, events, said, at.seq, reading.at());
                }));
        return reads.stream()
                .map(read -> {
                    var verdict = Optional.ofNullable(verdicts.get(read.rule().id()));
                    return step(read, book, reads, verdict, ran, sentence);
                })
                .toList();
    }

    /** The rules that did their work for the same cause in a reading before this one. */
    private Set<String> doneBefore(RuleLog.Past reading, Set<String> now) {
        Set<String> done = new HashSet<>();
        if (reading.depth() > 0) {
            log.readings(reading.ticket(), 200).stream()
                    .filter(one -> one.at().equals(reading.at()) && one.id() < reading.id())
                    .forEach(one -> log.runs(reading.ticket())
                            .getOrDefault(one.id(), List.of())
                            .forEach(run -> done.add(run.rule())));
        }
        done.removeAll(now);
        return done;
    }

    private Facts facts(Facts customer, List<TicketEvent> events, List<RulePast.Said> said, int seq, Instant at) {
        List<TicketEvent> so = events.subList(0, Math.min(seq, events.size()));
        RuleTrial.Stood stood = past.stood(customer, so, said, at, EnumSet.allOf(KnownField.class));
        return RuleFacts.of(
                stood.customer(), so, Ticket.replay(so), stood.clocks().apply(so));
    }

    private static Verdict verdict(Criteria criteria, Facts facts, Instant at) {
        var nobody = Asking.ofNobody(at);
        return Matching.explain(nobody.resolve(criteria), facts).asWritten(criteria);
    }

    private static Step step(
            Reading.Read read,
            RuleBook book,
            List<Reading.Read> reads,
            Optional<Verdict> verdict,
            Map<String, RuleLog.Run> ran,
            Sentence sentence) {
        List<String> whys = switch (read.result()) {
            case MATCHED, NOT_MATCHED -> verdict.map(one -> whys(one, sentence)).orElse(List.of());
            case NOT_REACHED ->
                Reading.ender(book, reads, read.rule())
                        .map(by -> List.of("“" + by.name() + "” ended the reading of this section"))
                        .orElse(List.of());
            case ONCE_ALREADY, OFF -> List.of();
        };
        Optional<RuleLog.Run> run = Optional.ofNullable(ran.get(read.rule().id()));
        return new Step(
                read.rule().id(),
                read.rule().name(),
                read.result(),
                whys,
                run.map(RuleLog.Run::done).orElse(List.of()),
                run.map(RuleLog.Run::failed).orElse(List.of()));
    }

    private static List<String> whys(Verdict verdict, Sentence sentence) {
        List<Verdict> decisive = Matching.decisive(verdict);
        return decisive.isEmpty() && verdict.matches()
                ? List.of("it takes every ticket")
                : decisive.stream().map(sentence::why).toList();
    }

    // ------------------------------------------------------------------ what would be

    /** Why a ticket of a rehearsal would be treated otherwise; nothing when it is gone, or not for this person to see. */
    @Transactional(readOnly = true)
    public Optional<Changed> of(RuleBook book, RuleRehearsal.Changed changed, Viewer me) {
        if (!viewers.maySee(me, changed.ticket())) {
            return Optional.empty();
        }
        List<TicketEvent> events = store.events(changed.ticket());
        Optional<Rule> then = book.rule(changed.rule());
        Optional<Rule> rule = then.or(() -> books.current().book().rule(changed.rule()));
        if (events.isEmpty() || rule.isEmpty()) {
            return Optional.empty();
        }
        int seq = (int) events.stream()
                .filter(event -> !event.at().isAfter(changed.at()))
                .count();
        List<RulePast.Said> said = past.said(List.of(changed.ticket())).getOrDefault(changed.ticket(), List.of());
        Facts facts = facts(customer(changed.ticket()), events, said, seq, changed.at());
        Verdict verdict = verdict(rule.get().criteria(), facts, changed.at());
        String why = verdict.matches() && !changed.more()
                ? then.isPresent() ? "a rule above takes it" : "the rule is removed"
                : String.join("; ", whys(verdict, words.sentence()));
        String subject = Ticket.replay(events).subject();
        return Optional.of(new Changed(subject, rule.get().name(), why));
    }

    /** A ticket as it came. */
    @Transactional(readOnly = true)
    public RuleTrial.Stood arrival(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        List<TicketEvent> events = RulePast.arrival(store.events(number));
        List<RulePast.Said> said = past.said(List.of(number)).getOrDefault(number, List.of());
        return past.stood(customer(number), events, said, events.getLast().at(), EnumSet.allOf(KnownField.class));
    }

    /** Whether there is a ticket of this number that somebody may see. */
    @Transactional(readOnly = true)
    public boolean there(TicketNumber number, Viewer me) {
        return viewers.maySee(me, number) && !store.events(number).isEmpty();
    }

    /** When a ticket came. */
    Instant arrivedAt(TicketNumber number) {
        return store.events(number).getFirst().at();
    }

    /** What a trial came to, step by step; what it would do in words. */
    List<Step> of(RuleTrial.Outcome outcome, RuleBook book, Instant at) {
        Sentence sentence = words.sentence();
        return outcome.reads().stream()
                .map(read -> {
                    Optional<Verdict> verdict = Optional.ofNullable(
                                    outcome.facts().get(read.rule().id()))
                            .map(facts -> verdict(read.rule().criteria(), facts, at));
                    Step step = step(read, book, outcome.reads(), verdict, Map.of(), sentence);
                    return step.matched()
                            ? new Step(
                                    step.rule(),
                                    step.name(),
                                    step.result(),
                                    step.whys(),
                                    words.said(read.rule(), sentence).deeds(),
                                    words.faults(read.rule()))
                            : step;
                })
                .toList();
    }
}

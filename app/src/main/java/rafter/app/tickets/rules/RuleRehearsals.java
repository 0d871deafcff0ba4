package rafter.app.tickets.rules;

import static rafter.database.Tables.RULE_REHEARSAL;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.criteria.CriteriaSql;
import rafter.app.platform.BackgroundWork;
import rafter.app.platform.Guard;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.policies.Histories;
import rafter.app.promises.targets.Targets;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.criteria.FieldType;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Happening;
import rafter.core.rule.Occasion;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;
import rafter.core.rule.RuleBookJson;
import rafter.core.rule.RuleChecks;
import rafter.core.rule.RuleRehearsal;
import rafter.core.rule.RuleTrial;
import rafter.core.target.TargetClock;
import rafter.core.text.Words;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.time.WorkingTime;
import tools.jackson.databind.json.JsonMapper;

/** Reads a changed book, or one rule of it, for recorded tickets, in the background; nothing is changed or sent. */
@Component
class RuleRehearsals implements BackgroundWork.AtOnce {

    private static final String KIND = "rule-rehearsal";
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int PARTS = 2;
    private static final Duration USUAL = Duration.ofDays(90);

    /**
     * What came of a rehearsal, as it is kept.
     *
     * @param otherForms by field and phrase, the form that stands in tickets where the phrase itself does not
     */
    record Kept(RuleRehearsal.Result result, Map<String, String> otherForms) {}

    /** A rehearsal, and how far it got; {@code rule} is blank for the whole book. */
    record Run(
            long id,
            String rule,
            Instant from,
            Instant to,
            int version,
            RuleBook book,
            BackgroundWork.Work work,
            Optional<Kept> kept) {}

    private final DSLContext sql;
    private final RuleBooks books;
    private final RuleDeeds deeds;
    private final RulePast past;
    private final Targets targets;
    private final Histories histories;
    private final BackgroundWork work;
    private final Guard guard;
    private final Clock clock;

    RuleRehearsals(
            DSLContext sql,
            RuleBooks books,
            RuleDeeds deeds,
            RulePast past,
            Targets targets,
            Histories histories,
            BackgroundWork work,
            Guard guard,
            Clock clock) {
        this.sql = sql;
        this.books = books;
        this.deeds = deeds;
        this.past = past;
        this.targets = targets;
        this.histories = histories;
        this.work = work;
        this.guard = guard;
        this.clock = clock;
    }

    /**
     * Starts a rehearsal of the book as it is being changed, against the 90 days to now.
     *
     * @param rule the rule alone; blank: the whole book
     */
    @Transactional
    public long start(String rule, PersonId by) {
        guard.houseRules(by);
        RuleBooks.Draft draft = books.draft();
        if (!rule.isBlank() && draft.book().rule(rule).isEmpty()) {
            throw new Problem.Invalid("There is no such rule any more.");
        }
        Instant to = clock.instant();
        Instant from = to.minus(USUAL);
        long id = sql.insertInto(RULE_REHEARSAL)
                .set(RULE_REHEARSAL.PERSON_ID, by)
                .set(RULE_REHEARSAL.STARTED_AT, to)
                .set(RULE_REHEARSAL.FROM_AT, from)
                .set(RULE_REHEARSAL.TO_AT, to)
                .set(RULE_REHEARSAL.RULE_ID, rule)
                .set(RULE_REHEARSAL.DRAFT_VERSION, draft.version())
                .set(RULE_REHEARSAL.DOCUMENT, JSONB.valueOf(RuleBookJson.write(draft.book())))
                .returning(RULE_REHEARSAL.ID)
                .fetchSingle(RULE_REHEARSAL.ID);
        work.begin(KIND, id, histories.count(from, to), Optional.of(by));
        return id;
    }

    /** A rehearsal. */
    Run find(long id) {
        return sql.selectFrom(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.ID.eq(id))
                .fetchOptional(r -> new Run(
                        r.getId(),
                        r.getRuleId(),
                        r.getFromAt(),
                        r.getToAt(),
                        r.getDraftVersion(),
                        RuleBookJson.read(r.getDocument().data()),
                        work.find(KIND, id).orElseThrow(),
                        Optional.ofNullable(r.getResult()).map(json -> JSON.readValue(json.data(), Kept.class))))
                .orElseThrow(() -> new Problem.NotFound("There is no such rehearsal."));
    }

    /** The latest rehearsal of the book as it is now, if there is one. */
    Optional<Long> latest(int version) {
        return sql.select(RULE_REHEARSAL.ID)
                .from(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.DRAFT_VERSION.eq(version))
                .orderBy(RULE_REHEARSAL.ID.desc())
                .limit(1)
                .fetchOptional(RULE_REHEARSAL.ID);
    }

    /** Runs a rehearsal from its beginning; a second time changes nothing once it has finished. */
    void run(long id) {
        work.run(KIND, id);
    }

    /** Ends a rehearsal without a result. */
    void cancel(long id, PersonId by) {
        guard.houseRules(by);
        work.cancel(KIND, id);
    }

    @Override
    public String key() {
        return KIND;
    }

    // ------------------------------------------------------------------ what is wrong with a book

    /** The last rehearsal of a whole book that came to an end. */
    private Optional<Run> lastWhole() {
        return sql.select(RULE_REHEARSAL.ID)
                .from(RULE_REHEARSAL)
                .where(RULE_REHEARSAL.RULE_ID.eq(""))
                .and(RULE_REHEARSAL.RESULT.isNotNull())
                .orderBy(RULE_REHEARSAL.ID.desc())
                .limit(1)
                .fetchOptional(RULE_REHEARSAL.ID)
                .map(this::find);
    }

    /** When the book was last read for recorded tickets, in words; blank when it never was. */
    String lastWords() {
        return lastWhole()
                .map(run -> "Looked for in "
                        + Say.number(run.kept().orElseThrow().result().tickets())
                        + " tickets of the 90 days to "
                        + Say.when(run.to(), clock.instant(), targets.zone()) + ".")
                .orElse("");
    }

    /** What is wrong with the rules of a book among each other, by logic, and as far as history was looked at, by that. */
    List<RuleChecks.Finding> findings(RuleBook book) {
        Optional<Run> last = lastWhole();
        return RuleChecks.of(
                book, last.<RuleChecks.History>map(run -> new Told(run, book)).orElse(Told.NOTHING));
    }

    /** What a rehearsal tells of a book; of one that was changed since, only what does not depend on its order. */
    private record Told(long tickets, boolean same, Optional<Kept> kept) implements RuleChecks.History {

        static final Told NOTHING = new Told(0, false, Optional.empty());

        Told(Run run, RuleBook book) {
            this(
                    run.kept().map(kept -> kept.result().tickets()).orElse(0L),
                    run.book().asWritten().equals(book.asWritten()),
                    run.kept());
        }

        @Override
        public Optional<Long> matched(String rule) {
            return same
                    ? kept.map(one -> Optional.ofNullable(one.result().byRule().get(rule))
                            .map(RuleRehearsal.Tally::then)
                            .orElse(0L))
                    : Optional.empty();
        }

        @Override
        public Map<String, Long> takenBy(String rule) {
            return same
                    ? kept.map(one -> one.result().takenBy().getOrDefault(rule, Map.of()))
                            .orElse(Map.of())
                    : Map.of();
        }

        @Override
        public boolean has(Field field, String phrase) {
            return otherForm(field, phrase).isEmpty();
        }

        @Override
        public Optional<String> otherForm(Field field, String phrase) {
            return kept.flatMap(one -> Optional.ofNullable(one.otherForms().get(key(field, phrase))));
        }
    }

    private static String key(Field field, String phrase) {
        return field.key() + " " + Words.fold(phrase);
    }

    // ------------------------------------------------------------------ doing it

    @Override
    public void whole(BackgroundWork.Work work, BackgroundWork.Progress progress) {
        Run run = find(work.about());
        RuleRehearsal.Result result = rehearse(run, progress);
        var kept = new Kept(result, run.rule().isBlank() ? otherForms(run) : Map.of());
        sql.update(RULE_REHEARSAL)
                .set(RULE_REHEARSAL.RESULT, JSONB.valueOf(JSON.writeValueAsString(kept)))
                .where(RULE_REHEARSAL.ID.eq(run.id()))
                .execute();
        progress.done(result.tickets());
    }

    private RuleRehearsal.Result rehearse(Run run, BackgroundWork.Progress progress) {
        RuleBook now = only(books.current().book(), run.rule());
        RuleBook then = only(run.book(), run.rule());
        var done = new AtomicLong();
        try (var pool = Executors.newFixedThreadPool(PARTS)) {
            var parts = new ArrayList<Future<RuleRehearsal>>();
            for (int part = 0; part < PARTS; part++) {
                int which = part;
                parts.add(pool.submit(() -> {
                    var sums = new RuleRehearsal(run.from());
                    var walk = new Walk(run, RuleTrial.Tried.of(now), RuleTrial.Tried.of(then), sums);
                    Consumer<List<Histories.History>> each = some -> {
                        walk.take(some);
                        progress.done(done.addAndGet(some.size()));
                    };
                    if (walk.ofArrivals()) {
                        histories.walkBeginnings(run.from(), run.to(), which, PARTS, walk.wanted(), each);
                    } else {
                        histories.walk(run.from(), run.to(), which, PARTS, walk.wanted(), each);
                    }
                    return sums;
                }));
            }
            RuleRehearsal whole = parts.removeFirst().get();
            for (Future<RuleRehearsal> part : parts) {
                whole.add(part.get());
            }
            return whole.result();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof BackgroundWork.Cancelled cancelled) {
                throw cancelled;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    private static RuleBook only(RuleBook book, String rule) {
        return rule.isBlank()
                ? book
                : new RuleBook(book.sections().stream()
                        .map(section -> new RuleBook.Section(
                                section.id(),
                                section.name(),
                                section.rules().stream()
                                        .filter(one -> one.id().equals(rule))
                                        .toList()))
                        .toList());
    }

    /** Walks through recorded tickets with two books. */
    private final class Walk {
        private final Run run;
        private final RuleTrial.Tried now;
        private final RuleTrial.Tried then;
        private final RuleRehearsal sums;
        private final RuleTrial.Effects effects = deeds.effects();
        private final Set<KnownField> asked = EnumSet.noneOf(KnownField.class);
        private final List<Rule> clockRules;
        private final boolean changes;
        private final boolean same;

        Walk(Run run, RuleTrial.Tried now, RuleTrial.Tried then, RuleRehearsal sums) {
            this.run = run;
            this.now = now;
            this.then = then;
            this.sums = sums;
            List<Rule> all = Stream.concat(now.book().rules().stream(), then.book().rules().stream())
                    .filter(Rule::on)
                    .toList();
            all.forEach(rule -> asked.addAll(KnownField.askedBy(rule.criteria())));
            this.changes = all.stream().anyMatch(rule -> rule.occasion() instanceof Occasion.Change);
            this.clockRules = all.stream()
                    .filter(rule -> rule.occasion() instanceof Occasion.Clock)
                    .toList();
            this.same = now.book().asWritten().equals(then.book().asWritten());
        }

        /** Whether nothing is asked about what happened after tickets came. */
        boolean ofArrivals() {
            return !changes && clockRules.isEmpty();
        }

        /** What is asked about customers; what promises ask, too, where clocks are reckoned. */
        Set<KnownField> wanted() {
            var wanted = EnumSet.noneOf(KnownField.class);
            wanted.addAll(asked);
            if (!ofArrivals() || RulePast.asksClocks(asked)) {
                wanted.addAll(targets.asked());
            }
            return wanted;
        }

        void take(List<Histories.History> some) {
            Map<TicketNumber, List<RulePast.Said>> said = asked.contains(KnownField.ANY_MESSAGE)
                    ? past.said(some.stream().map(Histories.History::ticket).toList())
                    : Map.of();
            for (Histories.History history : some) {
                sums.ticket(one(history, said.getOrDefault(history.ticket(), List.of())));
            }
        }

        private boolean one(Histories.History history, List<RulePast.Said> said) {
            List<TicketEvent> events = history.events();
            boolean differs = false;
            List<TicketEvent> arrival = RulePast.arrival(events);
            if (within(arrival.getFirst().at())) {
                differs |= read(
                        history,
                        new Reading.Trigger.Came(),
                        arrival,
                        said,
                        arrival.getLast().at());
            }
            for (int i = arrival.size(); changes && i < events.size(); i++) {
                TicketEvent event = events.get(i);
                if (!within(event.at()) || event.actor().equals(Actor.system())) {
                    continue;
                }
                List<TicketEvent> before = events.subList(0, i);
                Optional<Happening> what = Happening.of(Ticket.replay(before), event);
                if (what.isPresent()) {
                    var trigger =
                            new Reading.Trigger.Happened(what.get(), RuleFiring.about(Ticket.replay(before), event));
                    differs |= read(history, trigger, events.subList(0, i + 1), said, event.at());
                }
            }
            boolean timed = times(history, said);
            return differs || timed;
        }

        private boolean within(Instant at) {
            return !at.isBefore(run.from()) && at.isBefore(run.to());
        }

        /** The times of rules on the clock that lie between each event and the next. */
        private boolean times(Histories.History history, List<RulePast.Said> said) {
            boolean differs = false;
            List<TicketEvent> events = history.events();
            var dealt = new HashSet<RuleLog.Due>();
            WorkingTime hours = targets.terms().hours();
            for (int i = 1; !clockRules.isEmpty() && i <= events.size(); i++) {
                List<TicketEvent> so = events.subList(0, i);
                Instant until = i < events.size() ? events.get(i).at() : run.to();
                Ticket ticket = Ticket.replay(so);
                for (Rule rule : clockRules) {
                    differs |= times(history, said, rule, so, ticket, until, hours, dealt);
                }
            }
            return differs;
        }

        private boolean times(
                Histories.History history,
                List<RulePast.Said> said,
                Rule rule,
                List<TicketEvent> so,
                Ticket ticket,
                Instant until,
                WorkingTime hours,
                Set<RuleLog.Due> dealt) {
            if (!(rule.occasion() instanceof Occasion.Clock occasion)) {
                return false;
            }
            Instant last = so.getLast().at();
            List<TargetClock> clocks = occasion.moment() == rafter.core.rule.Moment.DUE
                    ? targets.reckon(so, history.customer(), last)
                    : List.of();
            Optional<Instant> base = occasion.moment().on(ticket, so, clocks);
            boolean differs = false;
            if (base.isPresent()) {
                List<Instant> instants = occasion.instants(base.get(), hours);
                for (int nth = 0; nth < instants.size(); nth++) {
                    Instant at = instants.get(nth);
                    boolean due = at.isBefore(until) && !at.isBefore(last) && within(at);
                    if (due && dealt.add(new RuleLog.Due(rule.id(), base.get(), nth))) {
                        differs |= read(history, new Reading.Trigger.Time(rule.id()), so, said, at);
                    }
                }
            }
            return differs;
        }

        private boolean read(
                Histories.History history,
                Reading.Trigger trigger,
                List<TicketEvent> events,
                List<RulePast.Said> said,
                Instant at) {
            boolean nobody = Stream.concat(now.book().rules().stream(), then.book().rules().stream())
                    .noneMatch(trigger::reads);
            if (nobody || !rafter.core.rule.RuleFacts.readFor(Ticket.replay(events))) {
                return false;
            }
            Facts customer = history.customer();
            RuleTrial.Stood stood = past.stood(customer, events, said, at, asked);
            RuleTrial.Outcome changed = RuleTrial.read(then, trigger, stood, effects, at);
            Set<String> before = same
                    ? changed.matched()
                    : RuleTrial.read(now, trigger, stood, effects, at).matched();
            Facts facts = changed.reads().stream().anyMatch(read -> read.result() == Reading.Result.NOT_REACHED)
                    ? rafter.core.rule.RuleFacts.of(
                            stood.customer(),
                            events,
                            Ticket.replay(events),
                            stood.clocks().apply(events))
                    : Facts.none();
            return sums.take(
                    history.ticket(), at, before, changed.matched(), RuleTrial.taken(then.book(), changed, facts, at));
        }
    }

    // ------------------------------------------------------------------ words in another form

    /** Of phrases that no ticket of the period has, the first form that one has. */
    private Map<String, String> otherForms(Run run) {
        var found = new HashMap<String, String>();
        for (Rule rule : run.book().rules()) {
            if (rule.on()) {
                phrases(rule.criteria()).forEach(test -> {
                    for (String phrase : test.values()) {
                        if (!phrase.isBlank() && !stands(test.field(), phrase, run)) {
                            forms(phrase)
                                    .filter(form -> stands(test.field(), form, run))
                                    .findFirst()
                                    .ifPresent(form -> found.put(key(test.field(), phrase), form));
                        }
                    }
                });
            }
        }
        return found;
    }

    /** The phrase with each of its words in each of its forms, the others as they are. */
    private static Stream<String> forms(String phrase) {
        List<String> words = Words.list(phrase);
        return java.util.stream.IntStream.range(0, words.size())
                .boxed()
                .flatMap(i -> Words.forms(words.get(i)).stream()
                        .filter(form -> !form.equals(words.get(i)))
                        .map(form -> {
                            var other = new ArrayList<>(words);
                            other.set(i, form);
                            return String.join(" ", other);
                        }));
    }

    private boolean stands(Field field, String phrase, Run run) {
        return sql.fetchExists(
                TICKET,
                TICKET.OPENED_AT.ge(run.from()),
                CriteriaSql.condition(new Criteria.Test(field, Operator.HAS_ANY, List.of(phrase))));
    }

    private static Stream<Criteria.Test> phrases(Criteria criteria) {
        return switch (criteria) {
            case Criteria.All(List<Criteria> parts) -> parts.stream().flatMap(RuleRehearsals::phrases);
            case Criteria.Any(List<Criteria> parts) -> parts.stream().flatMap(RuleRehearsals::phrases);
            case Criteria.Not(Criteria part) -> phrases(part);
            case Criteria.Expert expert -> Stream.of();
            case Criteria.Test test ->
                test.field().type() == FieldType.WORDS && test.operator() == Operator.HAS_ANY
                        ? Stream.of(test)
                        : Stream.of();
        };
    }
}

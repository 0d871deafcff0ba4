package rafter.app.tickets.rules;

import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.notices.Notices;
import rafter.app.platform.Writes;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acknowledgements;
import rafter.app.tickets.acts.Causes;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.Looks;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Happening;
import rafter.core.rule.Reading;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleFacts;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/**
 * Reads the book for what happened to tickets and for the times that came. Each ticket is one transaction: what the rules did, that they
 * did it, and that what caused it is read become true together, so everything is done once, with any number of nodes and through
 * crashes.
 */
@Component
class RuleFiring {

    private static final Reading.Trigger STEP = new Reading.Trigger.Happened(Happening.TARGET_STEP, Set.of());
    /** So many tickets share a transaction. */
    private static final int TOGETHER = 25;

    private static final Logger LOG = LoggerFactory.getLogger(RuleFiring.class);

    private final DSLContext sql;
    private final Writes writes;
    private final TransactionTemplate transaction;
    private final TicketStore store;
    private final CustomerFacts customers;
    private final Causes causes;
    private final Targets targets;
    private final RuleBooks books;
    private final RuleDeeds deeds;
    private final RuleTimers timers;
    private final RuleLog log;
    private final Notices notices;
    private final Acknowledgements acknowledgements;
    private final ObjectProvider<Looks.After> after;
    private final Looks looks;
    private final Clock clock;

    RuleFiring(
            DSLContext sql,
            Writes writes,
            TransactionTemplate transaction,
            TicketStore store,
            CustomerFacts customers,
            Causes causes,
            Targets targets,
            RuleBooks books,
            RuleDeeds deeds,
            RuleTimers timers,
            RuleLog log,
            Notices notices,
            Acknowledgements acknowledgements,
            ObjectProvider<Looks.After> after,
            Looks looks,
            Clock clock) {
        this.sql = sql;
        this.writes = writes;
        this.transaction = transaction;
        this.store = store;
        this.customers = customers;
        this.causes = causes;
        this.targets = targets;
        this.books = books;
        this.deeds = deeds;
        this.timers = timers;
        this.log = log;
        this.notices = notices;
        this.acknowledgements = acknowledgements;
        this.after = after;
        this.looks = looks;
        this.clock = clock;
    }

    /** When there is something to read again, if there is. */
    Optional<Instant> next() {
        return Stream.concat(causes.next().stream(), timers.next().stream()).min(Instant::compareTo);
    }

    /**
     * Reads the book for tickets on which something happened, or a time came.
     *
     * @param most so many tickets at most
     * @return how many were dealt with; zero when there was nothing that nobody else works on
     */
    int readDue(int most) {
        Instant now = clock.instant();
        List<TicketNumber> due = Stream.concat(causes.waiting(now, most).stream(), timers.come(now, most).stream())
                .distinct()
                .limit(most)
                .toList();
        int read = 0;
        for (int i = 0; i < due.size(); i += TOGETHER) {
            read += read(due.subList(i, Math.min(due.size(), i + TOGETHER)));
        }
        return read;
    }

    /** A few tickets in one transaction, in the order of their numbers, as whoever holds several does; when one fails, each by itself. */
    private int read(List<TicketNumber> some) {
        try {
            return Optional.ofNullable(transaction.execute(status -> held(some)))
                    .orElse(0);
        } catch (DataAccessResourceFailureException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException oneOfThem) {
            LOG.info("The rules are read one by one for {} tickets: {}", some.size(), oneOfThem.toString());
            return some.stream().mapToInt(this::alone).sum();
        }
    }

    private int held(List<TicketNumber> some) {
        List<TicketNumber> taken = taken(some);
        if (taken.isEmpty()) {
            return 0;
        }
        writes.gather(() -> {
            var ahead = new Ahead(taken);
            taken.forEach(number -> new Round(number, ahead).read());
            return true;
        });
        causes.read(taken);
        taken.forEach(acknowledgements::late);
        after.stream().filter(Looks.After::reads).forEach(one -> one.read(looks.hold(taken, one.asks())));
        return taken.size();
    }

    private int alone(TicketNumber number) {
        try {
            return Optional.ofNullable(transaction.execute(status -> held(List.of(number))))
                    .orElse(0);
        } catch (DataAccessResourceFailureException databaseIsAway) {
            throw databaseIsAway;
        } catch (RuntimeException e) {
            LOG.warn("The rules could not be read for ticket {}", number, e);
            transaction.executeWithoutResult(status -> giveUp(number, e));
            return 0;
        }
    }

    /** Holds those on which nobody else works just now and to which no newer version of Rafter wrote. */
    private List<TicketNumber> taken(List<TicketNumber> some) {
        return sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(TICKET.NUMBER.in(some))
                .and(TicketStore.understood())
                .orderBy(TICKET.NUMBER)
                .forUpdate()
                .skipLocked()
                .fetch(TICKET.NUMBER);
    }

    /** What reading for several tickets asks, asked for all of them at once. */
    private final class Ahead {
        private final Map<TicketNumber, TicketStore.Held> tickets;
        private final Map<TicketNumber, List<Causes.Cause>> causes;
        private final Map<TicketNumber, Set<RuleLog.Due>> dealt;
        private final Supplier<Map<TicketNumber, Facts>> customers;

        Ahead(List<TicketNumber> numbers) {
            this.tickets = store.heldAlready(numbers);
            this.causes = RuleFiring.this.causes.of(numbers);
            this.dealt = log.dealtWith(numbers);
            this.customers = once(() -> RuleFiring.this.customers.customers(numbers, asked(books.current())));
        }

        /** A ticket as it is; one that something was done to meanwhile is looked at anew. */
        TicketStore.Held held(TicketNumber number) {
            TicketStore.Held known = tickets.get(number);
            return known == null || writes.waitsFor(number) ? store.hold(number) : known;
        }
    }

    private Set<KnownField> asked(RuleBooks.InForce book) {
        var asked = EnumSet.noneOf(KnownField.class);
        asked.addAll(book.asked());
        asked.addAll(targets.asked());
        return asked;
    }

    private void giveUp(TicketNumber number, RuntimeException e) {
        Instant now = clock.instant();
        boolean over = causes.failed(number, now);
        timers.later(number, now.plusSeconds(60));
        if (over) {
            notices.tellAdministrators(
                    number,
                    now,
                    Notices.Kind.RULE_FAILED,
                    "The rules could not be read for ticket " + number + ": "
                            + e.getClass().getSimpleName() + ".");
        }
    }

    /** What is read for next: the events from here to there, and how deep in the chain of causes that is. */
    private record Next(int first, int last, boolean came, int depth) {}

    /** What is known of a ticket, and what words stand in it. */
    private record Looked(Facts facts, Matching.Finder finder) {
        static Looked nothing() {
            return new Looked(Facts.none(), (field, text, phrase) -> false);
        }
    }

    /** A value that is made when it is first asked for. */
    private static <T> Supplier<T> once(Supplier<T> source) {
        return new Supplier<>() {
            private Optional<T> known = Optional.empty();

            @Override
            public T get() {
                T value = known.orElseGet(source);
                known = Optional.of(value);
                return value;
            }
        };
    }

    /** One ticket at one time. */
    private final class Round {
        private final Instant now = clock.instant();
        private final RuleBooks.InForce book = books.current();
        private final TicketNumber number;
        private final Supplier<Facts> customer;
        private final List<Causes.Cause> causes;
        private final Set<RuleLog.Due> dealt;
        private TicketStore.Held held;
        private Supplier<List<TargetClock>> clocks = List::of;
        private Supplier<Looked> looked = Looked::nothing;

        Round(TicketNumber number, Ahead ahead) {
            this.number = number;
            this.causes = ahead.causes.getOrDefault(number, List.of());
            this.dealt = new HashSet<>(ahead.dealt.getOrDefault(number, Set.of()));
            this.held = ahead.held(number);
            this.customer = once(() -> ahead.customers.get().getOrDefault(number, Facts.none()));
            look();
        }

        /** The ticket is looked at anew when it is next asked about, for something changed it. */
        private void look() {
            TicketStore.Held now = held;
            clocks = once(() -> targets.reckon(now.events(), customer.get(), this.now));
            looked = once(() -> {
                Facts facts = RuleFacts.of(customer.get(), now.events(), now.ticket(), clocks.get());
                return new Looked(facts, book.scan().over(facts));
            });
        }

        void read() {
            for (Causes.Cause cause : causes) {
                var done = new HashSet<String>();
                int before = held.events().size();
                if (cause.step()) {
                    read(STEP, before, 0, done, Optional.empty());
                }
                follow(
                        cause.step()
                                ? new Next(before + 1, held.events().size(), false, 1)
                                : new Next(cause.firstSeq(), cause.lastSeq(), cause.came(), 0),
                        done);
            }
            for (RuleTimers.Time time : timers.times(held, book.book(), clocks, dealt)) {
                if (!time.at().isAfter(now)) {
                    come(time);
                }
            }
            timers.set(held, book.book(), clocks, dealt);
        }

        private void come(RuleTimers.Time time) {
            var trigger = new Reading.Trigger.Time(time.rule().id());
            int before = held.events().size();
            var done = new HashSet<String>();
            dealt.add(time.due());
            boolean fired = read(trigger, before, 0, done, Optional.of(time.due()));
            if (!fired) {
                log.passed(number, time.due());
            }
            follow(new Next(before + 1, held.events().size(), false, 1), done);
        }

        /** Reads for some events, then for those that the rules added, and so on, to a stated depth. */
        private void follow(Next first, Set<String> done) {
            var left = new ArrayDeque<Next>();
            left.add(first);
            while (!left.isEmpty()) {
                Next next = left.poll();
                if (next.first() > next.last()) {
                    continue;
                }
                if (next.depth() > Reading.DEEPEST) {
                    LOG.info("Rules on ticket {} start each other more than {} deep", number, Reading.DEEPEST);
                    continue;
                }
                int before = held.events().size();
                for (Trigger trigger : triggers(next)) {
                    read(trigger.trigger(), trigger.seq(), next.depth(), done, Optional.empty());
                }
                left.add(new Next(before + 1, held.events().size(), false, next.depth() + 1));
            }
        }

        /** Something to read for, and the number of its event. */
        private record Trigger(Reading.Trigger trigger, int seq) {}

        private List<Trigger> triggers(Next next) {
            if (next.came()) {
                return List.of(new Trigger(new Reading.Trigger.Came(), next.first()));
            }
            Ticket before = Ticket.replay(held.events().subList(0, next.first() - 1));
            var all = new ArrayList<Trigger>();
            for (int seq = next.first();
                    seq <= Math.min(next.last(), held.events().size());
                    seq++) {
                TicketEvent event = held.events().get(seq - 1);
                int at = seq;
                Reading.Trigger.of(before, event).ifPresent(trigger -> all.add(new Trigger(trigger, at)));
                before = before.after(event);
            }
            return all;
        }

        private boolean read(Reading.Trigger trigger, int seq, int depth, Set<String> done, Optional<RuleLog.Due> due) {
            boolean any = book.book().rules().stream().anyMatch(trigger::reads);
            if (!any || !RuleFacts.readFor(held.ticket())) {
                return false;
            }
            long reading = log.reading(
                    number, now, book.edition(), trigger, seq, held.events().size(), depth);
            return Reading.read(book.book(), trigger, done, this::matches, rule -> fire(rule, reading, due)).stream()
                    .anyMatch(read -> read.result() == Reading.Result.MATCHED);
        }

        private boolean matches(Rule rule) {
            var nobody = Asking.ofNobody(now);
            Looked ticket = looked.get();
            return Matching.matches(nobody.resolve(rule.criteria()), ticket.facts(), ticket.finder());
        }

        private void fire(Rule rule, long reading, Optional<RuleLog.Due> due) {
            RuleDeeds.Came came = deeds.perform(held, rule, now);
            boolean told = !came.failed().isEmpty() && log.failedOfLate(rule.id(), now);
            held = came.held();
            look();
            log.ran(
                    new RuleLog.Run(
                            reading, number, rule.id(), now, held.events().size(), came.done(), came.failed()),
                    due,
                    came.handedTo());
            if (!came.failed().isEmpty() && !told) {
                notices.tellAdministrators(
                        number,
                        now,
                        Notices.Kind.RULE_FAILED,
                        "The rule “" + rule.name() + "” could not: " + String.join("; ", came.failed()));
            }
        }
    }
}

package rafter.benchmarks;

import java.sql.Connection;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.tickets.rules.RuleDesk;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.rule.Deed;
import rafter.core.rule.Happening;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.rule.RuleBook;

/** How long one rule, and a book of fifty, take to be rehearsed on a hundred thousand tickets; and how late due rules on the clock are. */
final class RulesBench {

    private static final PersonId BY = new PersonId(1);

    private final int port;

    RulesBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_rules");
        try (ConfigurableApplicationContext context = RehearsalBench.context(database)) {
            try (Connection sql = Bench.connect(database)) {
                Bench.fill(sql, 100_000, 5, 3);
                try (var statement = sql.createStatement()) {
                    // All of them lived within the ninety days that are looked at.
                    statement.execute(
                            "update ticket set opened_at = now() - interval '80 days' * random(), changed_at = now()");
                }
            }
            RuleDesk desk = context.getBean(RuleDesk.class);
            desk.putIntoForce(new RuleBook(List.of(new RuleBook.Section("s", "All", book(50)))), BY);
            rehearse(desk, "rule-0", "one rule");
            rehearse(desk, "", "fifty rules");
            due(desk, database);
        }
    }

    private static void rehearse(RuleDesk desk, String rule, String what) {
        for (int i = 0; i < 2; i++) {
            long start = System.nanoTime();
            long tickets = desk.rehearse(rule, BY);
            System.out.printf(
                    "%s rehearsed on %d tickets in %.1f s%n", what, tickets, (System.nanoTime() - start) / 1e9);
        }
    }

    /** Twenty thousand timers that come at once: how long until the last is dealt with. */
    private static void due(RuleDesk desk, String database) throws Exception {
        try (Connection sql = Bench.connect(database)) {
            try (var statement = sql.createStatement()) {
                statement.execute(
                        "insert into rule_timer (ticket, due_at) select number, now() from ticket where open limit 20000 on conflict (ticket) do update set due_at = now()");
            }
            long timers = Bench.one(sql, "select count(*) from rule_timer where due_at <= now()");
            long start = System.nanoTime();
            int read = desk.readAll();
            double seconds = (System.nanoTime() - start) / 1e9;
            System.out.printf(
                    "%d timers that came at once, %d read in %.1f s, %.0f a second%n",
                    timers, read, seconds, read / seconds);
        }
    }

    private static List<Rule> book(int many) {
        var rules = new ArrayList<Rule>();
        for (int i = 0; i < many; i++) {
            Occasion occasion = switch (i % 10) {
                case 8 -> new Occasion.Change(Set.of(Happening.CUSTOMER_WROTE), "");
                case 9 -> new Occasion.Clock(Moment.CREATED, Duration.ofDays(2), true, 1, Duration.ZERO);
                default -> new Occasion.Arrival();
            };
            rules.add(new Rule(
                    "rule-" + i,
                    "Rule " + i,
                    "For measuring.",
                    true,
                    occasion,
                    Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "word" + i, "ferry", "other" + i),
                    List.of(new Deed("tag", Map.of("tag", "t" + i))),
                    true,
                    Instant.EPOCH));
        }
        return rules;
    }
}

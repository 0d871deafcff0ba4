package rafter.benchmarks;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.ConfigurableApplicationContext;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Role;
import rafter.app.promises.targets.TargetDrafts;
import rafter.core.criteria.Criteria;
import rafter.core.id.PersonId;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.Step;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;

/** A hundred thousand steps that fall due within one minute, on one node: whether each fires once, and how late. */
final class TimersBench {

    private static final int TIMERS = Integer.getInteger("timers", 100_000);

    private static final String TICKETS = """
            insert into mailbox (name, address, watched, imap_host, imap_port, imap_security, imap_login, imap_password, smtp_host, smtp_port, smtp_security, smtp_login, smtp_password)
            values ('Help', 'help@ternpassage.example', false, 'x', 1, 'NONE', '', '', 'x', 1, 'NONE', '', '');
            insert into contact (name, created_at) select 'Customer ' || n, now() from generate_series(1, 1000) n;
            insert into ticket (number, subject, channel, mailbox_id, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, form)
            select 100000 + n, 'Request ' || n, 'email', 1, 1 + n %% 1000, 'new', 'OURS', true, 'P3', at, at, at, 1, 2, 1
            from generate_series(1, %1$d) n, lateral (select now() + interval '75 seconds' - interval '2 hours' + n * interval '60 seconds' / %1$d as at) t;
            insert into ticket_event (ticket, seq, at, kind, version, actor, body)
            select number, 1, opened_at, 'opened', 1, 'contact:' || contact_id, jsonb_build_object('origin', 'CUSTOMER', 'channel', 'email', 'address', 1, 'subject', subject, 'contact', contact_id, 'priority', priority) from ticket
            union all select number, 2, opened_at, 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number) from ticket;
            insert into step_timer (ticket, objective, run_started, step, due_at) select number, 'FIRST_REPLY', opened_at, 'half', opened_at + interval '2 hours' from ticket;
            analyze;
            """;

    private final int port;

    TimersBench(int port) {
        this.port = port;
    }

    void run() throws Exception {
        String database = Bench.fresh(port, "rafter_bench_timers");
        try (ConfigurableApplicationContext context = RehearsalBench.context(database)) {
            settle(context);
        }
        try (Connection sql = Bench.connect(database);
                var statement = sql.createStatement()) {
            // Nothing waits to be reckoned anew: the tickets below are made for the edition that holds.
            statement.execute("update background_work set finished_at = now()");
            // It holds for them from their beginning; before it they would have counted in opening hours, which it is
            // at some times and not at others.
            statement.execute("update target_edition set from_at = now() - interval '1 day' where id = 2");
            statement.execute(TICKETS.formatted(TIMERS));
            try (Child app = Child.start(
                            database, List.of(), "--db-scheduler.enabled=false", "--rafter.intake.workers=0")
                    .awaitPort()) {
                long until = System.nanoTime() + Duration.ofMinutes(6).toNanos();
                while (Bench.one(sql, "select count(*) from step_timer") > 0
                        && System.nanoTime() < until
                        && app.alive()) {
                    Thread.sleep(500);
                }
            }
            tell(statement);
        }
    }

    private static void settle(ConfigurableApplicationContext context) {
        context.getBean(Persons.class)
                .save(
                        Optional.empty(),
                        "Lead",
                        "lead@ternpassage.example",
                        Role.LEAD,
                        true,
                        "high-water-mark",
                        java.util.Set.of(),
                        new PersonId(0));
        TargetDrafts drafts = context.getBean(TargetDrafts.class);
        drafts.save(
                drafts.current().book().withPolicies(List.of(policy())),
                drafts.current().version(),
                new PersonId(1),
                "benchmark");
        drafts.putIntoForce(drafts.current().version(), new PersonId(1));
    }

    private static void tell(Statement statement) throws SQLException {
        try (var result = statement.executeQuery(
                "select count(*), count(distinct ticket), percentile_cont(0.5) within group (order by late), percentile_cont(0.99) within group (order by late), max(late),"
                        + " (select count(*) from notice) from (select ticket, extract(epoch from fired_at - due_at) as late from step_fired) f")) {
            result.next();
            System.out.printf(
                    "%d of %d fired on %d tickets, %d told; lateness p50 %.2f s, p99 %.2f s, at most %.2f s%n",
                    result.getLong(1),
                    TIMERS,
                    result.getLong(2),
                    result.getLong(6),
                    result.getDouble(3),
                    result.getDouble(4),
                    result.getDouble(5));
        }
    }

    private static Policy policy() {
        var within = new EnumMap<Priority, Duration>(Priority.class);
        for (Priority priority : Priority.values()) {
            within.put(priority, Duration.ofHours(4));
        }
        var step = new Step(
                "half",
                Objective.FIRST_REPLY,
                new Step.When.Used(50),
                List.of(new Act.Notify(
                        Act.Whom.LEAD, "", "{objective} of {number}, {customer}, is due at {due}: {subject}")));
        return new Policy(
                "all",
                "Everybody",
                "",
                true,
                Criteria.everything(),
                Optional.empty(),
                Map.of(Objective.FIRST_REPLY, Goal.usual(Objective.FIRST_REPLY, within)),
                List.of(step));
    }
}

package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.browser.Processes.count;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.target.BookJson;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.Step;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;

/** Rafter is killed hard in the middle of firing steps, again and again, and then goes on with two nodes: each step fires once. */
class StepsCrashTest {

    private static final int TICKETS = 3000;
    private static final int KILLS = 3;

    private static final String PEOPLE = """
            insert into person (name, address, password_hash, role) values
            ('Ravi Nand', 'ravi@ternpassage.example', 'none', 'ADMINISTRATOR'), ('Odile Bran', 'odile@ternpassage.example', 'none', 'LEAD')""";

    /** Tickets whose step fell due a moment ago, without anybody there to fire it. */
    private static final String STAGE = """
            update background_work set finished_at = now();
            insert into contact (name, created_at) select 'Customer ' || n, now() from generate_series(1, 50) n;
            insert into ticket (number, subject, channel, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, form)
            select 100000 + n, 'Request ' || n, 'email', 1 + n %% 50, 'new', 'OURS', true, 'P3', at, at, at, 1, 2, 1
            from generate_series(1, %d) n, lateral (select now() - interval '2 hours' - n * interval '1 millisecond' as at) t;
            insert into ticket_event (ticket, seq, at, kind, version, actor, body)
            select number, 1, opened_at, 'opened', 1, 'contact:' || contact_id, jsonb_build_object('origin', 'CUSTOMER', 'channel', 'email', 'subject', subject, 'contact', contact_id, 'priority', priority) from ticket
            union all select number, 2, opened_at, 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number) from ticket;
            insert into step_timer (ticket, objective, run_started, step, due_at) select number, 'FIRST_REPLY', opened_at, 'half', opened_at + interval '2 hours' from ticket;
            """;

    private final List<Process> nodes = new ArrayList<>();

    @AfterEach
    void none_is_left() {
        nodes.forEach(Process::destroyForcibly);
    }

    @Test
    void each_step_fires_once() throws Exception {
        String database = Prepared.migrated("rafter_steps_crash_test");
        try (Connection sql = DriverManager.getConnection(database, "rafter", "rafter");
                var statement = sql.createStatement()) {
            statement.execute(PEOPLE);
            promise(sql);
            statement.execute(STAGE.formatted(TICKETS));
            for (int kill = 1; kill <= KILLS; kill++) {
                Process node = node(database);
                awaitWithin(sql, node);
                node.destroyForcibly().waitFor(10, TimeUnit.SECONDS);
            }
            assertThat(count(sql, "select count(*) from step_timer"))
                    .as("killed in the middle of it")
                    .isPositive();
            Process one = node(database);
            Process other = node(database);
            Processes.await(one, () -> count(sql, "select count(*) from step_timer") == 0);
            for (Process node : List.of(one, other)) {
                node.destroy();
                node.waitFor(2, TimeUnit.MINUTES);
            }
            assertThat(count(sql, "select count(*) from step_fired")).isEqualTo(TICKETS);
            assertThat(count(sql, "select count(*) from notice")).isEqualTo(TICKETS);
            assertThat(count(sql, "select count(distinct ticket) from notice")).isEqualTo(TICKETS);
            assertThat(count(sql, "select count(*) from message where kind = 'NOTE'"))
                    .isEqualTo(TICKETS);
            assertThat(count(sql, "select count(distinct ticket) from message where kind = 'NOTE'"))
                    .isEqualTo(TICKETS);
            assertThat(
                            count(
                                    sql,
                                    "select count(*) from ticket t where last_seq <> (select count(*) from ticket_event e where e.ticket = t.number)"))
                    .isZero();
        }
    }

    /** One policy for everybody, in force since yesterday: at half of the time a lead is told and a note is written. */
    private static void promise(Connection sql) throws SQLException {
        String first;
        try (var statement = sql.createStatement();
                var book = statement.executeQuery("select document from target_edition")) {
            book.next();
            first = book.getString(1);
        }
        try (var statement = sql.prepareStatement(
                "with e as (insert into target_edition (from_at, document) values (now() - interval '1 day', ?::jsonb) returning id, document)"
                        + " update target_draft set document = e.document, edition_id = e.id from e")) {
            statement.setString(1, BookJson.write(BookJson.read(first).withPolicies(List.of(policy()))));
            statement.execute();
        }
    }

    private static Policy policy() {
        var within = new EnumMap<Priority, Duration>(Priority.class);
        Arrays.stream(Priority.values()).forEach(priority -> within.put(priority, Duration.ofHours(4)));
        var step = new Step(
                "half",
                Objective.FIRST_REPLY,
                new Step.When.Used(50),
                List.of(
                        new Act.Notify(Act.Whom.LEAD, "", "Half of {number} is used"),
                        new Act.Note("Half of the time is used")));
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

    private Process node(String database) throws Exception {
        Process node = Processes.rafter(
                "steps-crash",
                database,
                Processes.freePort(),
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--logging.level.root=warn");
        nodes.add(node);
        return node;
    }

    /** Waits until a round of firing has been under way for a moment: its timers are gone within its transaction, and for nobody else. */
    private static void awaitWithin(Connection sql, Process node) throws Exception {
        Processes.await(
                node,
                () -> count(
                                        sql,
                                        "select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()"
                                                + " and xact_start < now() - interval '150 milliseconds' and state is not null")
                                > 0
                        && count(
                                        sql,
                                        "select count(*) from pg_locks l join pg_class c on c.oid = l.relation where c.relname = 'step_fired' and l.mode = 'RowExclusiveLock'")
                                > 0);
    }
}

package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.browser.Processes.count;

import java.sql.Connection;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/**
 * A day of two thousand arrivals, handed out by two nodes of which one is killed in the middle of it: each ticket finds one person, once, and
 * nobody ever has more than they take.
 */
class FloorCrashTest {

    private static final int ARRIVALS = 2_000;
    private static final int WAVES = 10;
    private static final int PEOPLE = 40;
    /** As much as there is to do, so that at the end everybody is full. */
    private static final int LIMIT = ARRIVALS / PEOPLE;

    /** One team, and one queue that gives everything to whoever has least. */
    private static final String TEAM = """
            insert into team (name) values ('Everybody');
            insert into queue (position, name, criteria, ordering, teams, way)
            select 1, 'All', '{"version": 1, "all": []}', 'OLDEST', array_agg(id), 'LEAST' from team where name = 'Everybody';
            """;

    private static final String CROWD = """
            insert into person (name, address, password_hash, role) select 'Person ' || n, 'p' || n || '@ternpassage.example', 'none', 'AGENT'
            from generate_series(1, %d) n;
            insert into team_member (team_id, person_id) select (select max(id) from team), id from person where role = 'AGENT';
            insert into working (person_id, presence, taking, units, since, seen_until)
            select id, 'HERE', true, %d, now(), now() + interval '1 day' from person where role = 'AGENT';
            insert into contact (name, created_at) select 'Customer ' || n, now() from generate_series(1, 50) n;
            """;

    private static final String WAVE = """
            insert into ticket (number, subject, channel, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, form)
            select n, 'Request ' || n, 'email', (select min(id) from contact) + n %% 50, 'new', 'OURS', true, 'P3', now(), now(), now(), 1, 2, 1
            from generate_series(%1$d, %2$d) n;
            insert into ticket_event (ticket, seq, at, kind, version, actor, body)
            select number, 1, opened_at, 'opened', 1, 'contact:' || contact_id, jsonb_build_object('origin', 'CUSTOMER', 'channel', 'email', 'subject', subject, 'contact', contact_id, 'priority', priority)
            from ticket where number between %1$d and %2$d
            union all select number, 2, opened_at, 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number)
            from ticket where number between %1$d and %2$d;
            insert into rule_cause (ticket, first_seq, last_seq, came, due_at) select n, 1, 2, true, now() from generate_series(%1$d, %2$d) n;
            """;

    private static final String OWNED = "select count(*) from ticket where owner_id is not null";

    /** The most that anybody had at once, by the events alone: owners come, and in this day none goes. */
    private static final String MOST_AT_ONCE =
            "select max(had) from (select count(*) over (partition by body ->> 'owner' order by at, ticket) as had"
                    + " from ticket_event where kind = 'owner') counted";

    private final List<Process> nodes = new ArrayList<>();

    @AfterEach
    void none_is_left() {
        nodes.forEach(Process::destroyForcibly);
    }

    @Test
    void each_ticket_finds_one_person_once_and_nobody_has_more_than_they_take() throws Exception {
        String database = Prepared.migrated("rafter_floor_crash_test");
        try (Connection sql = DriverManager.getConnection(database, "rafter", "rafter");
                var statement = sql.createStatement()) {
            statement.execute(TEAM);
            statement.execute(CROWD.formatted(PEOPLE, LIMIT));
            Process one = node(database);
            Process other = node(database);
            for (int wave = 0; wave < WAVES; wave++) {
                int from = 100_001 + wave * ARRIVALS / WAVES;
                statement.execute(WAVE.formatted(from, from + ARRIVALS / WAVES - 1));
                if (wave == WAVES / 2) {
                    Processes.await(other, () -> count(sql, OWNED) >= ARRIVALS / 5);
                    one.destroyForcibly().waitFor(10, TimeUnit.SECONDS);
                    assertThat(count(sql, OWNED))
                            .as("killed in the middle of it")
                            .isLessThan(ARRIVALS);
                }
                Thread.sleep(300);
            }
            Processes.await(other, () -> count(sql, OWNED) == ARRIVALS);
            other.destroy();
            other.waitFor(2, TimeUnit.MINUTES);
            assertThat(count(sql, "select count(*) from ticket_event where kind = 'owner'"))
                    .isEqualTo(ARRIVALS);
            assertThat(count(sql, "select count(distinct ticket) from ticket_event where kind = 'owner'"))
                    .isEqualTo(ARRIVALS);
            assertThat(count(sql, MOST_AT_ONCE)).isEqualTo(LIMIT);
            assertThat(count(sql, "select count(*) from queue_entry")).isZero();
            assertThat(
                            count(
                                    sql,
                                    "select count(*) from ticket t where last_seq <> (select count(*) from ticket_event e where e.ticket = t.number)"))
                    .isZero();
        }
    }

    private Process node(String database) throws Exception {
        Process node = Processes.rafter(
                "floor-crash",
                database,
                Processes.freePort(),
                "--rafter.intake.workers=0",
                "--rafter.intake.watch=false",
                "--logging.level.root=warn");
        nodes.add(node);
        return node;
    }
}

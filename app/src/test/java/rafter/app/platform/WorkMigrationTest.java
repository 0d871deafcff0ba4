package rafter.app.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import rafter.app.OldDatabase;

/** What went on beside everything else goes on after the upgrade, and what lists draw is written once more. */
class WorkMigrationTest {

    private static final String OLD = """
            insert into person (name, address, password_hash, role) values ('Imani Okoro', 'imani@ternpassage.example', 'x', 'AGENT');
            insert into contact (name, created_at) values ('Dov Reiss', now());
            insert into target_edition (document, from_at, total, reckoned, last_ticket, finished_at)
            values ('{"zone": "Europe/Oslo"}', now() - interval '1 day', 9, 9, 4479, now());
            insert into ticket (number, subject, channel, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, last_public_seq, next_objective, form)
            select 4470 + n, 'Slot', 'email', 1, 'new', 'OURS', n < 3, 'P3', now(), now(), now(), 1, 2, 2, 'RESOLUTION', 2 from generate_series(1, 3) n;
            insert into ticket_clock (ticket, objective, state, late, started_at, used_seconds, allowed_seconds) values
            (4471, 'RESOLUTION', 'RUNNING', false, now(), 1, 2), (4473, 'RESOLUTION', 'MET', true, now(), 3, 2);
            insert into batch (person_id, does, words, total, done, failed, started_at, finished_at) values
            (1, '{"act": "tag", "tag": "x"}', 'Tag', 10, 4, 1, now(), null), (1, '{"act": "tag", "tag": "x"}', 'Tag', 3, 3, 0, now(), now());
            insert into rehearsal (person_id, started_at, from_at, to_at, document, done, total, failure, finished_at)
            values (1, now(), now(), now(), '{}', 5, 7, 'It could not be finished: x', now());
            """;

    @Test
    void how_far_each_was_and_why_it_ended_is_carried_over() throws SQLException {
        try (OldDatabase old = OldDatabase.of("rafter_work_migration", "12")) {
            Statement statement = old.statement();
            statement.execute(OLD);
            old.upgrade();
            assertThat(
                            rows(
                                    statement,
                                    "select kind || ' ' || about || ': ' || done || ' of ' || total || ', ' || failed || ', ' || position || ', ' || failure "
                                            + "|| case when finished_at is null then ' unfinished' else '' end from background_work order by id"))
                    .contains(
                            "batch 1: 4 of 10, 1, 0,  unfinished",
                            "batch 2: 3 of 3, 0, 0, ",
                            "rehearsal 1: 5 of 7, 0, 0, It could not be finished: x")
                    .filteredOn(row -> row.startsWith("recalculation") && row.endsWith("unfinished"))
                    .as("the latest edition's open tickets get what rows draw")
                    .singleElement()
                    .asString()
                    .contains("0 of 2, 0, 0");
            assertThat(rows(statement, "select number || ' ' || missed from ticket order by number"))
                    .containsExactly("4471 false", "4472 false", "4473 true");
        }
    }

    private static List<String> rows(Statement statement, String query) throws SQLException {
        var rows = new ArrayList<String>();
        try (var result = statement.executeQuery(query)) {
            while (result.next()) {
                rows.add(result.getString(1));
            }
        }
        return rows;
    }
}

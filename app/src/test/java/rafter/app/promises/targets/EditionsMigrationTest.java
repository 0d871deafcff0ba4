package rafter.app.promises.targets;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.OldDatabase;
import rafter.core.criteria.Criteria;
import rafter.core.target.BookJson;
import rafter.core.target.Objective;
import rafter.core.target.PromiseBook;
import rafter.core.ticket.Priority;
import rafter.core.time.WorkingTime;

/** Hours and promises of before editions become the first edition, and mean the same. */
class EditionsMigrationTest {

    private static final String OLD = """
            insert into calendar (name, zone) values ('Shore office', 'Europe/Oslo'), ('Agents overseas', 'America/St_Johns');
            insert into calendar_opening select 1, d, '08:00', '17:00' from generate_series(1, 5) d;
            insert into calendar_opening values (1, 6, '22:00', '06:00'), (2, 7, '00:00', '00:00');
            insert into calendar_holiday values (1, '2027-03-08', 'Harbour day');
            insert into policy (name, calendar_id) values ('Everybody', 1);
            insert into policy_goal select 1, 'FIRST_REPLY', 'P' || n, n * 90 from generate_series(1, 4) n;
            insert into workspace (id, name, policy_id, reopen_days, acknowledge, ack_subject, ack_body, secret) values (1, 'Line', 1, 7, true, 's', 'b', 'x');
            """;

    @Test
    void the_old_tables_become_one_edition_that_is_in_force_from_the_beginning() throws Exception {
        try (OldDatabase old = OldDatabase.of("rafter_migration_test", "2")) {
            Statement statement = old.statement();
            statement.execute(OLD);
            old.upgrade();
            try (var rows = statement.executeQuery(
                    "select e.document, e.from_at, e.whole, d.edition_id = e.id from target_edition e, target_draft d")) {
                assertThat(rows.next()).isTrue();
                assertThat(rows.getTimestamp(2).toInstant()).isEqualTo(Instant.EPOCH);
                assertThat(rows.getBoolean(3)).isTrue();
                assertThat(rows.getBoolean(4)).isTrue();
                check(BookJson.read(rows.getString(1)));
            }
        }
    }

    private static void check(PromiseBook book) {
        assertThat(book.faults()).isEmpty();
        ZoneId oslo = ZoneId.of("Europe/Oslo");
        assertThat(book.zone()).isEqualTo(oslo);
        assertThat(book.calendars())
                .extracting(plan -> plan.zone())
                .containsExactly(Optional.empty(), Optional.of(ZoneId.of("America/St_Johns")));
        var policy = book.policies().getFirst();
        assertThat(policy.criteria()).isEqualTo(Criteria.everything());
        assertThat(policy.goals().get(Objective.FIRST_REPLY).of(Priority.P2)).hasValue(Duration.ofHours(3));
        var hours = WorkingTime.of(book.calendarOf(policy));
        for (String open : List.of("2027-03-05T16:59", "2027-03-06T23:00", "2027-03-07T05:59", "2027-03-09T08:00")) {
            assertThat(hours.isOpen(LocalDateTime.parse(open).atZone(oslo).toInstant()))
                    .as(open)
                    .isTrue();
        }
        for (String closed : List.of("2027-03-05T17:00", "2027-03-06T12:00", "2027-03-07T06:00", "2027-03-08T10:00")) {
            assertThat(hours.isOpen(LocalDateTime.parse(closed).atZone(oslo).toInstant()))
                    .as(closed)
                    .isFalse();
        }
    }
}

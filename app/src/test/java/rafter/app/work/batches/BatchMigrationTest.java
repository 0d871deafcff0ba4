package rafter.app.work.batches;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.app.OldDatabase;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;

/** Batches of before acts were one type do and take back the same; a ticket's opening learns which address it came to. */
class BatchMigrationTest {

    private static final String OLD = """
            insert into mailbox (name, address, watched, imap_host, imap_port, imap_security, imap_login, imap_password, smtp_host, smtp_port, smtp_security, smtp_login, smtp_password)
            values ('Help', 'help@ternpassage.example', false, 'x', 1, 'NONE', '', '', 'x', 1, 'NONE', '', '');
            insert into person (name, address, password_hash, role) values ('Imani Okoro', 'imani@ternpassage.example', 'x', 'AGENT');
            insert into contact (name, created_at) values ('Dov Reiss', now());
            insert into target_edition (document, from_at, whole) values ('{"zone": "Europe/Oslo"}', now(), true);
            insert into ticket (number, subject, channel, mailbox_id, contact_id, state, turn, open, priority, opened_at, changed_at, turn_since, messages, last_seq, last_public_seq)
            values (4471, 'Slot', 'email', 1, 1, 'new', 'OURS', true, 'P3', now(), now(), now(), 1, 2, 2);
            insert into ticket_event (ticket, seq, at, kind, actor, body)
            values (4471, 1, now(), 'opened', 'contact:1', '{"origin": "CUSTOMER", "channel": "email", "subject": "Slot", "contact": 1, "priority": "P3"}');
            """;

    private record Old(String act, String args, String before, Act does, Optional<Decision.Undo> undo) {}

    private static Decision.Undo undo(Act act, String seen) {
        return new Decision.Undo(act, Optional.of(seen));
    }

    private static Decision.Undo undo(Act act) {
        return new Decision.Undo(act, Optional.empty());
    }

    private static Old[] all() {
        Instant eleven = Instant.parse("2027-03-04T10:00:00Z");
        return new Old[] {
            new Old(
                    "PERSON",
                    "{\"person\": \"3\"}",
                    "{\"owner\": \"2\"}",
                    new Act.HandToPerson(Optional.of(new PersonId(3))),
                    Optional.of(undo(new Act.HandToPerson(Optional.of(new PersonId(2))), "3"))),
            new Old(
                    "PERSON",
                    "{\"person\": \"\"}",
                    "{\"owner\": \"\"}",
                    new Act.HandToPerson(Optional.empty()),
                    Optional.of(undo(new Act.HandToPerson(Optional.empty()), ""))),
            new Old(
                    "TEAM",
                    "{\"team\": \"2\"}",
                    "{\"team\": \"1\", \"owner\": \"\"}",
                    new Act.HandOver(new TeamId(2)),
                    Optional.of(undo(new Act.HandBack(new TeamId(2), Optional.of(new TeamId(1)), Optional.empty())))),
            new Old("TEAM", "{\"team\": \"2\"}", "{}", new Act.HandOver(new TeamId(2)), Optional.empty()),
            new Old(
                    "STATE",
                    "{\"state\": \"resolved\"}",
                    "{\"state\": \"new\"}",
                    new Act.MoveTo("resolved"),
                    Optional.of(undo(new Act.MoveTo("new"), "resolved"))),
            new Old(
                    "PRIORITY",
                    "{\"priority\": \"P1\"}",
                    "{\"priority\": \"P3\"}",
                    new Act.SetPriority(Priority.P1),
                    Optional.of(undo(new Act.SetPriority(Priority.P3), "P1"))),
            new Old(
                    "TOPIC",
                    "{\"topic\": \" billing \"}",
                    "{\"topic\": \"\"}",
                    new Act.SetTopic(" billing "),
                    Optional.of(undo(new Act.SetTopic(""), "billing"))),
            new Old(
                    "TAG",
                    "{\"tag\": \"storm\"}",
                    "{\"tag\": \"storm\"}",
                    new Act.Tag("storm"),
                    Optional.of(undo(new Act.Untag("storm")))),
            new Old(
                    "UNTAG",
                    "{\"tag\": \"storm\"}",
                    "{\"tag\": \"storm\"}",
                    new Act.Untag("storm"),
                    Optional.of(undo(new Act.Tag("storm")))),
            new Old(
                    "FIELD",
                    "{\"field\": \"own-1-text\", \"value\": \"Upper \"}",
                    "{\"value\": \"\"}",
                    new Act.Fill("own-1-text", "Upper "),
                    Optional.of(undo(new Act.Fill("own-1-text", ""), "Upper"))),
            new Old(
                    "DUE",
                    "{\"due\": \"2027-03-04T11:00\", \"why\": \"storm\"}",
                    "{\"due\": \"\"}",
                    new Act.AgreeTime(Optional.of(eleven), "storm"),
                    Optional.of(undo(new Act.AgreeTime(Optional.empty(), ""), eleven.toString()))),
            new Old(
                    "BACK",
                    "{\"back\": \"2027-03-04T10:00:00Z\"}",
                    "{\"back\": \"2027-03-02T10:00:00Z\"}",
                    new Act.BringBack(Optional.of(eleven)),
                    Optional.of(undo(
                            new Act.BringBack(Optional.of(Instant.parse("2027-03-02T10:00:00Z"))), eleven.toString()))),
            new Old(
                    "NOTE",
                    "{\"text\": \"Look\"}",
                    "{\"note\": \"7\"}",
                    new Act.Note("Look"),
                    Optional.of(undo(new Act.TakeNoteBack(new MessageId(7))))),
            new Old(
                    "ANSWER",
                    "{\"text\": \"Yes\", \"then\": \"\"}",
                    "{}",
                    new Act.Answer("Yes", Turn.CUSTOMER),
                    Optional.empty()),
            new Old(
                    "JOIN",
                    "{\"into\": \"4470\"}",
                    "{}",
                    new Act.Join(new TicketNumber(4470)),
                    Optional.of(undo(new Act.Part(new TicketNumber(4470))))),
            new Old(
                    "NO_REQUEST",
                    "{\"sender\": \"true\"}",
                    "{\"discarded\": \"\"}",
                    new Act.NoRequest(true),
                    Optional.of(undo(new Act.Restore()))),
            new Old("DELETE", "{}", "{\"discarded\": \"\"}", new Act.Delete(), Optional.of(undo(new Act.Restore()))),
            new Old("RESTORE", "{}", "{}", new Act.Restore(), Optional.empty())
        };
    }

    @Test
    void what_they_do_and_what_takes_it_back_is_carried_over() throws Exception {
        try (OldDatabase old = OldDatabase.of("rafter_batch_migration_test", "9")) {
            Statement statement = old.statement();
            statement.execute(OLD);
            Map<Long, Old> stored = store(statement);
            old.upgrade();
            for (var one : stored.entrySet()) {
                check(statement, one.getKey(), one.getValue());
            }
            try (var opened = statement.executeQuery(
                    "select body ->> 'address', version from ticket_event where kind = 'opened'")) {
                assertThat(opened.next()).isTrue();
                assertThat(opened.getString(1)).isEqualTo("1");
                assertThat(opened.getInt(2)).isEqualTo(1);
            }
        }
    }

    private static Map<Long, Old> store(Statement statement) throws SQLException {
        var stored = new LinkedHashMap<Long, Old>();
        for (Old old : all()) {
            try (ResultSet id = statement.executeQuery(
                    "insert into batch (person_id, act, args, words, total, started_at, finished_at) values (1, '%s', '%s', 'words', 1, now(), now()) returning id"
                            .formatted(old.act(), old.args()))) {
                id.next();
                stored.put(id.getLong(1), old);
            }
        }
        for (var one : stored.entrySet()) {
            statement.execute("insert into batch_item (batch_id, ticket, state, before) values (%d, 4471, 'DONE', '%s')"
                    .formatted(one.getKey(), one.getValue().before()));
        }
        return stored;
    }

    private static void check(Statement statement, long id, Old old) throws SQLException {
        try (ResultSet row = statement.executeQuery(
                "select b.does, i.undo from batch b join batch_item i on i.batch_id = b.id where b.id = " + id)) {
            assertThat(row.next()).isTrue();
            assertThat(ActJson.read(row.getString(1))).as(old.act()).isEqualTo(old.does());
            assertThat(Optional.ofNullable(row.getString(2)).map(ActJson::readUndo))
                    .as(old.act())
                    .isEqualTo(old.undo());
        }
    }
}

package rafter.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.browser.Processes.count;

import java.nio.file.Files;
import java.sql.Connection;
import java.sql.DriverManager;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import rafter.outside.Letter;
import rafter.outside.MailWorld;

/** Killed hard ten times while it takes in three hundred messages, Rafter ends with three hundred entries, none twice, and the rules read once for each. */
class CrashTest {

    private static final int MESSAGES = 300;
    private static final int KILLS = 10;
    private static final String DONE = "select count(*) from inbound where state = 'DONE'";
    /** Messages being done in a transaction that has not ended. */
    private static final String WITHIN =
            "select count(*) from pg_stat_activity where datname = current_database() and wait_event = 'PgSleep'";

    /** The database notices only by and by that a node is gone. */
    private static final String OTHERS =
            "select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()";

    private static final String RULES = """
            insert into rule_edition (from_at, document) values ('epoch', '{"rulebook": 1, "sections": [{"id": "s", "name": "All",
            "rules": [{"id": "all", "name": "All", "description": "For the test.", "on": true, "since": "1970-01-01T00:00:00Z",
            "carriesOn": true, "occasion": {"when": "arrival"}, "criteria": {"all": []},
            "deeds": [{"do": "tag", "tag": "read"}, {"do": "note", "text": "Read for {ticket}"}]}]}]}')""";

    /** So that ten kills fall into the middle of it also on a fast machine: each message takes at least this long to be done. */
    private static final String SLOWLY = """
            create function slowly() returns trigger language plpgsql as $$begin perform pg_sleep(0.02); return new; end$$;
            create trigger slowly before update on inbound for each row when (new.state = 'DONE') execute function slowly()""";

    @Test
    void nothing_is_lost_and_nothing_happens_twice() throws Exception {
        try (var world = new MailWorld(0, 0, Files.createTempDirectory("rafter-crash"))) {
            String database = Prepared.world("rafter_crash_test", world.smtpPort(), world.imapPort());
            for (int i = 0; i < MESSAGES; i++) {
                var letter = new Letter(
                        "Rowan Pell",
                        "sender" + i + "@post.example",
                        "help@ternpassage.example",
                        "",
                        "Crash " + i,
                        "Number " + i,
                        Optional.empty(),
                        List.of(),
                        List.of(),
                        Instant.now());
                var mail = letter.mime();
                world.send(mail, mail.getAllRecipients());
            }
            try (Connection sql = DriverManager.getConnection(database, "rafter", "rafter")) {
                try (var statement = sql.createStatement()) {
                    statement.execute(RULES);
                    statement.execute(SLOWLY);
                }
                for (int kill = 1; kill <= KILLS; kill++) {
                    int before = count(sql, DONE);
                    Process rafter =
                            Processes.rafter("crash", database, Processes.freePort(), "--logging.level.root=warn");
                    // In turn in the middle of a transaction, which is lost, and right after one, which is not.
                    if (kill % 2 == 0) {
                        Processes.await(rafter, () -> count(sql, WITHIN) > 0);
                    } else {
                        Processes.await(rafter, () -> count(sql, DONE) >= Math.min(MESSAGES - 1, before + 1));
                    }
                    rafter.destroyForcibly().waitFor(10, TimeUnit.SECONDS);
                    // What the next one does is not to be taken for what this one did.
                    for (int i = 0; i < 1000 && count(sql, OTHERS) > 0; i++) {
                        Thread.sleep(10);
                    }
                }
                int after = count(sql, DONE);
                assertThat(after).as("killed in the middle of it").isLessThan(MESSAGES);
                try (var statement = sql.createStatement()) {
                    statement.execute("drop trigger slowly on inbound");
                }
                Process rafter = Processes.rafter("crash", database, Processes.freePort(), "--logging.level.root=warn");
                Processes.await(rafter, () -> count(sql, DONE) >= MESSAGES);
                Processes.await(rafter, () -> count(sql, "select count(*) from outbox where state <> 'SENT'") == 0);
                Processes.await(rafter, () -> count(sql, "select count(*) from rule_cause") == 0);
                rafter.destroy();
                rafter.waitFor(2, TimeUnit.MINUTES);
                assertThat(count(sql, "select count(*) from inbound")).isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from message where kind = 'CUSTOMER'"))
                        .isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(distinct inbound_id) from message where kind = 'CUSTOMER'"))
                        .isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from ticket")).isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from outbox")).isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from rule_run")).isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(distinct ticket) from rule_run"))
                        .isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from message where kind = 'NOTE'"))
                        .isEqualTo(MESSAGES);
                assertThat(count(sql, "select count(*) from ticket_event where kind = 'tags'"))
                        .isEqualTo(MESSAGES);
                assertThat(
                                count(
                                        sql,
                                        "select count(*) from ticket t where last_seq <> (select count(*) from ticket_event e where e.ticket = t.number)"))
                        .isZero();
            }
            // A mail may have been handed over just before a kill and again after it; the customer's program knows it
            // by its Message-ID.
            for (int i = 0; i < MESSAGES; i++) {
                long different = world.messages("sender" + i + "@post.example").stream()
                        .map(CrashTest::id)
                        .distinct()
                        .count();
                assertThat(different).as("acknowledgements to sender %s", i).isEqualTo(1);
            }
        }
    }

    private static String id(com.icegreen.greenmail.store.StoredMessage message) {
        try {
            return message.getMimeMessage().getMessageID();
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }
}

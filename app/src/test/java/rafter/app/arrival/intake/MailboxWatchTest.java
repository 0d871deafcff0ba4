package rafter.app.arrival.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.sql;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.arrival.mail.MailServer;
import rafter.app.arrival.mail.Mailbox;
import rafter.app.arrival.mail.Mailboxes;
import rafter.app.platform.Guard;
import rafter.database.Tables;

/** No message is passed over, however its server answers. */
@ExtendWith(RunningApp.class)
class MailboxWatchTest {

    private static final Map<Long, String> TEXTS =
            new TreeMap<>(Map.of(1L, text("odd-one"), 2L, text("odd-two"), 3L, text("odd-three")));

    private static String text(String name) {
        return "From: " + name + "@post.example\r\nMessage-ID: <" + name + "@post.example>\r\nSubject: " + name
                + "\r\n\r\nHello";
    }

    private static Mailbox watching(ScriptedImap server, String address, Mailbox.AfterFetch after) {
        Mailbox like = RunningApp.mailbox(address);
        var imap = new MailServer("127.0.0.1", server.port(), MailServer.Security.NONE, address, "tide");
        var mailbox = new Mailbox(
                0,
                "Odd",
                address,
                Optional.empty(),
                true,
                false,
                after,
                imap,
                "INBOX",
                like.smtp(),
                Optional.empty(),
                0,
                like.status(),
                0);
        Mailboxes mailboxes = bean(Mailboxes.class);
        return mailboxes.find(mailboxes.save(mailbox, Guard.ITSELF)).orElseThrow();
    }

    private static int received(String name) {
        return sql().fetchCount(
                        Tables.INBOUND,
                        Tables.INBOUND
                                .RFC_MESSAGE_ID
                                .eq("<" + name + "@post.example>")
                                .or(Tables.INBOUND.RFC_MESSAGE_ID.eq(name + "@post.example")));
    }

    @Test
    void a_message_whose_text_comes_only_when_asked_for_alone_is_kept() throws Exception {
        try (var server = new ScriptedImap(TEXTS, List.of(2L), List.of())) {
            Mailbox odd = watching(server, "alone@ternpassage.example", Mailbox.AfterFetch.MARK_READ);
            assertThat(bean(MailboxWatch.class).fetchOnce(odd)).isEqualTo(3);
            assertThat(List.of("odd-one", "odd-two", "odd-three")).allMatch(name -> received(name) == 1);
            assertThat(bean(Mailboxes.class).find(odd.id()).orElseThrow().lastUid())
                    .isEqualTo(3);
        }
    }

    @Test
    void a_message_without_its_text_is_set_aside_and_left_where_it_is() throws Exception {
        try (var server = new ScriptedImap(TEXTS, List.of(), List.of(2L))) {
            Mailbox odd = watching(server, "never@ternpassage.example", Mailbox.AfterFetch.DELETE);
            bean(MailboxWatch.class).fetchOnce(odd);
            assertThat(bean(Inbox.class).aside(0, 500))
                    .filteredOn(aside -> aside.mailbox() == odd.id())
                    .singleElement()
                    .satisfies(aside -> assertThat(aside.reason())
                            .contains("no text for its message 2")
                            .contains("left in the mailbox"));
            assertThat(server.stored())
                    .singleElement()
                    .asString()
                    .startsWith("1,3 ")
                    .contains("\\Deleted");
            assertThat(bean(MailboxWatch.class)
                            .fetchOnce(bean(Mailboxes.class).find(odd.id()).orElseThrow()))
                    .isZero();
        }
    }
}

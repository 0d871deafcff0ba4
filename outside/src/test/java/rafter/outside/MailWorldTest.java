package rafter.outside;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.Folder;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class MailWorldTest {

    @TempDir
    Path spool;

    private static Letter letter(String to, String text) {
        return new Letter(
                "Noor Haddad",
                "noor@post.example",
                to,
                "",
                "Båt",
                text,
                Optional.empty(),
                List.of(),
                List.of(new Letter.Enclosure("plan.txt", "text/plain", "Lane 4".getBytes())),
                Instant.parse("2027-03-01T09:00:00Z"));
    }

    private static void send(MailWorld world, Letter letter) throws Exception {
        MimeMessage mail = letter.mime();
        world.send(mail, mail.getAllRecipients());
    }

    @Test
    void mail_goes_by_smtp_and_is_read_by_any_imap_program() throws Exception {
        try (var world = new MailWorld(0, 0, spool)) {
            send(world, letter("help@ternpassage.example", "Hello"));
            var store = Session.getInstance(new Properties()).getStore("imap");
            store.connect("127.0.0.1", world.imapPort(), "help@ternpassage.example", MailWorld.PASSWORD);
            Folder inbox = store.getFolder("INBOX");
            inbox.open(Folder.READ_ONLY);
            assertThat(inbox.getMessageCount()).isEqualTo(1);
            assertThat(MimeMessageText.plain(inbox.getMessage(1))).startsWith("Hello");
            assertThat(MimeMessageText.files(inbox.getMessage(1))).hasSize(1);
            store.close();
        }
    }

    @Test
    void an_address_with_something_after_a_plus_is_the_same_mailbox() throws Exception {
        try (var world = new MailWorld(0, 0, spool)) {
            send(world, letter("help+t4471.abc@ternpassage.example", "Hello"));
            assertThat(world.messages("help@ternpassage.example")).hasSize(1);
        }
    }

    @Test
    void what_was_delivered_is_there_again_after_a_restart_in_its_order() throws Exception {
        try (var world = new MailWorld(0, 0, spool)) {
            send(world, letter("help@ternpassage.example", "One"));
            send(world, letter("help@ternpassage.example", "Two"));
        }
        try (var world = new MailWorld(0, 0, spool)) {
            assertThat(world.messages("help@ternpassage.example")).hasSize(2);
            assertThat(MimeMessageText.plain(world.messages("help@ternpassage.example")
                            .getFirst()
                            .getMimeMessage()))
                    .startsWith("Two");
        }
    }

    @Test
    void mail_to_somebody_who_is_gone_comes_back_with_a_report() throws Exception {
        try (var world = new MailWorld(0, 0, spool)) {
            send(world, letter("gone.fishing@post.example", "Hello"));
            var back = world.messages("noor@post.example");
            assertThat(back).hasSize(1);
            assertThat(back.getFirst().getMimeMessage().getContentType()).contains("multipart/report");
        }
    }
}

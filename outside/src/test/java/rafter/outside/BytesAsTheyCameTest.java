package rafter.outside;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.Folder;
import jakarta.mail.Session;
import jakarta.mail.Store;
import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.InputStreamReader;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Properties;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The mail world hands out what it was given, byte for byte, and lives on whatever that is. */
class BytesAsTheyCameTest {

    @TempDir
    private Path spool;

    /** Speaks SMTP as a simple sender does; every line is sent as it stands. */
    private static String smtp(int port, String sender, String receiver, String data) throws Exception {
        try (var socket = new Socket("127.0.0.1", port)) {
            socket.setSoTimeout(10_000);
            var in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.ISO_8859_1));
            var out = socket.getOutputStream();
            var answer = in.readLine();
            for (String line : new String[] {
                "HELO x.example",
                "MAIL FROM:<" + sender + ">",
                "RCPT TO:<" + receiver + ">",
                "DATA",
                data + "\r\n.",
                "QUIT"
            }) {
                out.write((line + "\r\n").getBytes(StandardCharsets.ISO_8859_1));
                out.flush();
                answer = in.readLine();
                if (!answer.startsWith("2") && !answer.startsWith("3")) {
                    return answer;
                }
            }
            return answer;
        }
    }

    private static String fetched(int port, String mailbox) throws Exception {
        Store store = Session.getInstance(new Properties()).getStore("imap");
        store.connect("127.0.0.1", port, mailbox, MailWorld.PASSWORD);
        try (store;
                Folder inbox = store.getFolder("INBOX")) {
            inbox.open(Folder.READ_ONLY);
            var out = new ByteArrayOutputStream();
            inbox.getMessage(inbox.getMessageCount()).writeTo(out);
            return out.toString(StandardCharsets.ISO_8859_1);
        }
    }

    @Test
    void eight_bit_headers_a_null_sender_and_equal_headers_stay_as_they_were() throws Exception {
        String headers =
                "From: J\u00fcrgen <j@post.example>\r\nSubject: F\u00c3\u00a6rge\r\nX-Twice: one\r\nX-Twice: one\r\nFrom: other@post.example\r\nReceived: by a\r\nReceived: by a\r\n";
        String mail = headers + "\r\nbl\u00e5b\u00e6r\r\n";
        try (var world = new MailWorld(0, 0, spool)) {
            assertThat(smtp(world.smtpPort(), "", "noor@post.example", mail)).startsWith("2");
            assertThat(fetched(world.imapPort(), "noor@post.example"))
                    .contains(headers)
                    .contains("bl\u00e5b\u00e6r");
        }
        try (var again = new MailWorld(0, 0, spool)) {
            assertThat(fetched(again.imapPort(), "noor@post.example"))
                    .contains(headers)
                    .contains("bl\u00e5b\u00e6r");
        }
    }

    @Test
    void odd_mail_ends_nothing() throws Exception {
        try (var world = new MailWorld(0, 0, spool)) {
            for (String odd : new String[] {
                "no header at all",
                ": \r\n\r\n",
                "From: a@b\r\nContent-Type: multipart/mixed;;\r\n\r\n--x",
                "From: a@b\r\nFrom: a@b\r\nTo: c@d\r\nTo: c@d\r\n\r\nx",
                "Date: never\r\nContent-Type: ((((\r\n\r\nx",
                "From: @\r\nSubject: =?x?y?z?=\r\nContent-Transfer-Encoding: none\r\n\r\nx"
            }) {
                smtp(world.smtpPort(), "", "dov@post.example", odd);
            }
            assertThat(smtp(world.smtpPort(), "", "gone@post.example", "From: a@b\r\n\r\nx"))
                    .startsWith("2");
            assertThat(smtp(
                            world.smtpPort(),
                            "a@b.example",
                            "dov@post.example",
                            "From: a@b.example\r\nSubject: last\r\n\r\nx"))
                    .startsWith("2");
            assertThat(fetched(world.imapPort(), "dov@post.example")).contains("Subject: last");
        }
    }
}

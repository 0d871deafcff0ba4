package rafter.app.tickets.files;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.MESSAGE;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import javax.imageio.ImageIO;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.tickets.acts.OwnTrace;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;

/** All files of a ticket stand in one place with small pictures, whatever strangers sent; what does harm is not given out. */
@ExtendWith(RunningApp.class)
class TicketFilesTest extends Browsing {

    private final TicketFiles files = bean(TicketFiles.class);

    private static TicketNumber mailed(String name, String type, byte[] content) {
        int n = unique();
        String raw = "From: F <f" + n + "@files" + n + ".example>\nMessage-ID: <fi" + n
                + "@post.example>\nSubject: Files\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b\n\n--b\n"
                + "Content-Type: text/plain\n\nSee there.\n--b\nContent-Type: " + type + "; name=" + name
                + "\nContent-Disposition: attachment; filename=" + name + "\nContent-Transfer-Encoding: base64\n\n"
                + Base64.getMimeEncoder().encodeToString(content) + "\n--b--\n";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static byte[] png(int width, int height) throws Exception {
        var out = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB), "png", out);
        return out.toByteArray();
    }

    private static byte[] pdf() throws Exception {
        try (var document = new PDDocument()) {
            document.addPage(new PDPage());
            var out = new ByteArrayOutputStream();
            document.save(out);
            return out.toByteArray();
        }
    }

    private int preview(TicketNumber number) throws Exception {
        long id = files.of(number, imani()).getFirst().id();
        return get("/tickets/" + number + "/files/" + id + "/preview").statusCode();
    }

    @Test
    void pictures_and_first_pages_are_shown_small_and_texts_by_their_beginning() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(preview(mailed("deck.png", "image/png", png(900, 600)))).isEqualTo(200);
        assertThat(preview(mailed("booking.pdf", "application/pdf", pdf()))).isEqualTo(200);
        TicketNumber words = mailed("list.txt", "text/plain", "Crates: 14".getBytes(StandardCharsets.UTF_8));
        assertThat(bean(Traces.class).of(words).may(OwnTrace.FILES)).isTrue();
        assertThat(get("/tickets/" + words + "/files").body())
                .contains("Crates: 14")
                .contains("list.txt");
    }

    @Test
    void what_only_claims_to_be_a_picture_has_none_and_breaks_nothing() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        byte[] huge = png(2, 2);
        huge[16] = 0x7f;
        for (byte[] bad :
                List.of(huge, new byte[] {1, 2, 3}, "<svg onload=alert(1)>".getBytes(StandardCharsets.UTF_8))) {
            assertThat(preview(mailed("bad.png", "image/png", bad))).isEqualTo(404);
        }
        assertThat(preview(mailed("bad.pdf", "application/pdf", "%PDF-1.4 broken".getBytes(StandardCharsets.UTF_8))))
                .isEqualTo(404);
    }

    @Test
    void a_file_in_which_something_was_found_is_neither_shown_nor_taken() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        byte[] harmful = "RAFTER-HARMFUL-FILE-FOR-TRIALS".getBytes(StandardCharsets.UTF_8);
        TicketNumber number = mailed("bill.txt", "text/plain", harmful);
        long id = files.of(number, imani()).getFirst().id();
        assertThat(get("/files/" + id).body()).contains("was found in bill.txt").doesNotContain("FOR-TRIALS");
        assertThat(get("/tickets/" + number + "/files/" + id + "/preview").statusCode())
                .isEqualTo(422);
        assertThat(get("/tickets/" + number + "/files").body())
                .contains("bill.txt")
                .doesNotContain("FOR-TRIALS");
        assertThat(post(
                                "/tickets/" + number + "/outside",
                                token(get("/today")),
                                "to",
                                "office@harbour.example",
                                "subject",
                                "Look at this",
                                "html",
                                "<p>What is it?</p>",
                                "files",
                                Long.toString(id))
                        .body())
                .contains("was found in bill.txt")
                .contains("What is it?");
    }

    @Test
    void a_message_in_which_something_was_found_is_not_given_out_as_it_came_either() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        int n = unique();
        String raw = "From: F <f" + n + "@files" + n + ".example>\nMessage-ID: <fi" + n
                + "@post.example>\nSubject: Bill\n\nRAFTER-HARMFUL-FILE-FOR-TRIALS";
        MessageId message = sql().select(MESSAGE.ID)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(RunningApp.ticketOf(
                        RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow())))
                .and(MESSAGE.INBOUND_ID.isNotNull())
                .fetchSingle(MESSAGE.ID);
        assertThat(get("/messages/" + message + "/raw").body())
                .contains("was found in message-" + message + ".eml")
                .doesNotContain("FOR-TRIALS");
    }

    @Test
    void a_file_of_another_ticket_is_not_there() throws Exception {
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        TicketNumber one = mailed("deck.png", "image/png", png(9, 9));
        TicketNumber other = mailed("deck.png", "image/png", png(9, 9));
        long id = files.of(one, imani()).getFirst().id();
        assertThat(get("/tickets/" + other + "/files/" + id + "/preview").statusCode())
                .isEqualTo(404);
    }

    @Test
    void who_else_has_the_ticket_open_is_said_and_not_oneself() throws Exception {
        TicketNumber number = mailed("a.txt", "text/plain", new byte[] {65});
        signIn("imani@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/tickets/" + number).body()).doesNotContain("this ticket open, too");
        assertThat(get("/tickets/" + number).body()).doesNotContain("this ticket open, too");
        var other = new OtherBrowser();
        other.enter("sefa@ternpassage.example");
        assertThat(other.body("/tickets/" + number)).contains("Imani Okoro has this ticket open, too");
        assertThat(get("/tickets/" + number).body()).contains(sefa().name() + " has this ticket open, too");
        RunningApp.clock().tick(Duration.ofMinutes(4));
        assertThat(get("/tickets/" + number).body()).doesNotContain("this ticket open, too");
    }

    /** A second person's browser. */
    private static final class OtherBrowser extends Browsing {
        private void enter(String address) throws Exception {
            signIn(address, RunningApp.PASSWORD);
        }

        private String body(String path) throws Exception {
            return get(path).body();
        }
    }
}

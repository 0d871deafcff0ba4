package rafter.app.tickets.writing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;
import static rafter.database.Tables.ATTACHMENT;
import static rafter.database.Tables.FILE;
import static rafter.database.Tables.MESSAGE;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.platform.Files;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;

/** What people are writing is kept, and nobody's words are written over. */
@ExtendWith(RunningApp.class)
class DraftsTest {

    private static final Drafts.Kind REPLY = Drafts.Kind.REPLY;
    private final Drafts drafts = bean(Drafts.class);
    private final DraftFiles attached = bean(DraftFiles.class);
    private TicketNumber number;

    @BeforeEach
    void a_ticket() {
        int n = unique();
        String raw = "From: d" + n + "@post.example\nMessage-ID: <d" + n + "@post.example>\nSubject: Draft " + n
                + "\n\nHello";
        number = RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private Drafts.Saved save(String html, int base) {
        return drafts.save(number, REPLY, html, "", Turn.CUSTOMER, base, imani());
    }

    @Test
    void each_has_a_reply_and_a_note_of_their_own() {
        save("<p>Mine</p>", 0);
        drafts.save(number, Drafts.Kind.NOTE, "<p>Noted</p>", "", Turn.CUSTOMER, 0, imani());
        drafts.save(number, REPLY, "<p>Hers</p>", "cc@post.example", Turn.OURS, 0, sefa());
        assertThat(drafts.find(number, REPLY, imani()).html()).isEqualTo("<p>Mine</p>");
        assertThat(drafts.find(number, Drafts.Kind.NOTE, imani()).html()).isEqualTo("<p>Noted</p>");
        Drafts.Draft hers = drafts.find(number, REPLY, sefa());
        assertThat(hers.html()).isEqualTo("<p>Hers</p>");
        assertThat(hers.cc()).isEqualTo("cc@post.example");
        assertThat(hers.then()).isEqualTo(Turn.OURS);
    }

    @Test
    void what_another_window_wrote_meanwhile_is_given_back_and_not_lost() {
        assertThat(save("<p>One</p>", 0)).isInstanceOf(Drafts.Saved.Kept.class);
        assertThat(save("<p>One, two</p>", 1)).isEqualTo(new Drafts.Saved.Kept(2, clock().instant()));
        Drafts.Saved other = save("<p>One, three</p>", 1);
        assertThat(other)
                .isInstanceOfSatisfying(
                        Drafts.Saved.ChangedElsewhere.class,
                        changed -> assertThat(changed.there().html()).isEqualTo("<p>One, two</p>"));
        assertThat(drafts.find(number, REPLY, imani()).html()).isEqualTo("<p>One, two</p>");
    }

    @Test
    void the_same_words_from_two_windows_are_no_conflict() {
        save("<p>One</p>", 0);
        assertThat(save("<p>One</p>", 0)).isEqualTo(new Drafts.Saved.Kept(1, clock().instant()));
    }

    @Test
    void what_was_sent_elsewhere_begins_anew_with_what_is_typed_here() {
        save("<p>One</p>", 0);
        drafts.discard(number, REPLY, imani());
        assertThat(save("<p>More</p>", 1)).isEqualTo(new Drafts.Saved.Kept(1, clock().instant()));
        assertThat(drafts.find(number, REPLY, imani()).html()).isEqualTo("<p>More</p>");
    }

    @Test
    void scripts_do_not_get_into_a_draft_and_a_book_is_refused() {
        save("<p onclick=\"x()\">Hi<script>alert(1)</script></p>", 0);
        assertThat(drafts.find(number, REPLY, imani()).html()).contains("Hi").doesNotContain("script", "onclick");
        assertThatThrownBy(() -> save("x".repeat(600_000), 1))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("saved before is still there");
    }

    @Test
    void files_are_kept_until_they_are_more_than_a_mail_may_carry() {
        attached.attach(number, REPLY, "ticket.pdf", "application/pdf", new byte[10_000_000], imani());
        attached.attach(number, REPLY, "photo.jpg", "image/jpeg", new byte[10_000_000], imani());
        assertThatThrownBy(() -> attached.attach(number, REPLY, "film.mp4", "video/mp4", new byte[6_000_000], imani()))
                .isInstanceOf(Problem.Invalid.class)
                .hasMessageContaining("film.mp4")
                .hasMessageContaining("other files are saved");
        var files = drafts.find(number, REPLY, imani()).files();
        assertThat(files).extracting(Drafts.DraftFile::name).containsExactly("ticket.pdf", "photo.jpg");
        attached.detach(number, REPLY, files.getFirst().id(), sefa());
        assertThat(drafts.find(number, REPLY, imani()).files())
                .as("nobody takes away a colleague’s file")
                .hasSize(2);
        attached.detach(number, REPLY, files.getFirst().id(), imani());
        attached.attach(number, REPLY, "film.mp4", "video/mp4", new byte[6_000_000], imani());
        assertThat(drafts.find(number, REPLY, imani()).files()).hasSize(2);
    }

    @Test
    void who_else_is_writing_is_told_while_they_are() {
        drafts.save(number, REPLY, "<p>Just a moment</p>", "", Turn.CUSTOMER, 0, sefa());
        assertThat(drafts.othersWriting(number, imani())).containsExactly("Sefa Tui");
        assertThat(drafts.othersWriting(number, sefa())).isEmpty();
        clock().tick(Duration.ofMinutes(4));
        assertThat(drafts.othersWriting(number, imani())).isEmpty();
    }

    @Test
    void files_of_discarded_drafts_go_a_day_later_unless_something_else_has_them() {
        byte[] mine = ("only in a draft " + unique()).getBytes(StandardCharsets.UTF_8);
        byte[] twice = ("in two drafts " + unique()).getBytes(StandardCharsets.UTF_8);
        attached.attach(number, REPLY, "mine.txt", "text/plain", mine, imani());
        attached.attach(number, REPLY, "twice.txt", "text/plain", twice, imani());
        attached.attach(number, REPLY, "twice.txt", "text/plain", twice, sefa());
        drafts.discard(number, REPLY, imani());
        var files = bean(Files.class);
        files.clearAway();
        assertThat(files.read(Files.sha256(mine))).as("for a day it is there").isEqualTo(mine);
        clock().tick(Duration.ofHours(25));
        files.clearAway();
        assertThat(kept(mine)).isFalse();
        assertThat(kept(twice)).as("a colleague has it").isTrue();
        drafts.discard(number, REPLY, sefa());
        attached.attach(number, REPLY, "mine.txt", "text/plain", mine, imani());
        clock().tick(Duration.ofHours(25));
        files.keepOnceMore(twice);
        files.clearAway();
        assertThat(kept(twice)).as("it was kept again just now").isTrue();
        assertThat(files.read(Files.sha256(mine)))
                .as("what was cleared away can be kept again")
                .isEqualTo(mine);
        drafts.discard(number, REPLY, imani());
    }

    private static boolean kept(byte[] content) {
        return RunningApp.sql().fetchExists(FILE, FILE.SHA256.eq(Files.sha256(content)));
    }

    @Test
    void what_a_macro_or_a_batch_writes_leaves_what_its_person_is_writing_as_it_is() {
        save("<p>My own words</p>", 0);
        attached.attach(number, REPLY, "mine.txt", "text/plain", new byte[] {65}, imani());
        drafts.save(number, Drafts.Kind.NOTE, "<p>My own note</p>", "", Turn.CUSTOMER, 0, imani());
        Acts acts = bean(Acts.class);
        acts.performAll(
                number,
                List.of(new Act.SetTopic("storms"), new Act.Note("About {topic}"), new Act.Tag("storm")),
                imani());
        acts.perform(number, new Act.Answer("It sails", Turn.CUSTOMER), imani());
        assertThat(drafts.find(number, REPLY, imani()).html()).isEqualTo("<p>My own words</p>");
        assertThat(drafts.find(number, REPLY, imani()).files()).hasSize(1);
        assertThat(drafts.find(number, Drafts.Kind.NOTE, imani()).html()).isEqualTo("<p>My own note</p>");
        var written = RunningApp.sql()
                .selectFrom(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.in("NOTE", "PUBLIC"))
                .orderBy(MESSAGE.SEQ)
                .fetch(MESSAGE.TEXT);
        assertThat(written).containsExactly("About storms", "It sails");
        assertThat(RunningApp.sql()
                        .fetchCount(
                                ATTACHMENT.join(MESSAGE).on(MESSAGE.ID.eq(ATTACHMENT.MESSAGE_ID)),
                                MESSAGE.TICKET.eq(number)))
                .isZero();
    }
}

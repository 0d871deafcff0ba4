package rafter.app.tickets.page;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.app.RunningApp;
import rafter.app.house.access.Colleagues;
import rafter.app.house.fields.OwnFields;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.channel.Delivery;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.database.tables.records.AttachmentRecord;
import rafter.database.tables.records.MessageRecord;

/** How an entry of a conversation is shown: its pictures, by which way it came, and what can be done with it. */
@ExtendWith(RunningApp.class)
class TellingTest {

    private static final Instant AT = Instant.parse("2027-03-01T09:00:00Z");
    private static final MessageId ID = new MessageId(8);

    private static MessageRecord message(String kind, String html) {
        var row = new MessageRecord();
        row.setId(ID);
        row.setKind(kind);
        row.setHtml(html);
        row.setSeq(5);
        row.setAt(AT);
        row.setAuthor("Dov Reiss");
        row.setRemark("");
        row.setFromAddress("dov@brightwater.example");
        row.setToAddresses("help@ternpassage.example");
        row.setCcAddresses("");
        row.setBccAddresses("");
        return row;
    }

    private static AttachmentRecord file(long id, String name, String contentId) {
        var row = new AttachmentRecord();
        row.setId(id);
        row.setName(name);
        row.setSize(2_048L);
        row.setContentId(contentId);
        return row;
    }

    private static Telling telling(
            List<AttachmentRecord> files, Optional<Delivery> delivery, Optional<MessageId> pictures) {
        return new Telling(
                Map.of(),
                Map.of(ID, files),
                delivery.map(one -> Map.of(ID, one)).orElse(Map.of()),
                pictures,
                new ChangeWords(
                        new Colleagues(Map.of(), Map.of()),
                        bean(OwnFields.class),
                        bean(Workplace.class),
                        ZoneOffset.UTC,
                        AT),
                Map.of());
    }

    private static Conversation.Entry shown(MessageRecord row, AttachmentRecord... files) {
        return telling(List.of(files), Optional.empty(), Optional.empty()).entry(row, Optional.empty(), "email");
    }

    @Test
    void a_text_without_pictures_is_shown_as_it_is_kept() {
        String kept = "<p>a &lt; b &amp;&nbsp;c</p>\n<blockquote>as you wrote</blockquote>";
        assertThat(shown(message("CUSTOMER", kept)).html()).isEqualTo(kept);
    }

    @Test
    void a_picture_that_came_along_stands_where_it_belongs_and_is_not_listed_once_more() {
        Conversation.Entry entry = shown(
                message("CUSTOMER", "<p>See <img data-cid=\"ramp\" alt=\"\"> here</p>"),
                file(70, "ramp.png", "ramp"),
                file(71, "papers.pdf", ""));
        assertThat(entry.html()).contains("src=\"/files/70\"").doesNotContain("data-cid");
        assertThat(entry.files()).extracting(Conversation.FileView::name).containsExactly("papers.pdf");
        assertThat(entry.remotePictures()).isFalse();
    }

    @Test
    void a_picture_that_did_not_come_along_is_said_to_be_missing() {
        assertThat(shown(message("CUSTOMER", "<p><img data-cid=\"gone\"></p>")).html())
                .isEqualTo("<p>[picture missing]</p>");
    }

    @Test
    void pictures_from_elsewhere_are_loaded_when_they_are_asked_for_alone() {
        MessageRecord row = message("CUSTOMER", "<p><img data-remote=\"https://post.example/a.png\" alt=\"\"></p>");
        Conversation.Entry before = shown(row);
        assertThat(before.remotePictures()).isTrue();
        assertThat(before.html()).doesNotContain(" src=");
        Conversation.Entry after =
                telling(List.of(), Optional.empty(), Optional.of(ID)).entry(row, Optional.empty(), "email");
        assertThat(after.remotePictures()).isFalse();
        assertThat(after.html()).contains("src=\"https://post.example/a.png\"", "referrerpolicy=\"no-referrer\"");
        Conversation.Entry another = telling(List.of(), Optional.empty(), Optional.of(new MessageId(9)))
                .entry(row, Optional.empty(), "email");
        assertThat(another.html()).doesNotContain(" src=");
    }

    static Stream<Arguments> ways() {
        return Stream.of(
                Arguments.of("CUSTOMER", "email from dov@brightwater.example"),
                Arguments.of("PUBLIC", "email to help@ternpassage.example"),
                Arguments.of("AUTOMATIC", "email, sent by Rafter"),
                Arguments.of("NOTE", "note, the customer does not see this"),
                Arguments.of("PUBLIC_NOTE", "note, the customer sees this on the page of their request"),
                Arguments.of("BOUNCE", "delivery report"),
                Arguments.of("OUTSIDE_IN", "outside, from dov@brightwater.example; the customer does not see this"),
                Arguments.of("OUTSIDE_OUT", "outside, to help@ternpassage.example; the customer does not see this"));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void by_which_way_it_came_is_said(String kind, String via) {
        assertThat(shown(message(kind, "")).via()).isEqualTo(via);
    }

    @Test
    void who_else_had_it_is_said_and_on_which_ticket_it_was() {
        MessageRecord row = message("PUBLIC", "");
        row.setCcAddresses("ada@brightwater.example");
        row.setBccAddresses("eva@brightwater.example");
        assertThat(telling(List.of(), Optional.empty(), Optional.empty())
                        .entry(row, Optional.of(new TicketNumber(4480)), "email")
                        .via())
                .isEqualTo("email to help@ternpassage.example, cc ada@brightwater.example, "
                        + "bcc eva@brightwater.example, on 4480");
    }

    @Test
    void what_machines_wrote_is_folded_and_is_not_forwarded() {
        assertThat(shown(message("AUTOMATIC", "")))
                .satisfies(entry -> assertThat(entry.folded()).isTrue())
                .satisfies(entry -> assertThat(entry.forwards()).isFalse())
                .satisfies(entry -> assertThat(entry.footed()).isFalse());
        assertThat(shown(message("BOUNCE", "")).footed()).isTrue();
        assertThat(shown(message("CUSTOMER", "")).forwards()).isTrue();
        assertThat(shown(message("NOTE", "")).footed()).isFalse();
    }

    @Test
    void a_customers_message_after_the_first_can_be_split_off_and_not_twice() {
        assertThat(shown(message("CUSTOMER", "")).splittable()).isTrue();
        MessageRecord first = message("CUSTOMER", "");
        first.setSeq(2);
        assertThat(shown(first).splittable()).isFalse();
        assertThat(shown(message("PUBLIC", "")).splittable()).isFalse();
        MessageRecord gone = message("CUSTOMER", "");
        gone.setSplitInto(new MessageId(12));
        assertThat(shown(gone))
                .extracting(Conversation.Entry::css, Conversation.Entry::splittable, Conversation.Entry::via)
                .containsExactly("split", false, "goes on in a ticket of its own");
    }

    private static Conversation.DeliveryView delivery(Delivery.State state, int attempts) {
        var one = new Delivery(3, state, attempts, "No such mailbox", AT.plusSeconds(600), Optional.of(AT));
        return telling(List.of(), Optional.of(one), Optional.empty())
                .entry(message("PUBLIC", ""), Optional.empty(), "email")
                .delivery()
                .orElseThrow();
    }

    @Test
    void how_it_stands_on_its_way_is_said_and_what_failed_can_be_tried_again() {
        assertThat(delivery(Delivery.State.QUEUED, 0).words()).isEqualTo("queued");
        assertThat(delivery(Delivery.State.SENT, 1).words()).isEqualTo("sent 09:00");
        assertThat(delivery(Delivery.State.WAITING, 0).words()).isEqualTo("not seen yet");
        assertThat(delivery(Delivery.State.SEEN, 0).words()).isEqualTo("seen");
        assertThat(delivery(Delivery.State.QUEUED, 2))
                .satisfies(one -> assertThat(one.words()).isEqualTo("waiting, next try 09:10. No such mailbox"))
                .satisfies(one -> assertThat(one.canRetry()).isTrue());
        assertThat(delivery(Delivery.State.FAILED, 5))
                .satisfies(one -> assertThat(one.words()).isEqualTo("not sent. No such mailbox"))
                .satisfies(one -> assertThat(one.canRetry()).isTrue());
    }
}

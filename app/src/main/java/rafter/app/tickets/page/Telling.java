package rafter.app.tickets.page;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.TextNode;
import org.jsoup.select.Elements;
import rafter.app.platform.Say;
import rafter.app.tickets.channel.Delivery;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;
import rafter.database.tables.records.AttachmentRecord;
import rafter.database.tables.records.MessageRecord;

/** What all lines of one conversation are made with. */
record Telling(
        Map<MessageId, MessageRecord> messages,
        Map<MessageId, List<AttachmentRecord>> files,
        Map<MessageId, Delivery> deliveries,
        Optional<MessageId> pictures,
        ChangeWords words,
        Map<MessageId, TicketNumber> splits) {

    /** The number of the event that brought the first message of a customer, after the opening. */
    private static final int FIRST_MESSAGE = 2;

    /**
     * An entry as the page shows it.
     *
     * @param joined on which ticket it was written, when that became a part of this one
     * @param channel what the channel is called by which it came
     */
    Conversation.Entry entry(MessageRecord m, Optional<TicketNumber> joined, String channel) {
        List<AttachmentRecord> attached = files.getOrDefault(m.getId(), List.of());
        boolean wanted = pictures.filter(m.getId()::equals).isPresent();
        Shown shown = shown(m.getHtml(), attached, wanted);
        List<Conversation.FileView> listed = attached.stream()
                .filter(f -> !shown.inline().contains("/files/" + f.getId()))
                .map(f -> new Conversation.FileView(f.getId(), f.getName(), Say.size(f.getSize())))
                .toList();
        Optional<Delivery> delivery = Optional.ofNullable(deliveries.get(m.getId()));
        return new Conversation.Entry(
                m.getId(),
                m.getSplitInto() != null ? "split" : m.getKind().toLowerCase(Locale.ROOT),
                m.getAuthor(),
                via(m, channel) + (joined.isPresent() ? ", on " + joined.orElseThrow() : ""),
                words.when(m.getAt()),
                Say.exactly(m.getAt(), words.zone()),
                shown.html(),
                m.getRemark(),
                listed,
                shown.remote() && !wanted,
                m.getInboundId() != null,
                joined.isEmpty()
                        && m.getKind().equals("CUSTOMER")
                        && m.getSplitInto() == null
                        && m.getSeq() > FIRST_MESSAGE,
                Optional.ofNullable(splits.get(m.getId())),
                delivery.map(this::delivery));
    }

    /**
     * The text of an entry.
     *
     * @param inline the addresses of the files that stand in it as pictures
     * @param remote whether it has pictures from elsewhere
     */
    private record Shown(String html, Set<String> inline, boolean remote) {}

    /** A text without pictures is shown as it is kept; it was cleaned when it came. */
    private static Shown shown(String kept, List<AttachmentRecord> files, boolean remoteWanted) {
        if (!kept.contains("<img")) {
            return new Shown(kept, Set.of(), false);
        }
        Document html = Jsoup.parseBodyFragment(kept);
        html.outputSettings().prettyPrint(false);
        showInline(html, files);
        Elements remote = html.select("img[data-remote]");
        if (remoteWanted) {
            remote.forEach(img -> img.attr("src", img.attr("data-remote")).attr("referrerpolicy", "no-referrer"));
        }
        Set<String> inline = Set.copyOf(html.select("img[src^=/files/]").eachAttr("src"));
        return new Shown(html.body().html(), inline, !remote.isEmpty());
    }

    /** Pictures that a mail brought along stand where it puts them. */
    private static void showInline(Document html, List<AttachmentRecord> files) {
        var inline = new HashMap<String, Long>();
        files.stream().filter(f -> !f.getContentId().isEmpty()).forEach(f -> inline.put(f.getContentId(), f.getId()));
        html.select("img[data-cid]").forEach(img -> {
            Long file = inline.get(img.attr("data-cid"));
            if (file == null) {
                img.replaceWith(new TextNode("[picture missing]"));
            } else {
                img.attr("src", "/files/" + file).removeAttr("data-cid").attr("loading", "lazy");
            }
        });
    }

    private static String via(MessageRecord m, String channel) {
        if (m.getSplitInto() != null) {
            return "goes on in a ticket of its own";
        }
        return switch (m.getKind()) {
            case "OUTSIDE_OUT" -> "outside, to " + m.getToAddresses() + "; the customer does not see this";
            case "OUTSIDE_IN" -> "outside, from " + m.getFromAddress() + "; the customer does not see this";
            case "NOTE" -> "note, the customer does not see this";
            case "PUBLIC_NOTE" -> "note, the customer sees this on the page of their request";
            case "BOUNCE" -> "delivery report";
            case "AUTOMATIC" -> channel + ", sent by Rafter";
            case "PUBLIC" ->
                channel
                        + (m.getToAddresses().contains("@") ? " to " + m.getToAddresses() : "")
                        + (m.getCcAddresses().isEmpty() ? "" : ", cc " + m.getCcAddresses())
                        + (m.getBccAddresses().isEmpty() ? "" : ", bcc " + m.getBccAddresses());
            default ->
                channel
                        + (m.getFromAddress().isEmpty() ? "" : " from " + m.getFromAddress())
                        + (m.getCcAddresses().isEmpty() ? "" : ", cc " + m.getCcAddresses());
        };
    }

    private Conversation.DeliveryView delivery(Delivery d) {
        return switch (d.state()) {
            case SENT ->
                new Conversation.DeliveryView(
                        d.id(),
                        "sent",
                        "sent " + d.sentAt().map(at -> words.when(at)).orElse(""),
                        false);
            case SEEN -> new Conversation.DeliveryView(d.id(), "sent", "seen", false);
            case WAITING -> new Conversation.DeliveryView(d.id(), "queued", "not seen yet", false);
            case FAILED -> new Conversation.DeliveryView(d.id(), "failed", "not sent. " + d.reason(), true);
            case QUEUED ->
                d.attempts() == 0
                        ? new Conversation.DeliveryView(d.id(), "queued", "queued", false)
                        : new Conversation.DeliveryView(
                                d.id(),
                                "delayed",
                                "waiting, next try " + words.when(d.nextAt()) + ". " + d.reason(),
                                true);
        };
    }
}

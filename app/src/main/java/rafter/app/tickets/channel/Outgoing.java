package rafter.app.tickets.channel;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.id.MessageId;
import rafter.core.id.TicketNumber;

/**
 * A message of ours before it leaves.
 *
 * @param ticket the ticket it belongs to
 * @param entry the entry that shows it, if one does
 * @param from the address of ours that it comes from
 * @param identity by which answers and reports refer to it
 * @param senderName who writes, as the customer reads it
 * @param to addresses
 * @param copies addresses of others who get it too
 * @param blind addresses of others who get it too, unseen by the rest
 * @param html the formatted text, safe
 * @param text the same in plain text
 * @param answers the identity of what it answers
 * @param thread the identities of the messages of the conversation, oldest first
 * @param automatic whether Rafter itself writes; machines are then asked not to answer
 */
public record Outgoing(
        TicketNumber ticket,
        Optional<MessageId> entry,
        OurAddress from,
        String identity,
        String senderName,
        List<String> to,
        List<String> copies,
        List<String> blind,
        String subject,
        String html,
        String text,
        Optional<String> answers,
        List<String> thread,
        List<FilePart> files,
        boolean automatic,
        Instant at) {

    /** The subject of an answer to a message of this subject. */
    public static String re(String subject) {
        return subject.matches("(?is)re:.*") ? subject : "Re: " + subject;
    }

    /**
     * A file that goes along.
     *
     * @param contentId by which the formatted text refers to it as a picture; empty when it does not
     */
    public record FilePart(String name, String mediaType, byte[] content, String contentId) {}
}

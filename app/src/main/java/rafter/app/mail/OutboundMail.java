package rafter.app.mail;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * A mail of ours before it is made.
 *
 * @param ticket the ticket it belongs to
 * @param message the entry that shows it, if one does
 * @param senderName who writes, as the customer reads it
 * @param to addresses
 * @param cc addresses
 * @param html the formatted text, safe
 * @param text the same in plain text
 * @param inReplyTo the Message-ID it answers
 * @param references the Message-IDs of the thread, oldest first
 * @param automatic whether Rafter itself writes; machines are then asked not to answer
 */
public record OutboundMail(
        long ticket,
        Optional<Long> message,
        Mailbox mailbox,
        String messageId,
        String senderName,
        List<String> to,
        List<String> cc,
        String subject,
        String html,
        String text,
        Optional<String> inReplyTo,
        List<String> references,
        List<FilePart> files,
        boolean automatic,
        Instant at) {

    /**
     * A file that goes along.
     *
     * @param contentId by which the formatted text refers to it as a picture; empty when it does not
     */
    public record FilePart(String name, String mediaType, byte[] content, String contentId) {}
}

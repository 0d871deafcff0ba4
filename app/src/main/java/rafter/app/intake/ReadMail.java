package rafter.app.intake;

import java.util.List;
import java.util.Optional;
import rafter.core.text.MailKind;

/**
 * A mail as it was understood.
 *
 * @param from its author; nothing when none could be made out
 * @param replyTo where the author wants answers
 * @param received every address it says it was sent or delivered to, in lower case
 * @param references the Message-IDs it answers or refers to, the nearest first
 * @param bouncedId of a delivery report: the Message-ID of the mail that was not delivered
 * @param html its formatted text as it came; nothing when there is none
 * @param text its plain text; made from the formatted one when there is none
 * @param remarks what could not be understood, or was left out, in words
 */
record ReadMail(
        Optional<Address> from,
        Optional<Address> replyTo,
        List<Address> to,
        List<Address> cc,
        List<String> received,
        String subject,
        Optional<String> messageId,
        List<String> references,
        MailKind kind,
        Optional<String> bouncedId,
        Optional<String> html,
        String text,
        List<Part> files,
        List<String> remarks) {

    /** A mail address, in lower case, and the name that goes with it. */
    record Address(String address, String name) {}

    /**
     * A part that is kept as a file.
     *
     * @param contentId by which the text refers to it; empty when it has none
     */
    record Part(String name, String mediaType, String contentId, byte[] content) {}
}

package rafter.app.arrival.intake;

import java.util.List;
import java.util.Optional;
import rafter.core.text.Bounce;
import rafter.core.text.MailKind;

/**
 * A mail as it was understood.
 *
 * @param from its author; nothing when none could be made out
 * @param replyTo where the author wants answers
 * @param received every address it says it was sent or delivered to, in lower case
 * @param references the Message-IDs it answers or refers to, the nearest first
 * @param bounce what it reports, when it is a delivery report
 * @param unanswered whether its sender wants no automatic answer, or no answer of a machine may go to it
 * @param passedOn whether its subject says that it passes another message on
 * @param header its header, a line each, and {@code size} how large it is in bytes
 * @param words its texts in their order
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
        Optional<Bounce> bounce,
        boolean unanswered,
        boolean passedOn,
        String header,
        long size,
        List<Words> words,
        List<Part> files,
        List<String> remarks) {

    /** A mail address, in lower case, and the name that goes with it. */
    public record Address(String address, String name) {}

    /**
     * A text of a mail.
     *
     * @param formatted whether it is HTML
     * @param text as its author made it
     */
    public record Words(boolean formatted, String text) {}

    /**
     * A part that is kept as a file.
     *
     * @param contentId by which the text refers to it; empty when it has none
     */
    public record Part(String name, String mediaType, String contentId, byte[] content) {}
}

package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;

/**
 * An entry to be added to a ticket.
 *
 * @param author who it is from, as people read it
 * @param html the formatted text, safe to show
 * @param text its own words in plain text, for lists and searching
 * @param folded what is folded away of it, in plain text, for searching
 * @param remark what Rafter has to say about it, such as why it did not join another ticket
 */
public record NewMessage(
        Kind kind,
        Instant at,
        String author,
        Optional<ContactId> contact,
        Optional<PersonId> person,
        Envelope envelope,
        String html,
        String text,
        String folded,
        Optional<Long> inbound,
        String remark,
        List<FileRef> files) {

    /** An entry of which nothing is folded away. */
    public NewMessage(
            Kind kind,
            Instant at,
            String author,
            Optional<ContactId> contact,
            Optional<PersonId> person,
            Envelope envelope,
            String html,
            String text,
            Optional<Long> inbound,
            String remark,
            List<FileRef> files) {
        this(kind, at, author, contact, person, envelope, html, text, "", inbound, remark, files);
    }

    /** This entry with one more thing that Rafter has to say about it. */
    public NewMessage remarked(String more) {
        String all = more.isEmpty() ? remark : remark.isEmpty() ? more : remark + " " + more;
        return new NewMessage(kind, at, author, contact, person, envelope, html, text, folded, inbound, all, files);
    }

    /** What an entry is. */
    public enum Kind {
        /** From the customer's side. */
        CUSTOMER,
        /** From a person of ours to the customer. */
        PUBLIC,
        /** Among ourselves. */
        NOTE,
        /** For the customer to see on the page of their request, without a mail. */
        PUBLIC_NOTE,
        /** From Rafter itself to the customer. */
        AUTOMATIC,
        /** A report that a mail of ours was not delivered. */
        BOUNCE,
        /** From us to a third party; the customer never sees it. */
        OUTSIDE_OUT,
        /** From a third party; the customer never sees it. */
        OUTSIDE_IN
    }

    /**
     * The addresses and identifiers of a mail.
     *
     * @param bcc copies that the other readers do not see
     * @param replyTo where its author wants answers; empty: at {@code from}
     */
    public record Envelope(
            String from,
            String replyTo,
            List<String> to,
            List<String> cc,
            List<String> bcc,
            String subject,
            Optional<String> messageId) {

        /** Of a mail without copies that nobody sees. */
        public Envelope(
                String from,
                String replyTo,
                List<String> to,
                List<String> cc,
                String subject,
                Optional<String> messageId) {
            this(from, replyTo, to, cc, List.of(), subject, messageId);
        }

        /** Of an entry that is no mail. */
        public static final Envelope NONE = new Envelope("", "", List.of(), List.of(), "", Optional.empty());
    }

    /**
     * A file that belongs to an entry.
     *
     * @param contentId by which its text refers to it as a picture; empty when it does not
     */
    public record FileRef(byte[] sha256, String name, String mediaType, long size, String contentId) {}
}

package rafter.app.arrival.sorting;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.arrival.MailFacts;

/** The mail that was received, for trying rules on it and learning from it. */
public interface MailSource {

    /**
     * A mail that was received.
     *
     * @param became what became of it, in words
     */
    record Received(long id, Instant at, MailFacts.Mail mail, String became) {}

    /** The last mails that belonged to no ticket when they came, the newest first. */
    List<Received> latest(int most);

    /** A mail as it was received; nothing when it cannot be read. */
    Optional<MailFacts.Mail> mail(long inbound);
}

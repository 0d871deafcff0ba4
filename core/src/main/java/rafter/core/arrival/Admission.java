package rafter.core.arrival;

import java.util.Arrays;
import java.util.Optional;

/** What can become of a mail that belongs to no ticket yet. */
public enum Admission {
    /** It opens a ticket; a sender whom nobody knows becomes a contact. */
    TICKET("ticket", "it opens a ticket"),
    /** It opens a ticket that has no contact of its own, when nobody knows its sender. */
    STRANGER("stranger", "it opens a ticket, but an unknown sender becomes no contact"),
    /** It becomes an entry of the ticket of its sender that was opened last and is open; without one it opens a ticket. */
    NEWS("news", "it is added to the sender’s latest open ticket, if there is one"),
    /** An administrator looks at it. */
    ASIDE("aside", "it is set aside"),
    /** It is there for who looks for it, and nobody is told. */
    SAVED("saved", "it is saved, and nothing else");

    private final String key;
    private final String words;

    Admission(String key, String words) {
        this.key = key;
        this.words = words;
    }

    /** Its name in data. */
    public String key() {
        return key;
    }

    /** What becomes of the mail, in words. */
    public String words() {
        return words;
    }

    /** The one that data names so. */
    public static Optional<Admission> of(String key) {
        return Arrays.stream(values()).filter(one -> one.key.equals(key)).findFirst();
    }
}

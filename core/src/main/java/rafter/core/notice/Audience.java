package rafter.core.notice;

import java.util.Locale;
import java.util.Optional;
import rafter.core.ticket.Act;

/** Who can be told of something that happens to a ticket. */
public enum Audience {
    CUSTOMER("The customer", Optional.empty()),
    OWNER("The owner", Optional.of(Act.Whom.OWNER)),
    TEAM("The team", Optional.of(Act.Whom.TEAM)),
    LEADS("The leads", Optional.of(Act.Whom.LEAD));

    private final String words;
    private final Optional<Act.Whom> whom;

    Audience(String words, Optional<Act.Whom> whom) {
        this.words = words;
        this.whom = whom;
    }

    /** What people call it. */
    public String words() {
        return words;
    }

    /** Those of us whom it stands for; nothing for the customer, who gets a mail. */
    public Optional<Act.Whom> whom() {
        return whom;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT);
    }
}

package rafter.core.rule;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** From where rules on the clock count. */
public enum Moment {
    CREATED("since it was opened", false),
    TURN("since its turn began", false),
    CUSTOMER("since the customer last wrote", false),
    US("since one of us last wrote", false),
    DUE("before its next target is due", true),
    BACK("before it comes back", true);

    private final String words;
    private final boolean ahead;

    Moment(String words, boolean ahead) {
        this.words = words;
        this.ahead = ahead;
    }

    /** As a sentence says it after an amount of time. */
    public String words() {
        return words;
    }

    /** Whether it lies ahead, so that the amount is counted back from it. */
    public boolean ahead() {
        return ahead;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The one that data names so. */
    public static Optional<Moment> of(String key) {
        return Arrays.stream(values()).filter(one -> one.key().equals(key)).findFirst();
    }

    /** Where it lies on a ticket; nothing when there is no such moment, as on a ticket that nobody has written on. */
    public Optional<Instant> on(Ticket ticket, List<TicketEvent> events, List<TargetClock> clocks) {
        return switch (this) {
            case CREATED -> Optional.of(ticket.openedAt());
            case TURN -> Optional.of(ticket.turnSince());
            case CUSTOMER -> ticket.lastCustomerAt();
            case US ->
                events.reversed().stream()
                        .filter(event -> event instanceof TicketEvent.WeWrote wrote && !wrote.automatic())
                        .map(TicketEvent::at)
                        .findFirst();
            case DUE -> Reckoning.nextDue(clocks).flatMap(TargetClock::dueMark);
            case BACK -> ticket.bringBackAt();
        };
    }
}

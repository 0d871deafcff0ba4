package rafter.core.rule;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** What can happen to a ticket that rules wait for. */
public enum Happening {
    CUSTOMER_WROTE("the customer writes"),
    WE_WROTE("one of us answers"),
    PARTNER_WROTE("a partner answers"),
    STATE("the state changes"),
    OWNER("the owner changes"),
    TEAM("the team changes"),
    PRIORITY("the priority changes"),
    TOPIC("the topic changes"),
    TAGGED("a tag is put on"),
    FIELD("a field changes"),
    RATED("the customer rates it"),
    BACK("it comes back"),
    TARGET_STEP("a step of a target fires");

    private final String words;

    Happening(String words) {
        this.words = words;
    }

    /** As a sentence says it after “when”. */
    public String words() {
        return words;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The one that data names so. */
    public static Optional<Happening> of(String key) {
        return Arrays.stream(values()).filter(one -> one.key().equals(key)).findFirst();
    }

    /** What an event is to rules; nothing when none waits for such events. What a machine of the customer’s wrote is not the customer writing. */
    public static Optional<Happening> of(Ticket before, TicketEvent event) {
        return switch (EventKind.of(event)) {
            case CUSTOMER_WROTE ->
                when(event instanceof TicketEvent.CustomerWrote wrote && !wrote.automatic(), CUSTOMER_WROTE);
            case WE_WROTE -> when(event instanceof TicketEvent.WeWrote wrote && !wrote.automatic(), WE_WROTE);
            case OUTSIDE_WROTE ->
                when(event instanceof TicketEvent.OutsideWrote wrote && !wrote.automatic(), PARTNER_WROTE);
            case STATE -> Optional.of(STATE);
            case OWNER -> Optional.of(OWNER);
            case TEAM -> Optional.of(TEAM);
            case PRIORITY -> Optional.of(PRIORITY);
            case TOPIC -> Optional.of(TOPIC);
            case TAGS ->
                when(
                        event instanceof TicketEvent.TagsChanged tags
                                && !before.tags().containsAll(tags.tags()),
                        TAGGED);
            case FIELD -> Optional.of(FIELD);
            case RATED -> Optional.of(RATED);
            case BROUGHT_BACK -> Optional.of(BACK);
            case OPENED,
                    NOTE,
                    PUBLIC_NOTE,
                    NOTE_TAKEN_BACK,
                    BOUNCED,
                    LINKED,
                    UNLINKED,
                    CONTINUED,
                    CUSTOMER,
                    JOINED,
                    PARTED,
                    DISCARDED,
                    RESTORED,
                    TIME_AGREED,
                    BRING_BACK,
                    WATCHED,
                    TASK,
                    TASK_TICKED,
                    TASK_DROPPED,
                    TASKS_ORDERED,
                    TIME_SPENT,
                    TIME_DROPPED,
                    CONCLUDED,
                    PUT_UNDER,
                    WROTE_OUTSIDE,
                    CUSTOMER_IS,
                    SPLIT_OFF,
                    SPLIT_BACK,
                    CALL,
                    CALL_DROPPED,
                    MEETING,
                    MEETING_OFF,
                    HELP_ASKED,
                    HELP_ENDED,
                    HELP_REOPENED,
                    WATCHED_FOR,
                    AWAITS,
                    SIDE_ASKED,
                    SIDE_ANSWERED,
                    SIDE_DROPPED,
                    POLICY_PUT,
                    QUEUE_PUT,
                    SKILL_PUT,
                    WAY_CHANGED -> Optional.empty();
        };
    }

    private static Optional<Happening> when(boolean so, Happening happening) {
        return so ? Optional.of(happening) : Optional.empty();
    }
}

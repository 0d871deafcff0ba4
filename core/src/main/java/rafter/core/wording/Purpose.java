package rafter.core.wording;

import java.util.Arrays;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import rafter.core.text.Placeholder;

/** What a mail that Rafter writes by itself is for. */
public enum Purpose {
    ACKNOWLEDGEMENT(
            "Acknowledgement",
            "once for each new ticket, never to machines, lists or automatic replies",
            Placeholder.forAcknowledgements()),
    RATING("Question how we did", "when a ticket is resolved and the time for it has come", Placeholder.forRating()),
    REMINDER(
            "Reminder of a partner",
            "to somebody outside who has not answered in time",
            EnumSet.of(Placeholder.SUBJECT, Placeholder.TICKET, Placeholder.WORKSPACE)),
    INVITATION("Invitation to a meeting", "to everybody who is invited", Placeholder.forMeetings()),
    MEETING_CHANGED("Change of a meeting", "to everybody who is invited", Placeholder.forMeetings()),
    MEETING_OFF("Meeting called off", "to everybody who was invited", Placeholder.forMeetings()),
    CONSULT("Invitation into a room", "to everybody whose help is asked for", Placeholder.forConsults()),
    OWN("Template", "by the rules that name it", Placeholder.forRules());

    private final String words;
    private final String when;
    private final Set<Placeholder> placeholders;

    Purpose(String words, String when, Set<Placeholder> placeholders) {
        this.words = words;
        this.when = when;
        this.placeholders = Set.copyOf(placeholders);
    }

    /** What people call it. */
    public String words() {
        return words;
    }

    /** When, or to whom, it is sent. */
    public String when() {
        return when;
    }

    /** What can stand in it in braces, in the order of the catalogue. */
    public Set<Placeholder> placeholders() {
        return EnumSet.copyOf(placeholders);
    }

    /** Without which it would be of no use; nothing for most. */
    public Optional<Placeholder> needed() {
        return switch (this) {
            case RATING -> Optional.of(Placeholder.RATING);
            case CONSULT -> Optional.of(Placeholder.ROOM);
            default -> Optional.empty();
        };
    }

    /** Whether there can be several, of which one is chosen. */
    public boolean several() {
        return this == ACKNOWLEDGEMENT || this == OWN;
    }

    /** Whether one of several is chosen by what is known of the ticket, and not by its name. */
    public boolean chosen() {
        return this == ACKNOWLEDGEMENT;
    }

    /** As data names it. */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The one that data names so. */
    public static Optional<Purpose> of(String key) {
        return Arrays.stream(values()).filter(one -> one.key().equals(key)).findFirst();
    }
}

package rafter.app.tickets.channel;

import java.util.OptionalInt;

/**
 * What can be done by a channel.
 *
 * @param publicly whether others than the customer can read what is said there
 * @param formatted whether text can be formatted; else it is sent plain
 * @param longest how many signs a message may have; empty when there is no limit
 * @param files whether files can go along
 * @param subject whether a message has a subject
 * @param copies whether others can be sent a copy
 * @param live whether both sides are there at once, so that what is said is read at once
 * @param delivered what it means that a message was delivered, as people read it
 */
public record Abilities(
        boolean publicly,
        boolean formatted,
        OptionalInt longest,
        boolean files,
        boolean subject,
        boolean copies,
        boolean live,
        String delivered) {

    /** Whether letters can be sent by it to anybody whose address is known, rather than to the customer of a talk alone. */
    public boolean letters() {
        return subject;
    }

    /** Whether anything can be written by it at all. */
    public boolean written() {
        return longest.isEmpty() || longest.getAsInt() > 0;
    }

    /** What a channel can do that this installation does not have. */
    static final Abilities NONE = new Abilities(false, false, OptionalInt.of(0), false, false, false, false, "");
}

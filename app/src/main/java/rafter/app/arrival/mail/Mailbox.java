package rafter.app.arrival.mail;

import java.time.Instant;
import java.util.Optional;
import java.util.OptionalLong;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.id.TeamId;
import rafter.core.ticket.Way;

/**
 * A mailbox to which customers write, and from which we answer.
 *
 * @param name what our mail is signed with
 * @param team the team that its tickets go to
 * @param watched whether mail is fetched from it
 * @param plusAddressing whether its server delivers {@code name+anything@} too, so that reply addresses can carry a mark
 * @param afterFetch what happens there to a message that was fetched
 * @param uidValidity the generation of the message numbers below, once known
 * @param lastUid the last message number that was fetched
 * @param status how the last look into it went
 */
public record Mailbox(
        long id,
        String name,
        String address,
        Optional<TeamId> team,
        boolean watched,
        boolean plusAddressing,
        AfterFetch afterFetch,
        MailServer imap,
        String folder,
        MailServer smtp,
        Optional<Long> uidValidity,
        long lastUid,
        Status status,
        int version) {

    /** What email is called as a channel. */
    public static final String CHANNEL = "email";

    /** What happens to a message on its server once it is kept here. */
    public enum AfterFetch {
        MARK_READ("mark it as read"),
        DELETE("delete it there");

        private final String words;

        AfterFetch(String words) {
            this.words = words;
        }

        /** How a person reads it. */
        public String words() {
            return words;
        }
    }

    /** How the last look into a mailbox went. */
    public record Status(Health health, String reason, Optional<Instant> at) {}

    /** Whether mail comes in. */
    public enum Health {
        NEW,
        OK,
        FAILING
    }

    /** It as an address of ours on the channel email. */
    public OurAddress asAddress() {
        return new OurAddress(id, name, address, team);
    }

    /** The way by which a ticket comes to it. */
    public Way way() {
        return new Way(CHANNEL, OptionalLong.of(id));
    }
}

package rafter.app.arrival.mail;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.app.platform.Secrets;
import rafter.core.id.TicketNumber;

/** The signed mark in our reply address that tells which ticket an answer belongs to: {@code help+t4471.1a2b3c4d5e6f@}. */
public final class ReplyMark {

    private static final int SIGNATURE_LENGTH = 12;
    private static final Pattern MARKED = Pattern.compile(
            "[^@+]+\\+t(\\d{1,18})\\.([0-9a-f]{" + SIGNATURE_LENGTH + "})@.+", Pattern.CASE_INSENSITIVE);

    private ReplyMark() {}

    /** The mailbox's address with the mark of a ticket. */
    public static String address(Mailbox mailbox, TicketNumber ticket, byte[] secret) {
        int at = mailbox.address().indexOf('@');
        return mailbox.address().substring(0, at) + "+t" + ticket + "." + signature(ticket, secret)
                + mailbox.address().substring(at);
    }

    /** The ticket whose mark an address carries; nothing when it has none or a forged one. */
    public static Optional<TicketNumber> ticket(String address, byte[] secret) {
        Matcher found = MARKED.matcher(address.strip());
        if (!found.matches()) {
            return Optional.empty();
        }
        TicketNumber ticket = new TicketNumber(Long.parseLong(found.group(1)));
        return signature(ticket, secret).equalsIgnoreCase(found.group(2)) ? Optional.of(ticket) : Optional.empty();
    }

    /** The address without anything after a plus. */
    public static String plain(String address) {
        return address.replaceFirst("\\+[^@]*@", "@");
    }

    private static String signature(TicketNumber ticket, byte[] secret) {
        return Secrets.sign(secret, "ticket " + ticket).substring(0, SIGNATURE_LENGTH);
    }
}

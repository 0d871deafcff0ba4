package rafter.app.arrival.mail;

import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import rafter.app.platform.Secrets;

/** The signed mark in our reply address that tells which ticket an answer belongs to: {@code help+t4471.1a2b3c4d5e6f@}. */
public final class ReplyMark {

    private static final int SIGNATURE_LENGTH = 12;
    private static final Pattern MARKED = Pattern.compile(
            "[^@+]+\\+t(\\d{1,18})\\.([0-9a-f]{" + SIGNATURE_LENGTH + "})@.+", Pattern.CASE_INSENSITIVE);

    private ReplyMark() {}

    /** The mailbox's address with the mark of a ticket. */
    public static String address(Mailbox mailbox, long ticket, byte[] secret) {
        int at = mailbox.address().indexOf('@');
        return mailbox.address().substring(0, at) + "+t" + ticket + "." + signature(ticket, secret)
                + mailbox.address().substring(at);
    }

    /** The ticket whose mark an address carries; nothing when it has none or a forged one. */
    public static OptionalLong ticket(String address, byte[] secret) {
        Matcher found = MARKED.matcher(address.strip());
        if (!found.matches()) {
            return OptionalLong.empty();
        }
        long ticket = Long.parseLong(found.group(1));
        return signature(ticket, secret).equalsIgnoreCase(found.group(2))
                ? OptionalLong.of(ticket)
                : OptionalLong.empty();
    }

    /** The address without anything after a plus. */
    public static String plain(String address) {
        return address.replaceFirst("\\+[^@]*@", "@");
    }

    private static String signature(long ticket, byte[] secret) {
        return Secrets.sign(secret, "ticket " + ticket).substring(0, SIGNATURE_LENGTH);
    }
}

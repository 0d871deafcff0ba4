package rafter.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A mail address as mails really carry it: not every address that receives mail keeps the rules of RFC 5322, so what is accepted is more
 * than what the rules allow, and what can be written to is asked apart.
 *
 * @param local what stands before the last {@code @}, in lower case; may be a quoted string
 * @param domain what stands behind it, in lower case
 */
public record MailAddress(String local, String domain) {

    static final int LONGEST_LOCAL = 128;
    static final int LONGEST_DOMAIN = 255;
    /** What ends an address within running text. */
    private static final String ENDS = "<>()[],;:\"'`|{}\\ \t\r\n\u00a0";

    /**
     * Reads one address, with or without brackets around it. A route before it (RFC 5321, appendix C) is left out, and quotes around a local
     * part that needs none.
     *
     * @return nothing when it is no address
     */
    public static Optional<MailAddress> of(String written) {
        String plain = withoutRoute(withoutBrackets(written.strip()));
        int at = plain.lastIndexOf('@');
        if (at < 1 || at > LONGEST_LOCAL || plain.length() - at - 1 > LONGEST_DOMAIN) {
            return Optional.empty();
        }
        String local = unquoted(plain.substring(0, at));
        String domain = plain.substring(at + 1);
        boolean quoted = local.startsWith("\"");
        boolean fits = !domain.isEmpty()
                && clean(domain, false)
                && domain.indexOf('@') < 0
                && clean(local, quoted)
                && (quoted || local.indexOf('@') < 0);
        return fits
                ? Optional.of(new MailAddress(local.toLowerCase(Locale.ROOT), domain.toLowerCase(Locale.ROOT)))
                : Optional.empty();
    }

    private static String withoutBrackets(String written) {
        return written.startsWith("<") && written.endsWith(">")
                ? written.substring(1, written.length() - 1).strip()
                : written;
    }

    private static String withoutRoute(String written) {
        return written.startsWith("@") ? written.substring(written.indexOf(':') + 1) : written;
    }

    /** Quotes that protect nothing are taken off, so that one mailbox has one name. */
    private static String unquoted(String local) {
        boolean quoted = local.length() > 2 && local.startsWith("\"") && local.endsWith("\"");
        String inner = quoted ? local.substring(1, local.length() - 1) : local;
        boolean needless = quoted
                && inner.chars().allMatch(c -> Character.isLetterOrDigit(c) || "!#$%&'*+-/=?^_`{|}~.".indexOf(c) >= 0);
        return needless ? inner : local;
    }

    private static boolean clean(String part, boolean quoted) {
        if (quoted && (part.length() < 3 || !part.endsWith("\""))) {
            return false;
        }
        return part.chars()
                .noneMatch(c -> c < 0x20
                        || c == 0x7f
                        || (c > 0x7f && c < 0xa0)
                        || "<>".indexOf(c) >= 0
                        || (!quoted && ENDS.indexOf(c) >= 0 && c != '\'' && "{}|`".indexOf(c) < 0));
    }

    /**
     * All addresses in running text, in order, each once.
     *
     * @param most how many at most; the rest of the text is not read
     */
    public static List<MailAddress> in(String text, int most) {
        var found = new ArrayList<MailAddress>();
        int from = 0;
        for (int at = text.indexOf('@'); at >= 0 && found.size() < most; at = text.indexOf('@', from)) {
            int start = at;
            while (start > from && at - start < LONGEST_LOCAL && !ends(text.charAt(start - 1))) {
                start--;
            }
            int end = at + 1;
            while (end < text.length() && end - at < LONGEST_DOMAIN && !ends(text.charAt(end))) {
                end++;
            }
            of(text.substring(start, end).replaceFirst("^[.=/&?!]+", "").replaceFirst("[.!?]+$", ""))
                    .filter(address -> !found.contains(address))
                    .ifPresent(found::add);
            from = Math.max(at + 1, end);
        }
        return found;
    }

    private static boolean ends(char c) {
        return c < 0x20 || ENDS.indexOf(c) >= 0;
    }

    /**
     * Whether mail can be sent to it as it stands: letters, digits and signs of ASCII alone, for more needs an extension that few servers
     * have. That its local part breaks the rules is no hindrance; there are such mailboxes.
     */
    public boolean writable() {
        return toString().chars().allMatch(c -> c > 0x20 && c < 0x7f)
                && !domain.startsWith(".")
                && !domain.endsWith(".")
                && !domain.contains("..");
    }

    /** This address without what follows a plus in its local part. */
    public MailAddress plain() {
        int plus = local.indexOf('+');
        return plus > 0 && !local.startsWith("\"") ? new MailAddress(local.substring(0, plus), domain) : this;
    }

    /** As it is kept and compared. */
    @Override
    public String toString() {
        return local + "@" + domain;
    }
}

package rafter.core.arrival;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import rafter.core.text.Words;

/**
 * By what junk is told from requests: the words of a mail, those of its subject apart, its sender’s domain, where its links lead, and how it was sent. A sign is
 * there or not; how often makes no difference, so that nobody wins by repeating a word.
 */
public final class JunkSigns {

    /** So much of a text is read; what comes later decides nothing. */
    private static final int MOST_WORDS = 600;

    private static final int LONGEST_WORD = 30;
    private static final Pattern LINK =
            Pattern.compile("https?://(?:www\\.)?([^\\s/<>\"]{1,100})[^\\s<>\"]{0,2000}", Pattern.CASE_INSENSITIVE);
    private static final int MANY_LINKS = 4;

    private JunkSigns() {}

    /** The signs of a mail. O(n). */
    public static Set<String> of(MailFacts.Mail mail) {
        var signs = new LinkedHashSet<String>();
        words(mail.subject()).forEach(word -> signs.add("subject:" + word));
        // An address is no words, but where it leads says something.
        signs.addAll(words(LINK.matcher(mail.text()).replaceAll(" ")));
        signs.add("sender:" + mail.domain());
        List<String> links = LINK.matcher(mail.text())
                .results()
                .limit(MANY_LINKS)
                .map(found -> "link:" + found.group(1).toLowerCase(Locale.ROOT))
                .toList();
        signs.addAll(links);
        if (!links.isEmpty()) {
            signs.add(links.size() < MANY_LINKS ? "how:links" : "how:many links");
        }
        String header = mail.header().toLowerCase(Locale.ROOT);
        if (header.contains("list-unsubscribe:")) {
            signs.add("how:offers to unsubscribe");
        }
        if (mail.kind().automatic()) {
            signs.add("how:sent by a machine");
        }
        return signs;
    }

    private static List<String> words(String text) {
        return Words.list(text).stream()
                .limit(MOST_WORDS)
                .filter(word -> word.length() > 1 && word.length() <= LONGEST_WORD)
                // Numbers differ from mail to mail and would only be learned by heart.
                .map(word -> word.chars().allMatch(Character::isDigit) ? "a number" : word)
                .toList();
    }

    /** A sign in words, for people. */
    public static String said(String sign) {
        if (sign.startsWith("subject:")) {
            return "“" + sign.substring("subject:".length()) + "” in the subject";
        }
        if (sign.startsWith("sender:")) {
            return "a sender at " + sign.substring("sender:".length());
        }
        if (sign.startsWith("link:")) {
            return "a link to " + sign.substring("link:".length());
        }
        return sign.startsWith("how:") ? sign.substring("how:".length()) : "“" + sign + "”";
    }
}

package rafter.app.tickets.writing;

import java.time.ZoneId;
import java.util.stream.Collectors;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.database.tables.records.MessageRecord;

/** What an answer says it answers: the message before it, below the writer's own words. */
public final class Quotation {

    private static final int LONGEST = 20_000;

    private Quotation() {}

    static String text(MessageRecord message, ZoneId zone) {
        return said(message, zone) + "\n"
                + words(message).lines().map(line -> "> " + line).collect(Collectors.joining("\n"));
    }

    static String html(MessageRecord message, ZoneId zone) {
        return SafeHtml.fromText(said(message, zone)) + "<blockquote type=\"cite\">" + SafeHtml.fromText(words(message))
                + "</blockquote>";
    }

    /** A message as it is sent on to somebody else: who wrote what and when, below a line of one's own. */
    public static String forwarded(MessageRecord message, ZoneId zone) {
        return "<p><br></p>" + html(message, zone).replace(" type=\"cite\"", "");
    }

    private static String said(MessageRecord message, ZoneId zone) {
        return "On " + Say.exactly(message.getAt(), zone).replaceFirst(":\\d\\d \\S+$", "") + ", " + message.getAuthor()
                + " wrote:";
    }

    /** A quotation reminds; of a very long message its beginning is enough. */
    private static String words(MessageRecord message) {
        String text = message.getText();
        return text.length() > LONGEST ? text.substring(0, LONGEST) + " […]" : text;
    }
}

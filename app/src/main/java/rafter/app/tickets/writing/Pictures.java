package rafter.app.tickets.writing;

import java.util.Base64;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.platform.Say;
import rafter.app.platform.Secrets;
import rafter.core.id.TicketNumber;

/**
 * Pictures within what we write. While it is written each is a file of the draft, and the text refers to it by its address; what is sent carries
 * it as a part of its own (RFC 2392).
 */
@Component
class Pictures {

    private static final Set<String> TYPES = Set.of("image/png", "image/jpeg", "image/gif", "image/webp");
    private static final Pattern DATA = Pattern.compile("^data:(image/[a-z]+);base64,([A-Za-z0-9+/=\\s]+)$");
    private static final Pattern OURS = Pattern.compile("^/drafts/pictures/([a-z0-9]{10,40})$");

    private final DraftFiles drafts;
    private final Secrets secrets;

    Pictures(DraftFiles drafts, Secrets secrets) {
        this.drafts = drafts;
        this.secrets = secrets;
    }

    /**
     * Makes what came from the editor safe, and files of the draft of the pictures that were pasted into it.
     *
     * @throws Problem.Invalid when they are too large together
     */
    String settle(TicketNumber ticket, Drafts.Kind kind, String written, Viewer by) {
        if (!written.contains("<img")) {
            return SafeHtml.own(written);
        }
        Document document = Jsoup.parseBodyFragment(written);
        for (Element img : document.select("img")) {
            String source = img.attr("src");
            Matcher data = DATA.matcher(source);
            if (data.matches() && TYPES.contains(data.group(1))) {
                img.attr("src", address(take(ticket, kind, data, by)));
            } else if (!OURS.matcher(source).matches()) {
                img.remove();
            }
        }
        document.outputSettings().prettyPrint(false);
        return SafeHtml.own(document.body().html());
    }

    private String take(TicketNumber ticket, Drafts.Kind kind, Matcher data, Viewer by) {
        try {
            byte[] content = Base64.getMimeDecoder().decode(data.group(2));
            return attach(ticket, kind, "picture." + data.group(1).substring(6), data.group(1), content, by);
        } catch (IllegalArgumentException broken) {
            throw new Problem.Invalid("A picture in the text cannot be read. Take it out; your text is saved.");
        }
    }

    /** Adds a picture to a draft; the same one again is the same. Gives the name by which the text refers to it. */
    String attach(TicketNumber ticket, Drafts.Kind kind, String name, String mediaType, byte[] content, Viewer by) {
        String type = mediaType.toLowerCase(Locale.ROOT);
        if (!TYPES.contains(type)) {
            throw new Problem.Invalid("“" + name + "” is no picture that a mail program shows ("
                    + Say.size(content.length) + "). Attach it as a file; your text is saved.");
        }
        return drafts.picture(
                ticket, kind, name, type, content, "p" + secrets.randomWord(16).toLowerCase(Locale.ROOT), by);
    }

    /** Where the picture of this name is to be had while it is in a draft. */
    static String address(String contentId) {
        return "/drafts/pictures/" + contentId;
    }

    /** Whether there are pictures in a text. */
    static boolean any(String html) {
        return html.contains("src=\"/drafts/pictures/");
    }

    /** A file goes along unless it is a picture that was taken out of the text again. */
    static boolean keeps(Drafts.DraftFile file, String html) {
        return file.contentId().isEmpty() || html.contains("\"" + address(file.contentId()) + "\"");
    }

    /** A text as it is kept: its pictures are files of its entry. */
    static String forEntry(String html) {
        return html.replaceAll("src=\"/drafts/pictures/([a-z0-9]+)\"", "data-cid=\"$1\"");
    }

    /** A text as it is sent: its pictures are parts of the mail. */
    static String sent(String html) {
        return html.replaceAll("src=\"/drafts/pictures/([a-z0-9]+)\"", "src=\"cid:$1\"");
    }
}

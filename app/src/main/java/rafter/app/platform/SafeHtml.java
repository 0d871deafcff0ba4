package rafter.app.platform;

import java.util.regex.Pattern;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.safety.Cleaner;
import org.jsoup.safety.Safelist;

/** Formatted text that is safe to show, and plain text from it. */
public final class SafeHtml {

    private static final Safelist OWN = Safelist.none()
            .addTags("p", "br", "strong", "b", "em", "i", "u", "s", "ul", "ol", "li", "a", "blockquote", "pre", "code")
            .addAttributes("a", "href")
            .addProtocols("a", "href", "http", "https", "mailto")
            .addEnforcedAttribute("a", "rel", "noopener noreferrer")
            .addTags("img")
            .addAttributes("img", "src", "alt");
    /** A picture of somebody's draft; no other is let through. */
    private static final Pattern PICTURE = Pattern.compile("/drafts/pictures/[a-z0-9]{10,40}");

    private SafeHtml() {}

    /** What somebody of ours wrote in the editor, reduced to what a mail may hold. */
    public static String own(String html) {
        Document clean = new Cleaner(OWN).clean(Jsoup.parseBodyFragment(html));
        clean.outputSettings().prettyPrint(false);
        clean.select("img").removeIf(img -> !PICTURE.matcher(img.attr("src")).matches());
        return clean.body().html().strip();
    }

    /** Whether there are any words in it. */
    public static boolean isBlank(String html) {
        return Jsoup.parseBodyFragment(html).text().replace('\u00a0', ' ').isBlank();
    }

    /** Plain text as paragraphs with its line breaks kept. */
    public static String fromText(String text) {
        var body = new Element("div");
        for (String paragraph : text.strip().split("\\n\\s*\\n")) {
            Element p = body.appendElement("p");
            String[] lines = paragraph.split("\\n");
            for (int i = 0; i < lines.length; i++) {
                if (i > 0) {
                    p.appendElement("br");
                }
                p.appendText(lines[i].stripTrailing());
            }
        }
        var settings = new Document.OutputSettings().prettyPrint(false);
        return body.children().stream().map(p -> outer(p, settings)).reduce("", String::concat);
    }

    private static String outer(Element element, Document.OutputSettings settings) {
        var holder = new Document("");
        holder.outputSettings(settings);
        holder.appendChild(element.clone());
        return holder.html();
    }

    /** Formatted text as a reader of plain mail should see it. */
    public static String toText(String html) {
        return HtmlLines.of(Jsoup.parseBodyFragment(html).body()).text(line -> true);
    }
}

package rafter.app.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.safety.Cleaner;
import org.jsoup.safety.Safelist;
import rafter.app.platform.SafeHtml;
import rafter.core.text.ReplyParts;
import rafter.core.text.ReplyStripper;

/**
 * Makes a customer's text safe to show: only known tags, no styles, no scripts; pictures that lie elsewhere wait until somebody asks
 * for them, those in the mail are found by their content id. The quoted rest and the signature are folded away.
 */
final class IncomingHtml {

    private static final Safelist SAFE = Safelist.relaxed()
            .removeTags("style")
            .addTags("hr", "s", "center", "font")
            .addAttributes("img", "data-cid", "data-remote")
            .removeAttributes("img", "src")
            .addEnforcedAttribute("a", "rel", "noopener noreferrer nofollow")
            .addEnforcedAttribute("a", "target", "_blank")
            .addProtocols("a", "href", "tel");
    private static final int MOST_CHARACTERS = 1_500_000;

    /**
     * @param html safe to show
     * @param own the author's own words in plain text
     */
    record Shown(String html, String own) {}

    private IncomingHtml() {}

    static Shown of(ReadMail mail) {
        Optional<Shown> formatted = mail.html().filter(html -> html.length() < MOST_CHARACTERS).map(IncomingHtml::formatted);
        return formatted.filter(shown -> !shown.html().isBlank()).orElseGet(() -> plain(mail.text()));
    }

    private static Shown plain(String text) {
        ReplyParts parts = ReplyStripper.strip(text);
        return new Shown(
                SafeHtml.fromText(parts.own()) + fold("Signature", parts.signature()) + fold("Earlier messages", parts.quoted()),
                parts.own());
    }

    private static String fold(String what, String text) {
        return text.isBlank() ? "" : "<details class=\"fold\"><summary>" + what + "</summary>" + SafeHtml.fromText(text) + "</details>";
    }

    private static Shown formatted(String html) {
        Document dirty = Jsoup.parse(html);
        dirty.select("img").forEach(IncomingHtml::holdBack);
        Document clean = new Cleaner(SAFE).clean(dirty);
        clean.outputSettings().prettyPrint(false);
        clean.select("img:not([data-cid]):not([data-remote])").remove();
        List<Node> quoted = cutQuoted(clean.body());
        List<Node> signature = cutSignature(clean.body());
        if (clean.body().text().isBlank() && clean.body().select("img").isEmpty()) {
            // Nothing of their own would be left, so it is all their own.
            clean.body().insertChildren(-1, signature);
            clean.body().insertChildren(-1, quoted);
            return new Shown(clean.body().html().strip(), SafeHtml.toText(clean.body().html()));
        }
        String own = SafeHtml.toText(clean.body().html());
        addFold(clean.body(), "Signature", signature);
        addFold(clean.body(), "Earlier messages", quoted);
        return new Shown(clean.body().html().strip(), own);
    }

    private static void holdBack(Element img) {
        String source = img.attr("src").strip();
        if (source.regionMatches(true, 0, "cid:", 0, 4)) {
            img.attr("data-cid", source.substring(4));
        } else if (source.startsWith("http://") || source.startsWith("https://")) {
            img.attr("data-remote", source);
        }
    }

    private static void addFold(Element body, String what, List<Node> nodes) {
        if (!nodes.isEmpty()) {
            Element details = body.appendElement("details").addClass("fold");
            details.appendElement("summary").text(what);
            details.insertChildren(-1, nodes);
        }
    }

    /** Cuts off everything from the place on where earlier messages begin. */
    private static List<Node> cutQuoted(Element body) {
        for (Element element : body.getAllElements()) {
            if (element != body && beginsQuote(element)) {
                return cutFrom(body, withAttribution(element));
            }
        }
        return List.of();
    }

    private static boolean beginsQuote(Element element) {
        if (element.nameIs("blockquote")) {
            return nothingOwnAfter(element) && hasOwnBefore(element);
        }
        boolean small = element.childrenSize() < 12 && element.wholeText().length() < 1500;
        if (!small || !element.isBlock() || !hasOwnBefore(element)) {
            return false;
        }
        String text = SafeHtml.toText(element.outerHtml());
        return ReplyStripper.isHeaderBlock(text) || ReplyStripper.isDivider(text.strip())
                || ReplyStripper.isAttribution(text) && followedByQuote(element);
    }

    private static boolean followedByQuote(Element attribution) {
        Element next = attribution.nextElementSibling();
        return next == null || next.nameIs("blockquote") || !next.select("blockquote").isEmpty();
    }

    /** The line above a quote that says whose it is belongs to it. */
    private static Node withAttribution(Element quote) {
        Node before = quote.previousSibling();
        while (before != null && isNothing(before)) {
            before = before.previousSibling();
        }
        if (before == null) {
            return quote;
        }
        String text = before instanceof Element e ? e.text() : before instanceof TextNode t ? t.text() : "";
        return ReplyStripper.isAttribution(text) ? before : quote;
    }

    private static boolean isNothing(Node node) {
        return node instanceof TextNode text && text.isBlank() || node.nameIs("br");
    }

    private static boolean nothingOwnAfter(Element element) {
        for (Node at = element; at != null && !at.nameIs("body"); at = at.parent()) {
            for (Node next = at.nextSibling(); next != null; next = next.nextSibling()) {
                boolean words = next instanceof TextNode text ? !text.isBlank()
                        : next instanceof Element e && !e.nameIs("blockquote") && !e.text().isBlank();
                if (words) {
                    return false;
                }
            }
        }
        return true;
    }

    private static boolean hasOwnBefore(Node node) {
        for (Node at = node; at != null && !at.nameIs("body"); at = at.parent()) {
            for (Node before = at.previousSibling(); before != null; before = before.previousSibling()) {
                if (before instanceof TextNode text ? !text.isBlank() : before instanceof Element e && e.hasText()) {
                    return true;
                }
            }
        }
        return false;
    }

    private static List<Node> cutSignature(Element body) {
        for (Element element : body.getAllElements()) {
            String own = element.ownText().strip();
            if (element != body && (own.equals("--") || ReplyStripper.isSignatureMark(own)) && hasOwnBefore(element)) {
                return cutFrom(body, element);
            }
        }
        for (TextNode text : body.textNodes()) {
            if (ReplyStripper.isSignatureMark(text.text().strip()) && hasOwnBefore(text)) {
                return cutFrom(body, text);
            }
        }
        return List.of();
    }

    /** Takes a node and all that follows it in the document out of it. */
    private static List<Node> cutFrom(Element body, Node first) {
        var cut = new ArrayList<Node>();
        Node at = first;
        while (at != null && at != body) {
            Node parent = at.parent();
            Node next = at == first ? at : at.nextSibling();
            while (next != null) {
                Node following = next.nextSibling();
                next.remove();
                cut.add(next);
                next = following;
            }
            at = parent;
        }
        return cut;
    }
}

package rafter.app.arrival.intake;

import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.safety.Cleaner;
import org.jsoup.safety.Safelist;
import rafter.app.platform.HtmlLines;
import rafter.app.platform.SafeHtml;
import rafter.core.text.Earlier;
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
            .addAttributes(":all", HtmlLines.QUOTE)
            .addAttributes("img", "data-cid", "data-remote")
            .removeAttributes("img", "src")
            .addEnforcedAttribute("a", "rel", "noopener noreferrer nofollow")
            .addEnforcedAttribute("a", "target", "_blank")
            .addProtocols("a", "href", "tel");
    /** How mail programs call what holds an earlier message. */
    private static final Pattern QUOTING = Pattern.compile(
            "(^|[ _-])(quot(e|ed|ation|ing)|cite|citation|reply-?intro|divrplyfwdmsg|olk_src_body_section)($|[ _-]|container|content|text|s$)");

    private static final String SIGNATURE = "Signature";
    private static final String EARLIER = "Earlier messages";

    /**
     * A mail as it is shown.
     *
     * @param html safe to show
     * @param own the author's own words in plain text
     * @param folded what is folded away, in plain text
     */
    public record Shown(String html, String own, String folded) {}

    private IncomingHtml() {}

    /** Shows a mail of which nothing is known but itself. */
    static Shown of(ReadMail mail) {
        return of(mail, Earlier.NOTHING);
    }

    /**
     * Shows a mail.
     *
     * @param earlier what was said before in its conversation
     */
    static Shown of(ReadMail mail, Earlier earlier) {
        Earlier known = mail.passedOn() ? Earlier.NOTHING : earlier;
        if (mail.words().stream().noneMatch(ReadMail.Words::formatted)) {
            return plain(mail.words().stream().map(ReadMail.Words::text).collect(Collectors.joining("\n\n")), known);
        }
        return formatted(mail.words(), known);
    }

    private static Shown plain(String text, Earlier earlier) {
        ReplyParts parts = ReplyStripper.strip(text, earlier);
        return new Shown(
                SafeHtml.fromText(parts.own()) + fold(SIGNATURE, parts.signature()) + fold(EARLIER, parts.quoted()),
                parts.own(),
                (parts.signature() + "\n\n" + parts.quoted()).strip());
    }

    private static String fold(String what, String text) {
        return text.isBlank()
                ? ""
                : "<details class=\"fold\"><summary>" + what + "</summary>" + SafeHtml.fromText(text) + "</details>";
    }

    private static Shown formatted(List<ReadMail.Words> all, Earlier earlier) {
        Document clean = clean(all);
        Element body = clean.body();
        HtmlLines read = HtmlLines.of(body);
        ReplyStripper.Cut cut = ReplyStripper.cut(read.lines(), earlier);
        String own = read.text(line -> !cut.quoted(line) && !cut.signature(line));
        String folded = read.text(line -> cut.quoted(line) || cut.signature(line));
        List<Node> quoted = read.take(cut.quotedFrom(), cut.quotedTo());
        List<Node> signature = read.take(cut.signatureFrom(), cut.signatureTo());
        addFold(body, SIGNATURE, signature);
        addFold(body, EARLIER, quoted);
        body.getElementsByAttribute(HtmlLines.QUOTE).removeAttr(HtmlLines.QUOTE);
        return new Shown(body.html().strip(), own, folded);
    }

    /** All texts as one safe document. */
    private static Document clean(List<ReadMail.Words> all) {
        Document whole = Document.createShell("");
        for (ReadMail.Words one : all) {
            Element place = all.size() == 1 ? whole.body() : whole.body().appendElement("div");
            if (!one.formatted()) {
                place.append(SafeHtml.fromText(one.text()));
            } else {
                Document dirty = Tangles.parse(one.text());
                dirty.getAllElements().forEach(IncomingHtml::mark);
                place.insertChildren(-1, new Cleaner(SAFE).clean(dirty).body().childNodesCopy());
            }
        }
        whole.outputSettings().prettyPrint(false);
        whole.body().select("img:not([data-cid]):not([data-remote])").remove();
        return whole;
    }

    /** Says of an element what the cleaning takes away: whether it quotes, and where its picture lies. */
    private static void mark(Element element) {
        element.removeAttr(HtmlLines.QUOTE);
        if (element.nameIs("img")) {
            holdBack(element);
            return;
        }
        boolean cites = element.nameIs("blockquote") && element.attr("type").equalsIgnoreCase("cite");
        String names = (element.className() + " " + element.id()).toLowerCase(Locale.ROOT);
        if (cites
                || (names.length() > 1
                        && names.length() < 500
                        && QUOTING.matcher(names).find())) {
            element.attr(HtmlLines.QUOTE, "holds");
        }
    }

    private static void holdBack(Element img) {
        String source = img.attr("src").strip();
        img.removeAttr("data-cid").removeAttr("data-remote");
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
}

package rafter.app.platform;

import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.safety.Cleaner;
import org.jsoup.safety.Safelist;
import org.jsoup.select.NodeTraversor;
import org.jsoup.select.NodeVisitor;

/** Formatted text that is safe to show, and plain text from it. */
public final class SafeHtml {

    private static final Safelist OWN = Safelist.none()
            .addTags("p", "br", "strong", "b", "em", "i", "u", "s", "ul", "ol", "li", "a", "blockquote", "pre", "code")
            .addAttributes("a", "href")
            .addProtocols("a", "href", "http", "https", "mailto")
            .addEnforcedAttribute("a", "rel", "noopener noreferrer");

    private SafeHtml() {}

    /** What somebody of ours wrote in the editor, reduced to what a mail may hold. */
    public static String own(String html) {
        Document clean = new Cleaner(OWN).clean(Jsoup.parseBodyFragment(html));
        clean.outputSettings().prettyPrint(false);
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
        var text = new StringBuilder();
        NodeTraversor.traverse(new PlainText(text), Jsoup.parseBodyFragment(html).body());
        return text.toString().replaceAll("[ \\t]+\\n", "\n").replaceAll("\\n{3,}", "\n\n").strip();
    }

    private record PlainText(StringBuilder out) implements NodeVisitor {
        @Override
        public void head(Node node, int depth) {
            if (node instanceof TextNode words) {
                out.append(words.text().replace('\u00a0', ' '));
            } else if (node.nameIs("br")) {
                out.append('\n');
            } else if (node.nameIs("li")) {
                startLine();
                out.append("  - ");
            } else if (node instanceof Element e && e.isBlock() && !e.nameIs("ul") && !e.nameIs("ol")) {
                startLine();
            }
        }

        @Override
        public void tail(Node node, int depth) {
            if (node.nameIs("p") || node.nameIs("ul") || node.nameIs("ol") || node.nameIs("table")) {
                out.append("\n\n");
            } else if (node.nameIs("a") && !node.attr("href").isEmpty()) {
                String words = ((Element) node).text();
                String target = node.attr("href").replaceFirst("^mailto:", "");
                out.append(words.equals(target) ? "" : " <" + target + ">");
            } else if (node instanceof Element e && e.isBlock()) {
                startLine();
            } else if (node.nameIs("td") || node.nameIs("th")) {
                out.append(' ');
            }
        }

        private void startLine() {
            if (!out.isEmpty() && out.charAt(out.length() - 1) != '\n') {
                out.append('\n');
            }
        }
    }
}

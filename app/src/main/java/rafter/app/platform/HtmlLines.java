package rafter.app.platform;

import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.select.NodeFilter;
import org.jsoup.select.NodeTraversor;
import org.jsoup.select.NodeVisitor;
import rafter.core.text.TextLine;

/**
 * Formatted text as the lines that a reader of plain mail should see, and where in the document each came from. Made in one walk: O(n) for n
 * nodes.
 */
public final class HtmlLines {

    /**
     * An attribute of elements in which a mail program says that it quotes: {@code block} for one that is a quotation itself, anything else for
     * one that holds quotations.
     */
    public static final String QUOTE = "data-quote";

    /** The lines that a node lies on, both inclusive. */
    private record Place(int first, int last) {}

    private final Element body;
    private final List<TextLine> lines;
    private final Map<Node, Place> places;

    private HtmlLines(Element body, List<TextLine> lines, Map<Node, Place> places) {
        this.body = body;
        this.lines = lines;
        this.places = places;
    }

    /** Reads the body of a document. */
    public static HtmlLines of(Element body) {
        var walk = new Walk();
        NodeTraversor.traverse(walk, body);
        walk.endLine();
        return new HtmlLines(body, walk.lines, walk.places);
    }

    /** The lines in order; blank ones stand between paragraphs. */
    public List<TextLine> lines() {
        return lines;
    }

    /** The text of these lines, without more than one blank line in a row. */
    public String text(IntPredicate wanted) {
        var some = new ArrayList<String>();
        for (int i = 0; i < lines.size(); i++) {
            if (wanted.test(i)) {
                some.add(lines.get(i).text().stripTrailing());
            }
        }
        return some.stream()
                .collect(Collectors.joining("\n"))
                .replaceAll("\\n{3,}", "\n\n")
                .strip();
    }

    /** Takes out of the document what lies on lines {@code [from, to)} alone, and gives it in its order. */
    public List<Node> take(int from, int to) {
        var taken = new ArrayList<Node>();
        if (from >= to) {
            return taken;
        }
        NodeTraversor.filter(
                new NodeFilter() {
                    @Override
                    @SuppressWarnings("ReferenceEquality") // the body itself, not one that looks like it
                    public FilterResult head(Node node, int depth) {
                        Place place = places.get(node);
                        boolean within = node != body && place != null && place.first() >= from && place.last() < to;
                        if (within) {
                            taken.add(node);
                        }
                        return within ? FilterResult.SKIP_ENTIRELY : FilterResult.CONTINUE;
                    }

                    @Override
                    public FilterResult tail(Node node, int depth) {
                        return FilterResult.CONTINUE;
                    }
                },
                body);
        taken.forEach(Node::remove);
        return taken;
    }

    @SuppressWarnings("IdentityHashMapUsage") // nodes that look alike are different ones
    private static final class Walk implements NodeVisitor {
        private final List<TextLine> lines = new ArrayList<>();
        private final Map<Node, Place> places = new IdentityHashMap<>();
        private final Map<Node, Integer> begun = new IdentityHashMap<>();
        private final StringBuilder line = new StringBuilder();
        private int depth;
        private int sure;
        private int preformatted;
        private int lineDepth;
        private boolean lineSure;

        @Override
        public void head(Node node, int level) {
            if (node instanceof TextNode text) {
                words(text);
                return;
            }
            if (!(node instanceof Element element)) {
                return;
            }
            boolean block = element.isBlock() && !element.nameIs("ul") && !element.nameIs("ol");
            if (block && !line.isEmpty()) {
                endLine();
            }
            begun.put(node, lines.size());
            quotes(element, 1);
            preformatted += element.nameIs("pre") ? 1 : 0;
            if (element.nameIs("li")) {
                startWithin("  - ");
            }
        }

        private void startWithin(String mark) {
            if (!line.isEmpty()) {
                endLine();
            }
            lineDepth = depth;
            lineSure = sure > 0;
            line.append(mark);
        }

        private void words(TextNode text) {
            int first = lines.size();
            if (preformatted > 0) {
                String[] all = text.getWholeText().split("\n", -1);
                for (int i = 0; i < all.length; i++) {
                    if (i > 0) {
                        endLine();
                    }
                    append(all[i].replace("\r", ""));
                }
            } else {
                append(text.text().replace('\u00a0', ' '));
            }
            places.put(text, new Place(first, lines.size()));
        }

        private void append(String words) {
            if (line.isEmpty()) {
                lineDepth = depth;
                lineSure = sure > 0;
            }
            line.append(line.isEmpty() && preformatted == 0 ? words.stripLeading() : words);
        }

        void endLine() {
            boolean quoted = lineDepth > 0 && !line.isEmpty();
            lines.add(new TextLine(line.toString(), quoted ? lineDepth : 0, quoted && lineSure));
            line.setLength(0);
        }

        @Override
        public void tail(Node node, int level) {
            if (node.nameIs("br")) {
                endLine();
            } else if (node.nameIs("p") || node.nameIs("ul") || node.nameIs("ol") || node.nameIs("table")) {
                finish();
                endLine();
            } else if (node.nameIs("a") && !node.attr("href").isEmpty()) {
                link((Element) node);
            } else if (node instanceof Element e && e.isBlock()) {
                finish();
            } else if (node.nameIs("td") || node.nameIs("th")) {
                append(" ");
            }
            if (node instanceof Element element) {
                quotes(element, -1);
                preformatted -= element.nameIs("pre") ? 1 : 0;
                int last = line.isEmpty() ? Math.max(begun.getOrDefault(node, 0), lines.size() - 1) : lines.size();
                places.put(node, new Place(begun.getOrDefault(node, 0), last));
            }
        }

        private void finish() {
            if (!line.isEmpty()) {
                endLine();
            }
        }

        /** A link says where it leads, unless its words do. */
        private void link(Element link) {
            String target = link.attr("href").replaceFirst("^mailto:", "");
            boolean told = link.text().equals(target);
            if (!told) {
                append(" <" + target + ">");
            }
        }

        private void quotes(Element element, int step) {
            String mark = element.attr(QUOTE);
            boolean quote = element.nameIs("blockquote") || mark.equals("block");
            depth += quote ? step : 0;
            sure += mark.isEmpty() ? 0 : step;
        }
    }
}

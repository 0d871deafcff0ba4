package rafter.app.arrival.intake;

import java.util.ArrayDeque;
import java.util.Locale;
import java.util.Set;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import rafter.app.platform.SafeHtml;

/**
 * Parses HTML that strangers wrote. A browser's rules open unclosed formatting again within each block, so that a few bytes can make a great
 * many elements; how many they would be is counted beforehand, and what would be too many is read without its tags. O(n).
 */
final class Tangles {

    private static final int MOST_ELEMENTS = 60_000;
    private static final int DEEPEST = 2_000;
    private static final Set<String> FORMATTING =
            Set.of("a", "b", "big", "code", "em", "font", "i", "nobr", "s", "small", "strike", "strong", "tt", "u");
    private static final Set<String> EMPTY = Set.of(
            "br", "img", "hr", "meta", "link", "input", "col", "area", "base", "wbr", "source", "!doctype", "!--");

    private static final Set<String> ENDS_BY_ITSELF = Set.of("p", "li", "td", "th", "tr", "dt", "dd", "option");

    private Tangles() {}

    static Document parse(String html) {
        return tangled(html) ? Jsoup.parseBodyFragment(SafeHtml.fromText(withoutTags(html))) : Jsoup.parse(html);
    }

    /** Whether a parser would make too many elements of it, or too deep ones. */
    static boolean tangled(String html) {
        var open = new ArrayDeque<String>();
        int formatting = 0;
        long elements = 0;
        for (int at = html.indexOf('<'); at >= 0; at = html.indexOf('<', at + 1)) {
            boolean closes = at + 1 < html.length() && html.charAt(at + 1) == '/';
            String name = name(html, closes ? at + 2 : at + 1);
            if (name.isEmpty() || EMPTY.contains(name)) {
                elements++;
                continue;
            }
            if (closes && !open.isEmpty() && open.peek().equals(name)) {
                open.pop();
                formatting -= FORMATTING.contains(name) ? 1 : 0;
            } else if (!closes) {
                if (!open.isEmpty() && ENDS_BY_ITSELF.contains(name) && ENDS_BY_ITSELF.contains(open.peek())) {
                    open.pop();
                }
                elements += 1 + Math.min(formatting, 256);
                open.push(name);
                formatting += FORMATTING.contains(name) ? 1 : 0;
            } else {
                // Closed out of order: the formatting within is opened again.
                elements += Math.min(formatting, 256);
            }
            if (elements > MOST_ELEMENTS || formatting > 256 || open.size() > DEEPEST) {
                return true;
            }
        }
        return false;
    }

    private static String name(String html, int from) {
        int end = from;
        while (end < html.length()
                && end - from < 12
                && (Character.isLetterOrDigit(html.charAt(end))
                        || html.charAt(end) == '!'
                        || html.charAt(end) == '-')) {
            end++;
        }
        return html.substring(from, end).toLowerCase(Locale.ROOT);
    }

    private static String withoutTags(String html) {
        var plain = new StringBuilder();
        boolean within = false;
        for (int i = 0; i < html.length(); i++) {
            char c = html.charAt(i);
            if (c == '<') {
                within = true;
            } else if (c == '>' && within) {
                within = false;
                plain.append(' ');
            } else if (!within) {
                plain.append(c);
            }
        }
        return org.jsoup.parser.Parser.unescapeEntities(plain.toString(), false);
    }
}

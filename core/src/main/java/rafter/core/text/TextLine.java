package rafter.core.text;

import java.util.List;

/**
 * A line of a message as it is taken apart.
 *
 * @param text without the marks of quotation
 * @param depth how many quotations it lies in; zero: none
 * @param sure whether that is told by marks that nothing but a quotation has
 */
public record TextLine(String text, int depth, boolean sure) {

    /** The lines of plain text, in which quotations are marked with {@code >}. */
    public static List<TextLine> of(String plain) {
        return plain.replace("\r\n", "\n")
                .replace('\r', '\n')
                .lines()
                .map(TextLine::marked)
                .toList();
    }

    private static TextLine marked(String line) {
        int at = 0;
        int depth = 0;
        while (at < line.length()
                && (line.charAt(at) == '>'
                        || (line.charAt(at) == ' '
                                && depth > 0
                                && at + 1 < line.length()
                                && line.charAt(at + 1) == '>'))) {
            depth += line.charAt(at) == '>' ? 1 : 0;
            at++;
        }
        return new TextLine(line.substring(at), depth, true);
    }

    /** Whether it holds nothing but signs: a rule, a row of dots. */
    boolean wordless() {
        return text.chars().noneMatch(Character::isLetterOrDigit);
    }

    boolean blank() {
        return text.isBlank();
    }
}
